import { readScan, scannedQuantity } from '../codes/meaning';
import { decimal, quantityText, type Decimal } from '../decimal';

/** A bin that a scan may mean. */
export interface MoveBin {
  id: number;
  code: string;
  siteId: number;
  siteName: string;
}

/** Something that lies in the bin that goods are moved from. */
export interface Lying {
  sku: string;
  lot: string | null;
  /** How many lie there, and how many of them are moved. */
  inBin: string;
  moved: string;
  codes: readonly { code: string; factor: string }[];
}

export type MoveScan<B, R> =
  | { does: 'from'; bin: B }
  | { does: 'to'; bin: B }
  /** So many more of the row are moved. */
  | { does: 'count'; row: R; quantity: Decimal }
  | { does: 'nothing'; said: string };

/**
 * What a scan means while goods are moved: the first bin is where they lie, things after it are counted, and a bin after those is where they go.
 * Another bin before anything was counted means that one instead. Of lots the one that the code names is meant, else the first of which more lie there.
 */
export function moveScan<B extends MoveBin, R extends Lying>(from: B | null, rows: readonly R[], bins: readonly B[], code: string): MoveScan<B, R> {
  const named = bins.filter((bin) => bin.code.toLowerCase() === code.trim().toLowerCase());
  const [bin] = from === null ? named : [...named.filter(({ siteId }) => siteId === from.siteId), ...named];
  if (bin) return binScan(from, rows, bin, from === null && named.length > 1);
  if (from === null) return { does: 'nothing', said: `${code} is no bin. Scan first the bin where the goods lie.` };
  const scanned = readScan(code);
  const lot = scanned.gs1?.serial ?? scanned.gs1?.lot;
  const fits = rows.flatMap((row) => {
    const quantity = scannedQuantity(row.codes, scanned);
    return quantity === null || (lot !== undefined && row.lot !== null && row.lot !== lot) ? [] : [{ row, quantity }];
  });
  const fit = fits.find(({ row, quantity }) =>
    decimal(row.moved || '0')
      .plus(quantity)
      .lte(row.inBin),
  );
  if (fit) return { does: 'count', ...fit };
  const [first] = fits;
  return {
    does: 'nothing',
    said: first ? `${from.code} holds only ${quantityText(decimal(first.row.inBin))} of ${first.row.sku}.` : `${code} does not lie in ${from.code}.`,
  };
}

function binScan<B extends MoveBin, R extends Lying>(from: B | null, rows: readonly R[], bin: B, isAtSeveral: boolean): MoveScan<B, R> {
  if (isAtSeveral) return { does: 'nothing', said: `${bin.code} is at more than one site. Choose the site at the top.` };
  if (from === null) return { does: 'from', bin };
  const isAnyMoved = rows.some(({ moved }) => Number(moved) > 0);
  if (bin.id === from.id)
    return {
      does: 'nothing',
      said: isAnyMoved ? `${bin.code} is where they lie. Scan the bin they go to.` : `${bin.code} is the bin they lie in. Scan what is moved.`,
    };
  if (!isAnyMoved) return { does: 'from', bin };
  return bin.siteId === from.siteId ? { does: 'to', bin } : { does: 'nothing', said: `${bin.code} is at ${bin.siteName}: goods go there by a transfer.` };
}
