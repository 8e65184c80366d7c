import { daysBetween } from '@larder/core/day';
import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { curveStepAfter, line } from 'd3-shape';
import { price, shortDay } from './format';

interface PriceStepsProps {
  today: string;
  prices: readonly { day: string; price: string }[];
}

const width = 320;
const height = 120;

/** What something was bought at over time, a step for each change. */
export function PriceSteps({ today, prices }: PriceStepsProps) {
  const first = prices[0];
  const last = prices.at(-1);
  if (!first || !last) return <p className="quiet">Not ordered from here yet.</p>;
  const points = [...prices.map((one) => ({ day: one.day, value: Number(one.price) })), { day: today, value: Number(last.price) }];
  const x = scaleLinear([0, Math.max(1, daysBetween(first.day, today))], [6, width - 6]);
  const y = scaleLinear([0, (max(points, ({ value }) => value) ?? 1) * 1.25], [height - 22, 6]);
  const path = line<(typeof points)[number]>(
    (point) => x(daysBetween(first.day, point.day)),
    (point) => y(point.value),
  ).curve(curveStepAfter);
  const words = `From ${price(first.price)} on ${shortDay(first.day, today)} to ${price(last.price)} since ${shortDay(last.day, today)}, ${prices.length} steps`;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={words} style={{ width: '100%', maxWidth: 460, fontSize: 10.5 }}>
      <line x1="6" x2={width - 6} y1={y(0)} y2={y(0)} stroke="var(--quiet)" />
      <path d={path(points) ?? ''} fill="none" stroke="var(--sage)" strokeWidth="1.8" />
      <circle cx={x(daysBetween(first.day, today))} cy={y(Number(last.price))} r="4" fill="var(--damson)" />
      <text x="6" y={y(Number(first.price)) - 6} fill="var(--quiet)">
        {price(first.price)}
      </text>
      <text x={width - 6} y={y(Number(last.price)) - 8} textAnchor="end" fill="currentColor">
        {price(last.price)}
      </text>
      <text x="6" y={height - 8} fill="var(--quiet)">
        {shortDay(first.day, today)}
      </text>
      <text x={width - 6} y={height - 8} textAnchor="end" fill="var(--quiet)">
        today
      </text>
    </svg>
  );
}
