import { addDays, daysBetween } from '@larder/core/day';
import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { area, curveStepAfter, line } from 'd3-shape';
import { shortDay } from '../../kit/format';
import { roughly } from './levelWords';

interface DemandChartProps {
  today: string;
  weeks: readonly { from: string; wanted: number }[];
  ahead: readonly { from: string; expected: number; low: number; high: number }[];
  /** What the best way said of the last weeks before they came. */
  said: readonly number[];
}

const [width, height] = [840, 240];
const foot = height - 24;

/** What was wanted week by week, solid; what was said of the last weeks and what is expected, dashed, with the band that holds four of five weeks. */
export function DemandChart({ today, weeks, ahead, said }: DemandChartProps) {
  const first = weeks[0]?.from ?? today;
  const days = daysBetween(first, ahead.at(-1)?.from ?? today) + 7;
  const x = scaleLinear([0, days], [6, width - 6]);
  const top = Math.max(max(weeks, ({ wanted }) => wanted) ?? 0, max(ahead, ({ high }) => high) ?? 0, 1);
  const y = scaleLinear([0, top * 1.08], [foot, 8]);
  const at = (day: string) => x(daysBetween(first, day));
  const path = line<{ from: string; many: number }>(
    ({ from }) => at(from),
    ({ many }) => y(many),
  ).curve(curveStepAfter);
  const band = area<(typeof ahead)[number]>(
    ({ from }) => at(from),
    ({ low }) => y(low),
    ({ high }) => y(high),
  ).curve(curveStepAfter);
  const tried = weeks.slice(weeks.length - said.length).map(({ from }, nth) => ({ from, many: said[nth] ?? 0 }));
  const next = ahead[0];
  const past = `Wanted in ${weeks.length} weeks, at most ${roughly(max(weeks, ({ wanted }) => wanted) ?? 0)} in one`;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`${past}; ${roughly(next?.expected ?? 0)} are expected next week, between ${roughly(next?.low ?? 0)} and ${roughly(next?.high ?? 0)}`}
      style={{ width: '100%', fontSize: 12 }}
    >
      <line x1="6" x2={width - 6} y1={foot} y2={foot} stroke="var(--quiet)" />
      <path d={band(closed(ahead)) ?? ''} fill="var(--slate)" opacity="0.18" />
      <path
        d={
          path(
            ended(
              weeks.map(({ from, wanted }) => ({ from, many: wanted })),
              today,
            ),
          ) ?? ''
        }
        fill="none"
        stroke="var(--sage)"
        strokeWidth="1.8"
      />
      <path d={path(ended(tried, today)) ?? ''} fill="none" stroke="var(--slate)" strokeWidth="1.2" strokeDasharray="2 3" />
      <path
        d={path(closed(ahead).map(({ from, expected }) => ({ from, many: expected }))) ?? ''}
        fill="none"
        stroke="var(--slate)"
        strokeWidth="1.8"
        strokeDasharray="4 3"
      />
      <line x1={at(today)} x2={at(today)} y1="8" y2={foot} stroke="var(--damson)" strokeWidth="1" />
      <text x={at(today)} y={height - 8} textAnchor="middle" fill="var(--quiet)">
        today
      </text>
      <text x="6" y={height - 8} fill="var(--quiet)">
        {shortDay(first, today)}
      </text>
      <text x="8" y={Math.max(16, y(top) + 4)} fill="var(--quiet)">
        {roughly(top)} a week
      </text>
    </svg>
  );
}

/** A stepped line goes on to where it ends. */
const ended = (points: { from: string; many: number }[], day: string) =>
  points.length === 0 ? [] : [...points, { from: day, many: points.at(-1)?.many ?? 0 }];

function closed<T extends { from: string }>(weeks: readonly T[]): T[] {
  const last = weeks.at(-1);
  return last ? [...weeks, { ...last, from: addDays(last.from, 7) }] : [];
}
