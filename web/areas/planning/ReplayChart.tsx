import { addDays } from '@larder/core/day';
import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { curveStepAfter, line } from 'd3-shape';
import { shortDay } from '../../kit/format';
import { roughly } from './levelWords';

interface ReplayChartProps {
  from: string;
  today: string;
  suggested: readonly number[];
  now: readonly number[] | null;
}

const [width, height] = [840, 150];
const foot = height - 22;

/** The stock there would have been over the last year: with the levels there are, and with those suggested. */
export function ReplayChart({ from, today, suggested, now }: ReplayChartProps) {
  const top = Math.max(max(suggested) ?? 0, max(now ?? []) ?? 0, 1);
  const x = scaleLinear([0, suggested.length], [6, width - 6]);
  const y = scaleLinear([0, top * 1.1], [foot, 8]);
  const path = line<number>(
    (_, day) => x(day),
    (many) => y(many),
  ).curve(curveStepAfter);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Stock there would have been since ${shortDay(from, today)}: at most ${roughly(max(suggested) ?? 0)} as suggested${now ? `, at most ${roughly(max(now) ?? 0)} as it is` : ''}`}
      style={{ width: '100%', fontSize: 12 }}
    >
      <line x1="6" x2={width - 6} y1={foot} y2={foot} stroke="var(--quiet)" />
      {now ? <path d={path(now) ?? ''} fill="none" stroke="var(--quiet)" strokeWidth="1.2" strokeDasharray="3 2" /> : null}
      <path d={path(suggested) ?? ''} fill="none" stroke="var(--sage)" strokeWidth="1.6" />
      <text x="6" y={height - 6} fill="var(--quiet)">
        {shortDay(from, today)}
      </text>
      <text x={width - 6} y={height - 6} textAnchor="end" fill="var(--quiet)">
        {shortDay(addDays(from, suggested.length), today)}
      </text>
    </svg>
  );
}
