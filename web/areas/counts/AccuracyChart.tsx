import type { countAccuracy } from '@larder/contract/counts';
import type { ResponseOf } from '@larder/contract/endpoint';
import { scaleBand, scaleLinear } from 'd3-scale';
import { count, money, monthName } from '../../kit/format';

type Month = ResponseOf<typeof countAccuracy>['months'][number];
const [width, height, foot] = [640, 180, 38];
const shown = 12;

/** A column for each month: the share of lines that agreed, and how many were counted. */
export function AccuracyChart({ months }: { months: readonly Month[] }) {
  const last = months.slice(-shown);
  const x = scaleBand(
    last.map(({ month }) => month),
    [30, width - 6],
  )
    .paddingInner(0.3)
    .paddingOuter(0.1);
  const y = scaleLinear([0, 100], [height - foot, 14]);
  const share = ({ agreed, lines }: Month) => Math.round((100 * agreed) / lines);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={last.map((one) => `${monthName(one.month)}: ${share(one)} % of ${count(one.lines, 'line')} agreed`).join('; ')}
      style={{ width: '100%', fontSize: 12 }}
    >
      {[0, 50, 100].map((at) => (
        <g key={at}>
          <line x1="30" x2={width - 6} y1={y(at)} y2={y(at)} stroke="var(--rule)" />
          <text x="24" y={y(at) + 4} textAnchor="end" fill="var(--quiet)">
            {at} %
          </text>
        </g>
      ))}
      {last.map((one) => {
        const [left, wide] = [x(one.month) ?? 0, Math.min(x.bandwidth(), 60)];
        const middle = left + x.bandwidth() / 2;
        return (
          <g key={one.month}>
            <title>{`${monthName(one.month)}: ${one.agreed} of ${count(one.lines, 'line')} agreed${one.off === '' ? '' : `, ${money(one.off)} off`}`}</title>
            <rect x={middle - wide / 2} width={wide} y={y(share(one))} height={y(0) - y(share(one))} fill="var(--sage)" />
            <text x={middle} y={y(share(one)) - 4} textAnchor="middle" fill="var(--ink)">
              {share(one)} %
            </text>
            <text x={middle} y={height - 22} textAnchor="middle" fill="var(--quiet)">
              {monthName(one.month)}
            </text>
            <text x={middle} y={height - 7} textAnchor="middle" fill="var(--quiet)">
              {count(one.lines, 'line')}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
