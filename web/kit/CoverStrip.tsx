import { scaleLog } from 'd3-scale';
import { Link } from 'react-router';

interface Cover {
  itemId: number;
  sku: string;
  name: string;
  days: number;
  leadDays: number;
  state: 'out' | 'low' | 'fine';
}

const width = 1180;
const ticks = [1, 2, 5, 10, 20, 40, 80, 160, 320];
const colours = { out: 'var(--brick)', low: 'var(--quince)', fine: 'var(--sage)' };

/** One dot for each item: days until it runs out at the present rate. Dots that fall together are stacked; the shape tells the state. */
export function CoverStrip({ cover }: { cover: readonly Cover[] }) {
  const x = scaleLog([1, 400], [20, width - 20]).clamp(true);
  const stacks = new Map<number, number>();
  const dots = [...cover]
    .sort((a, b) => a.days - b.days)
    .map((item) => {
      const at = Math.round(x(Math.max(1, item.days)) / 11) * 11;
      const level = stacks.get(at) ?? 0;
      stacks.set(at, level + 1);
      return { item, at, level };
    });
  const tallest = Math.min(9, Math.max(3, ...stacks.values()));
  const base = tallest * 11 + 14;
  const lead = cover.length > 0 ? cover.reduce((sum, item) => sum + item.leadDays, 0) / cover.length : 7;
  return (
    <svg viewBox={`0 0 ${width} ${base + 24}`} role="group" aria-label="Days of cover, one dot an item" style={{ width: '100%', fontSize: 11 }}>
      <line x1={x(lead)} x2={x(lead)} y1="2" y2={base} stroke="var(--ink)" strokeDasharray="3 3" />
      <line x1="10" x2={width - 10} y1={base} y2={base} stroke="var(--quiet)" />
      {ticks.map((days) => (
        <text key={days} x={x(days)} y={base + 16} textAnchor="middle" fill="var(--quiet)">
          {days} d
        </text>
      ))}
      {dots.map(({ item, at, level }) => (
        <Link key={item.itemId} to={`/items/${item.itemId}`} aria-label={`${item.name}: ${Math.floor(item.days)} days`} tabIndex={-1}>
          <title>{`${item.sku} ${item.name}: ${Math.floor(item.days)} days`}</title>
          {item.state === 'out' ? (
            <path d={`M${at - 4} ${base - 11 - Math.min(level, 8) * 11}l8 8m0 -8l-8 8`} stroke={colours.out} strokeWidth="2.4" />
          ) : (
            <circle
              cx={at}
              cy={base - 7 - Math.min(level, 8) * 11}
              r="4.3"
              fill={item.state === 'low' ? 'var(--card)' : colours.fine}
              stroke={colours[item.state]}
              strokeWidth={item.state === 'low' ? 2.6 : 1}
            />
          )}
        </Link>
      ))}
    </svg>
  );
}
