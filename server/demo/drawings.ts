import sharp from 'sharp';
import type { Act } from '../act';
import { addPicture } from '../areas/catalog/pictures';
import type { Goods } from './larkmoor';

const sheet = (ground: string, shapes: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 320 320" width="640" height="640"><rect width="320" height="320" fill="${ground}"/>${shapes}</svg>`;
const jar = (lid: string): string =>
  sheet(
    '#f7efdc',
    `<rect x="104" y="56" width="112" height="36" rx="8" fill="${lid}" stroke="#2b2430" stroke-width="4"/><path d="M96 96h128q18 18 18 44v112q0 24-24 24h-116q-24 0-24-24v-112q0-26 18-44z" fill="#fffdf8" stroke="#2b2430" stroke-width="5"/><path d="M82 156h156v94q0 22-22 22h-112q-22 0-22-22z" fill="#d99a2b"/><rect x="112" y="180" width="96" height="56" rx="6" fill="#fffdf8"/><path d="M132 200h56M140 216h40" stroke="#2b2430" stroke-width="5" stroke-linecap="round"/>`,
  );
const hexagon = (x: number, y: number, fill: string): string =>
  `<path d="M${x} ${y - 42}l36 21v42l-36 21l-36-21v-42z" fill="${fill}" stroke="#2b2430" stroke-width="4"/>`;

/** Simple drawings, one for each sort of goods. */
const drawings: Record<string, string> = {
  'jar gold': jar('#d9b44a'),
  'jar white': jar('#f4f1ea'),
  'jar black': jar('#3a3440'),
  hive: sheet(
    '#e6ecdf',
    '<path d="M60 96l100-36l100 36v16h-200z" fill="#8c8f94" stroke="#2b2430" stroke-width="5"/><rect x="76" y="112" width="168" height="72" fill="#d8b27a" stroke="#2b2430" stroke-width="5"/><rect x="76" y="184" width="168" height="72" fill="#c99f62" stroke="#2b2430" stroke-width="5"/><path d="M128 148h64M128 220h64" stroke="#2b2430" stroke-width="8" stroke-linecap="round"/><rect x="64" y="256" width="192" height="16" fill="#8a6a3c" stroke="#2b2430" stroke-width="5"/>',
  ),
  suit: sheet(
    '#eee7ea',
    '<circle cx="160" cy="84" r="44" fill="#fffdf8" stroke="#2b2430" stroke-width="5"/><path d="M132 80h56M132 92h56" stroke="#6d6470" stroke-width="3"/><path d="M100 136h120l28 92-34 10-10-34v76h-88v-76l-10 34-34-10z" fill="#fffdf8" stroke="#2b2430" stroke-width="5" stroke-linejoin="round"/><path d="M160 136v144" stroke="#2b2430" stroke-width="4"/>',
  ),
  tool: sheet(
    '#e3e6ea',
    '<rect x="88" y="128" width="96" height="128" rx="12" fill="#b9bec6" stroke="#2b2430" stroke-width="5"/><path d="M96 128l64-56l40 40l-20 16z" fill="#9aa1ab" stroke="#2b2430" stroke-width="5"/><path d="M184 148l56-16v96l-56-12z" fill="#8a5a3c" stroke="#2b2430" stroke-width="5"/>',
  ),
  extractor: sheet(
    '#e3e6ea',
    '<ellipse cx="160" cy="104" rx="84" ry="24" fill="#dfe3e8" stroke="#2b2430" stroke-width="5"/><path d="M76 104v136q0 24 84 24t84-24v-136" fill="#b9bec6" stroke="#2b2430" stroke-width="5"/><path d="M160 104v-44h44" fill="none" stroke="#2b2430" stroke-width="7"/><circle cx="208" cy="60" r="10" fill="#8a5a3c"/><path d="M120 236l-28 28" stroke="#2b2430" stroke-width="9"/>',
  ),
  feed: sheet(
    '#f3ead7',
    '<path d="M92 84h136l16 28v132q0 20-20 20h-128q-20 0-20-20v-132z" fill="#fffdf8" stroke="#2b2430" stroke-width="5"/><path d="M92 84q68 28 136 0" fill="none" stroke="#2b2430" stroke-width="4"/><rect x="104" y="152" width="112" height="64" rx="6" fill="#dde8dd"/><path d="M124 176h72M124 194h48" stroke="#4e7358" stroke-width="6" stroke-linecap="round"/>',
  ),
  treatment: sheet(
    '#e1eaef',
    '<rect x="112" y="112" width="96" height="152" rx="14" fill="#fffdf8" stroke="#2b2430" stroke-width="5"/><rect x="128" y="72" width="64" height="40" rx="6" fill="#3f5f77" stroke="#2b2430" stroke-width="5"/><path d="M160 160v56M132 188h56" stroke="#3f5f77" stroke-width="12" stroke-linecap="round"/>',
  ),
  wax: sheet('#f7efdc', hexagon(124, 130, '#e5b84c') + hexagon(196, 130, '#efcb6e') + hexagon(160, 193, '#d99a2b')),
  box: sheet(
    '#efe6d6',
    '<path d="M64 128l96-40l96 40v100l-96 44l-96-44z" fill="#c9a36b" stroke="#2b2430" stroke-width="5" stroke-linejoin="round"/><path d="M64 128l96 40l96-40M160 168v104" fill="none" stroke="#2b2430" stroke-width="5"/><path d="M112 108l96 40v32" fill="none" stroke="#8a6a3c" stroke-width="8"/>',
  ),
  book: sheet(
    '#eaddE8',
    '<path d="M88 76h120q24 0 24 24v152h-120q-24 0-24-24z" fill="#5a2a55" stroke="#2b2430" stroke-width="5"/><path d="M112 252q-24 0-24-20t24-20h120" fill="#fffdf8" stroke="#2b2430" stroke-width="5"/>' +
      hexagon(164, 140, '#e5b84c'),
  ),
  candle: sheet(
    '#f3ead7',
    '<rect x="132" y="120" width="56" height="140" rx="8" fill="#e5b84c" stroke="#2b2430" stroke-width="5"/><path d="M160 120v-20" stroke="#2b2430" stroke-width="5"/><path d="M160 56q28 30 0 46q-28-16 0-46z" fill="#b97a12" stroke="#2b2430" stroke-width="4"/>',
  ),
};

const byCategory: Record<string, string> = {
  'Hive parts': 'hive',
  Clothing: 'suit',
  Tools: 'tool',
  Extraction: 'extractor',
  Feed: 'feed',
  Treatments: 'treatment',
  'Wax and frames': 'wax',
  Packaging: 'box',
  Books: 'book',
  Candles: 'candle',
};

/** Which drawing is of these goods. */
export const drawingOf = ({ sku, category }: Goods): string =>
  ({ GLD: 'jar gold', WHT: 'jar white', BLK: 'jar black' })[/^JAR-\d+-(\w+)$/.exec(sku)?.[1] ?? ''] ?? byCategory[category] ?? 'box';

/** Draws and takes in the pictures, as if they had been uploaded. Ids by drawing. */
export async function drawPictures(act: Act): Promise<Map<string, number>> {
  const ids = new Map<string, number>();
  for (const [name, svg] of Object.entries(drawings))
    ids.set(name, (await addPicture(act, (await sharp(Buffer.from(svg)).png().toBuffer()).toString('base64'))).id);
  return ids;
}
