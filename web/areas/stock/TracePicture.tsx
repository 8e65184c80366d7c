import type { ResponseOf } from '@larder/contract/endpoint';
import type { Lot, traceLot, TraceRow } from '@larder/contract/lots';
import { decimal } from '@larder/core/decimal';
import { isOwned, type PlaceKind } from '@larder/core/ledger/types';
import { netOf, pictureOf, type Flow, type PictureNode } from '@larder/core/stock/tracePicture';
import { sankey, sankeyLinkHorizontal } from 'd3-sankey';
import { quantity } from '../../kit/format';
import { Card } from '../../kit/layout';

type Trace = ResponseOf<typeof traceLot>;
const width = 760;
/** Room for the words at the left and right of the flows. */
const words = 215;
const rowHeight = 34;

const flowOf = (row: TraceRow): Flow => ({
  key: `${row.who} ${row.document?.number ?? ''}`,
  words: [row.who, row.document?.number].filter(Boolean).join(', '),
  quantity: netOf(row),
});
const colours: Readonly<Record<PictureNode['side'], string>> = {
  came: 'var(--slate)',
  lot: 'var(--damson)',
  here: 'var(--sage)',
  held: 'var(--quince)',
  went: 'var(--damson)',
};

/** Where a lot came from and where all of it is now, as flows as wide as there are many. */
export function TracePicture({ lot, trace }: { lot: Lot; trace: Trace }) {
  const here = lot.places
    .filter(({ kind }) => isOwned(kind as PlaceKind) && kind !== 'holder')
    .map(({ placeId, where, quantity: many }): Flow => ({ key: String(placeId), words: where, quantity: decimal(many) }));
  const { nodes, links } = pictureOf({ came: trace.came.map(flowOf), here, held: trace.held.map(flowOf), went: trace.went.map(flowOf) }, lot.code);
  if (links.length < 2) return null;
  const rows = Math.max(nodes.filter(({ side }) => side === 'came').length, nodes.filter(({ side }) => side !== 'came' && side !== 'lot').length);
  const height = Math.max(120, rows * rowHeight);
  const layout = sankey<PictureNode, { words: string }>()
    .nodeId(({ key }) => key)
    .nodeWidth(10)
    .nodePadding(16)
    .extent([
      [words, 8],
      [width - words, height - 8],
    ])
    .nodeSort(null);
  const drawn = layout({
    nodes: nodes.map((node) => ({ ...node })),
    links: links.map(({ from, to, quantity: many }) => ({ source: from, target: to, value: many.toNumber(), words: many.toFixed() })),
  });
  const line = sankeyLinkHorizontal();
  const told = links.map(({ from, to, quantity: many }) => {
    const of = (key: string) => nodes.find((node) => node.key === key)?.words ?? '';
    return from === 'lot' ? `${many.toFixed()} to ${of(to)}` : `${many.toFixed()} from ${of(from)}`;
  });
  return (
    <Card aria-label="As a picture">
      <h2>
        From where to where<span>what went back is taken off</span>
      </h2>
      <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={told.join('; ')} style={{ width: '100%', fontSize: 12 }}>
        {drawn.links.map((link, index) => {
          const target = link.target as PictureNode;
          return (
            <path
              key={index}
              d={line(link) ?? ''}
              fill="none"
              stroke={colours[target.side === 'lot' ? 'came' : target.side]}
              strokeOpacity={0.35}
              strokeWidth={Math.max(1.5, link.width ?? 0)}
            >
              <title>{told[index]}</title>
            </path>
          );
        })}
        {drawn.nodes.map((node) => {
          const [left, right, top, bottom] = [node.x0 ?? 0, node.x1 ?? 0, node.y0 ?? 0, node.y1 ?? 0];
          const isLeft = node.side === 'came';
          const middle = (top + bottom) / 2;
          return (
            <g key={node.key}>
              <rect x={left} y={top} width={right - left} height={Math.max(2, bottom - top)} fill={colours[node.side]} />
              {node.side === 'lot' ? (
                <text x={(left + right) / 2} y={Math.max(12, top - 4)} textAnchor="middle" fill="var(--ink)" fontWeight="600">
                  {node.words}
                </text>
              ) : (
                <text x={isLeft ? left - 8 : right + 8} y={middle + 4} textAnchor={isLeft ? 'end' : 'start'} fill="var(--ink)">
                  {quantity(String(node.value ?? 0))} {node.side === 'held' ? `on loan: ${short(node.words)}` : short(node.words)}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </Card>
  );
}

const short = (text: string): string => (text.length > 30 ? `${text.slice(0, 29)}…` : text);
