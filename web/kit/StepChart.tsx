import { daysBetween } from '@larder/core/day';
import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { curveStepAfter, line } from 'd3-shape';
import { quantity, shortDay } from './format';

interface Point {
  day: string;
  quantity: number;
}

interface StepChartProps {
  today: string;
  past: readonly { day: string; quantity: string }[];
  /** Changes to come: receipts positive, what must go out negative. */
  expected: readonly { day: string; quantity: string; document: string }[];
  reorderPoint: string | null;
  /** Drawn for a place as wide as a page's main part. */
  wide?: boolean;
}

/** Stock over time: solid past, dashed future, and the reorder point. */
export function StepChart({ today, past, expected, reorderPoint, wide = false }: StepChartProps) {
  const [width, height] = wide ? [840, 170] : [320, 150];
  const done: Point[] = past.map((point) => ({ day: point.day, quantity: Number(point.quantity) }));
  const now = done.at(-1)?.quantity ?? 0;
  const coming = future(today, now, expected);
  const first = done[0]?.day ?? today;
  const days = daysBetween(first, today);
  const ahead = Math.max(14, daysBetween(today, coming.at(-1)?.day ?? today) + 2);
  const x = scaleLinear([0, days + ahead], [6, width - 6]);
  const top = max([...done, ...coming], (point) => point.quantity) ?? 0;
  const y = scaleLinear([0, Math.max(top, Number(reorderPoint ?? 0), 1) * 1.15], [height - 24, 8]);
  const path = line<Point>(
    (point) => x(daysBetween(first, point.day)),
    (point) => y(Math.max(0, point.quantity)),
  ).curve(curveStepAfter);
  const next = expected.find((one) => Number(one.quantity) > 0);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={words(now, next, reorderPoint)} style={{ width: '100%', fontSize: wide ? 12 : 10.5 }}>
      <line x1="6" x2={width - 6} y1={y(0)} y2={y(0)} stroke="var(--quiet)" />
      {reorderPoint === null ? null : (
        <>
          <line x1="6" x2={width - 6} y1={y(Number(reorderPoint))} y2={y(Number(reorderPoint))} stroke="var(--quiet)" strokeDasharray="3 3" />
          <text x={width - 8} y={y(Number(reorderPoint)) - 3} textAnchor="end" fill="var(--quiet)">
            reorder at {quantity(reorderPoint)}
          </text>
        </>
      )}
      <path d={path(done) ?? ''} fill="none" stroke="var(--sage)" strokeWidth="1.8" />
      <path
        d={path([...coming, { day: addTo(first, days + ahead), quantity: coming.at(-1)?.quantity ?? now }]) ?? ''}
        fill="none"
        stroke="var(--slate)"
        strokeWidth="1.8"
        strokeDasharray="4 3"
      />
      <circle cx={x(days)} cy={y(Math.max(0, now))} r="4" fill="var(--damson)" />
      <text x={x(days)} y={height - 10} textAnchor="middle" fill="var(--quiet)">
        today
      </text>
      <text x="6" y={height - 10} fill="var(--quiet)">
        {shortDay(first, today)}
      </text>
      {next && next.day >= today ? (
        <text x={Math.min(x(daysBetween(first, next.day)), width - 70)} y="10" fill="var(--slate)">
          +{quantity(next.quantity)} {next.document}
        </text>
      ) : null}
    </svg>
  );
}

const addTo = (day: string, days: number) => new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** Stock as it will go, from today: what is overdue to go out counts today, what is overdue to come supports nothing. */
function future(today: string, now: number, expected: StepChartProps['expected']): Point[] {
  const points: Point[] = [{ day: today, quantity: now }];
  for (const change of expected) {
    const amount = Number(change.quantity);
    if (amount > 0 && change.day < today) continue;
    const last = points.at(-1) as Point;
    points.push({ day: change.day < today ? today : change.day, quantity: last.quantity + amount });
  }
  return points;
}

const words = (now: number, next: { quantity: string; document: string; day: string } | undefined, reorderPoint: string | null): string =>
  `${now} on hand today${next ? `, ${next.quantity} expected on ${shortDay(next.day)} with ${next.document}` : ''}${reorderPoint === null ? '' : `, reorder point ${reorderPoint}`}`;
