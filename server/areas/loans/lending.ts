import type * as contract from '@larder/contract/loans';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { dayInWords } from '@larder/core/day';
import { decimal, quantityText, zero } from '@larder/core/decimal';
import type { LineCounters, MovementLine } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { beyondOut } from '@larder/core/stock/loans';
import { and, eq, isNull } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, insertRows } from '../../db/given';
import { loan, loanBack, loanLine, loanTerms, lot, party, place } from '../../db/schema/index';
import { recordChanges, refuseStale } from '../../documents/changes';
import { addLines } from '../../documents/documentLines';
import { lineFacts, quantityError, refuseErrors, refuseNotKept } from '../../documents/lines';
import { nextNumber } from '../../documents/number';
import { placeOfReason } from '../../documents/reasons';
import { cause } from '../../jobs/outbox';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { loanLines, loanNow } from './queries';

type Form = BodyOf<typeof contract.lend>;

/** Lends things of one site to a holder, at once. What they cost stays with us; what is promised to others is not lent. */
export async function lend(act: Act, form: Form): Promise<ResponseOf<typeof contract.lend>> {
  const siteId = await refuseLend(act, form);
  const holderId = form.holderId as number;
  const placeId = await placeOf(act, holderId, siteId);
  if (act.tx.readOnly) {
    const ids = form.lines.map((_, index) => -(index + 1));
    const imagined = new Map(ids.map((id, index): [number, LineCounters] => [id, nothingYet(`the loan line ${index + 1}`)]));
    const posting = await post(act, movementOf(act, form, ids, placeId), { imagined });
    return { ...posting, id: null, number: null };
  }
  await lock.pools(
    act,
    form.lines.map(({ itemId }) => itemId),
  );
  const number = await nextNumber(act, 'loan');
  const { dueOn, note } = form;
  const [made] = await act.tx.db
    .insert(loan)
    .values({ number, holderId, siteId, lentOn: act.today, dueOn, note, createdAt: act.now.toISOString(), createdBy: act.by.id })
    .returning({ id: loan.id });
  const id = made?.id as number;
  const ids = await addLines(
    act,
    { kind: 'loan', number, siteId, bringsToId: null, draws: false, active: true },
    form.lines.map(({ itemId, quantity }, index) => ({ position: index + 1, itemId, baseQuantity: quantity, stocked: true })),
  );
  await act.tx.db.insert(loanTerms).values(form.lines.map(({ lotId, binId }, index) => ({ id: ids[index] as number, loanId: id, lotId, fromBinId: binId })));
  const posting = await post(act, movementOf(act, form, ids, placeId));
  return { ...posting, id, number };
}

const nothingYet = (label: string): LineCounters => ({ label, arrived: zero, drawn: zero, gone: zero, finished: zero, open: zero });

const movementOf = (act: Act, { lines, note }: Form, ids: readonly number[], placeId: number) => ({
  kind: 'loan' as const,
  effectiveOn: act.today,
  lines: lines.map(({ itemId, lotId, binId, quantity }, index): MovementLine => ({
    itemId,
    lotId,
    quantity: decimal(quantity),
    fromPlaceId: binId,
    toPlaceId: placeId,
    valuation: { by: 'current' },
    serves: [{ kind: 'loan', lineId: ids[index] as number }],
    field: `lines.${index}.quantity`,
  })),
  reasonId: null,
  reversesId: null,
  note,
});

/** Where a holder has things of a site. */
async function placeOf({ tx: { db } }: Act, holderId: number, siteId: number): Promise<number> {
  const [found] = await db
    .select({ id: place.id })
    .from(place)
    .innerJoin(party, eq(party.id, place.partyId))
    .where(and(eq(place.kind, 'holder'), eq(place.partyId, holderId), eq(place.siteId, siteId), isNull(party.retiredAt)));
  if (!found) throw refuseField(404, 'no-such-holder', 'holderId', 'There is no such holder.');
  return found.id;
}

/** Refuses, by the field, what cannot be lent; answers the site it is lent from. */
async function refuseLend(act: Act, { lines, dueOn }: Form): Promise<number> {
  if (dueOn !== null && dueOn < act.today) throw refuseField(422, 'past-day', 'dueOn', 'This day has passed already.');
  const { items, bins } = await lineFacts(
    act,
    lines.map(({ itemId }) => itemId),
    lines.map(({ binId }) => binId),
  );
  const first = bins.get(lines[0]?.binId ?? 0);
  if (!first) throw refuseField(404, 'no-such-bin', 'lines.0.binId', 'There is no such bin.');
  act.allow('stock.lend', first.siteId);
  refuseNotKept(lines, items);
  refuseErrors(
    lines.flatMap((line, index): FieldError[] => {
      const at = (field: string, sentence: string): FieldError[] => [{ field: `lines.${index}.${field}`, sentence }];
      const item = items.get(line.itemId);
      if (!item) return at('itemId', 'There is no such item.');
      if (bins.get(line.binId)?.siteId !== first.siteId) return at('binId', 'Things that are lent together come from bins of one site.');
      if ((item.tracking !== 'none') !== (line.lotId !== null))
        return at('lotId', item.tracking === 'none' ? `${item.sku} is kept without lots or serials.` : `Say which ${item.tracking} of ${item.sku}.`);
      const fault = quantityError(item, line.quantity, `lines.${index}.quantity`);
      return fault ? [fault] : [];
    }),
  );
  const lotIds = lines.flatMap(({ lotId }) => lotId ?? []);
  const lots = await act.tx.db.select({ id: lot.id, itemId: lot.itemId }).from(lot).where(among(lot.id, lotIds));
  refuseErrors(
    lines.flatMap(({ lotId, itemId }, index) =>
      lotId !== null && !lots.some((one) => one.id === lotId && one.itemId === itemId)
        ? [{ field: `lines.${index}.lotId`, sentence: `${items.get(itemId)?.sku ?? ''} has no such ${items.get(itemId)?.tracking ?? 'lot'}.` }]
        : [],
    ),
  );
  return first.siteId;
}

/** Changes the day a loan is due, or its note. */
export async function changeLoan(act: Act, id: number, { version, dueOn, note }: BodyOf<typeof contract.changeLoan>): Promise<{ version: number }> {
  await lock.loans(act, [id]);
  const now = await loanNow(act, id);
  act.allow('stock.lend', now.siteId);
  refuseStale(version, now.version, now.number);
  if (dueOn !== null && dueOn < now.lentOn) throw refuseField(422, 'before-lent', 'dueOn', `It was lent on ${dayInWords(now.lentOn)} only.`);
  await act.tx.db
    .update(loan)
    .set({ dueOn, note, version: version + 1 })
    .where(eq(loan.id, id));
  await cause(act, 'remind', {}, 'now');
  await recordChanges(act, 'loan', id, { dueOn: now.dueOn ?? '', note: now.note }, { dueOn: dueOn ?? '', note });
  return { version: version + 1 };
}

interface Asked {
  lineId: number;
  quantity: string;
}

/** Lines of loans of which something ends, locked; refuses, by the field, what is not out any more. */
async function ending(act: Act, asked: readonly Asked[]) {
  const lineIds = asked.map(({ lineId }) => lineId);
  await lock.loansOf(act, lineIds);
  const lines = new Map((await loanLines(act, among(loanLine.id, lineIds))).map((line) => [line.id, line]));
  const unknown = asked.findIndex(({ lineId }) => !lines.has(lineId));
  if (unknown >= 0) throw refuseField(404, 'no-such-line', `lines.${unknown}.lineId`, 'There is no such line of a loan.');
  for (const { siteId } of lines.values()) act.allow('stock.lend', siteId);
  const faults = beyondOut(
    new Map([...lines].map(([id, { out }]) => [id, decimal(out)])),
    asked.map(({ lineId, quantity }) => ({ lineId, quantity: decimal(quantity) })),
    (left, lineId) => {
      const { sku, lot: code, number } = lines.get(lineId) as contract.LoanLine;
      return left.isZero()
        ? `All of ${code ?? sku} of ${number} is back or lost already.`
        : `Only ${quantityText(left)} of ${code ?? sku} are out on ${number}.`;
    },
  );
  if (faults[0]) throw new Refusal(409, 'not-out', faults[0].sentence, faults);
  const { items } = await lineFacts(
    act,
    [...lines.values()].map(({ itemId }) => itemId),
  );
  refuseErrors(
    asked.flatMap(({ lineId, quantity }, index) => {
      const facts = items.get(lines.get(lineId)?.itemId ?? 0);
      const fault = facts && quantityError(facts, quantity, `lines.${index}.quantity`);
      return fault ? [fault] : [];
    }),
  );
  return { lines, places: await placesOf(act, [...lines.values()]) };
}

/** Where the things of each line are: by its id. */
async function placesOf({ tx: { db } }: Act, lines: readonly contract.LoanLine[]): Promise<Map<number, number>> {
  const rows = await db
    .select({ lineId: loanLine.id, placeId: place.id })
    .from(loanLine)
    .innerJoin(loan, eq(loan.id, loanLine.loanId))
    .innerJoin(place, and(eq(place.kind, 'holder'), eq(place.siteId, loan.siteId), eq(place.partyId, loan.holderId)))
    .where(
      among(
        loanLine.id,
        lines.map(({ id }) => id),
      ),
    );
  return new Map(rows.map(({ lineId, placeId }) => [lineId, placeId]));
}

const endingLine = ({ lines, places }: Awaited<ReturnType<typeof ending>>, { lineId, quantity }: Asked, index: number, toPlaceId: number): MovementLine => {
  const line = lines.get(lineId) as contract.LoanLine;
  return {
    itemId: line.itemId,
    lotId: line.lotId,
    quantity: decimal(quantity),
    fromPlaceId: places.get(lineId) as number,
    toPlaceId,
    valuation: { by: 'current' },
    serves: [{ kind: 'loan', lineId }],
    field: `lines.${index}.quantity`,
  };
};

/** Takes back what a holder brings, into the bins that are said. What comes back into a bin that is sold from serves whoever is short. */
export async function bringBack(act: Act, form: BodyOf<typeof contract.bringBack>): Promise<Posting> {
  // How a line came back is said once a posting.
  const twice = form.lines.findIndex((line, index) => form.lines.slice(0, index).some((one) => one.lineId === line.lineId && one.condition !== line.condition));
  if (twice >= 0) throw refuseField(422, 'two-conditions', `lines.${twice}.condition`, 'Take back what came in another condition by itself.');
  const back = await ending(act, form.lines);
  const { bins } = await lineFacts(
    act,
    [],
    form.lines.flatMap(({ binId }) => binId ?? []),
  );
  for (const [index, { binId }] of form.lines.entries()) {
    const bin = bins.get(binId as number);
    if (!bin) throw refuseField(404, 'no-such-bin', `lines.${index}.binId`, 'There is no such bin.');
    act.allow('stock.lend', bin.siteId);
  }
  const lines = form.lines.map((line, index) => endingLine(back, line, index, line.binId as number));
  const posting = await post(act, { kind: 'brought-back', effectiveOn: act.today, lines, reasonId: null, reversesId: null, note: '' });
  const { movementId } = posting;
  if (movementId !== null) {
    // What is said of parts of one line is one saying.
    const said = new Map(form.lines.map(({ lineId, condition, note }) => [lineId, { movementId, lineId, condition, note }]));
    await insertRows(act.tx, loanBack, [...said.values()]);
  }
  return posting;
}

/** Takes off what a holder will not bring back: it goes to the account of the reason, at what it cost. */
export async function loseLoan(act: Act, form: BodyOf<typeof contract.loseLoan>): Promise<Posting> {
  const lost = await ending(act, form.lines);
  const placeId = await placeOfReason(act, form.reasonId, ['found-or-lost', 'scrap']);
  const lines = form.lines.map((line, index) => endingLine(lost, line, index, placeId));
  return post(act, { kind: 'correction', effectiveOn: act.today, lines, reasonId: form.reasonId, reversesId: null, note: form.note });
}
