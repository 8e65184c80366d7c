import type * as contract from '@larder/contract/stock';
import type { FileAnswer, ResponseOf } from '@larder/contract/endpoint';
import { traceOf, type TraceLine, type TraceRow } from '@larder/core/stock/trace';
import type { Act } from '../../act';
import { csvFile } from '../../documents/csvFile';
import { lot } from './lots';

type Row = TraceLine & {
  day: string;
  note: string;
  order: contract.TraceRow['document'];
  bills: contract.TraceRow['bills'];
};
interface Outside {
  id: number;
  kind: string;
  who: string;
  partyId: number | null;
  email: string;
}

/** What other ways in and out are called. */
const ways: Readonly<Record<string, string>> = {
  supplier: 'without a supplier',
  opening: 'opening stock',
  'found-or-lost': 'found or lost',
  scrap: 'scrapped',
  'own-use': 'used in the business',
};

const linesSql = `SELECT trim_scale(l.quantity)::text AS quantity, l.effective_on::text AS day, m.note, json_build_object('placeId', f.id, 'kind', f.kind) AS "from", json_build_object('placeId', t.id, 'kind', t.kind) AS "to",
    coalesce(po.number, so.number, '') AS document,
    CASE WHEN po.id IS NOT NULL THEN json_build_object('kind', 'purchase order', 'id', po.id, 'number', po.number) WHEN so.id IS NOT NULL THEN json_build_object('kind', 'sales order', 'id', so.id, 'number', so.number) END AS "order",
    (SELECT coalesce(json_agg(DISTINCT jsonb_build_object('id', b.id, 'number', b.number)), '[]') FROM bill_line x JOIN bill b ON b.id = x.bill_id WHERE x.purchase_line_id = l.supply_line_id AND b.undone_at IS NULL) AS bills
  FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
   LEFT JOIN purchase_line pl ON pl.id = l.supply_line_id LEFT JOIN purchase_order po ON po.id = pl.order_id LEFT JOIN sales_line sl ON sl.id = l.demand_line_id LEFT JOIN sales_order so ON so.id = sl.order_id
  WHERE l.item_id = $1 AND l.lot_id = $2 AND m.reverses IS NULL AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id) ORDER BY l.seq`;

/** Where a lot or serial came from and who got it; movements that were undone are left out. */
export async function trace(act: Act, id: number): Promise<ResponseOf<typeof contract.traceLot>> {
  const { itemId } = await lot(act, id);
  const lines = await act.tx.rows<Row>(linesSql, [itemId, id]);
  const { came, went, here } = traceOf(lines);
  const places = await act.tx.rows<Outside>(
    `SELECT p.id, p.kind, coalesce(y.name, '') AS who, y.id AS "partyId", coalesce(y.email, '') AS email FROM place p LEFT JOIN party y ON y.id = p.party_id WHERE p.id = ANY($1)`,
    [[...came, ...went].map(({ placeId }) => placeId)],
  );
  const told = (row: TraceRow): contract.TraceRow => {
    const place = places.find((one) => one.id === row.placeId) as Outside;
    const own = lines.filter(({ from, to, document }) => document === row.document && [from.placeId, to.placeId].includes(row.placeId));
    const days = own.map(({ day }) => day).sort();
    return {
      who: place.who || (ways[place.kind] ?? place.kind),
      kind: place.kind,
      partyId: place.partyId,
      email: place.email,
      document: own[0]?.order ?? null,
      from: days[0] ?? '',
      to: days.at(-1) ?? '',
      quantity: row.quantity.toFixed(),
      back: row.back.toFixed(),
      note: [...new Set(own.map(({ note }) => note).filter((note) => note !== ''))].join('; '),
      bills: place.kind === 'supplier' ? (own[0]?.bills ?? []) : [],
    };
  };
  return { came: came.map(told), went: went.map(told), here: here.toFixed() };
}

/** Who got it, one row for each order: a list to write letters by. */
export async function traceFile(act: Act, id: number): Promise<FileAnswer> {
  const { sku, code } = await lot(act, id);
  const { went } = await trace(act, id);
  const cells = went.map((row) => [sku, code, row.who, row.email, row.document?.number ?? '', row.from, row.to, row.quantity, row.back]);
  return csvFile(`trace-${code}`, ['SKU', 'Lot', 'Who', 'Mail address', 'Order', 'First day', 'Last day', 'Quantity', 'Came back'], [cells]);
}
