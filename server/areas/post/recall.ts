import { randomUUID } from 'node:crypto';
import type * as contract from '@larder/contract/recalls';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText, sum, zero } from '@larder/core/decimal';
import { fillTemplate, refuseTemplate } from '@larder/core/post/template';
import { refuseField } from '@larder/core/refusal';
import MailComposer from 'nodemailer/lib/mail-composer';
import { and, eq, isNotNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { company, letter } from '../../db/schema/index';
import { cause } from '../../jobs/outbox';
import { furtherOn, lot, trace } from '../stock/service';
import { template } from './service';

/** Who has something of a lot or unit, as far as the person may look: customers who did not bring it back, and holders. */
export async function recallList(act: Act, id: number): Promise<ResponseOf<typeof contract.recallList>> {
  act.sites('outbound.sell');
  const { itemId, sku, name, code } = await lot(act, id);
  const { went, held, into } = await trace(act, id);
  const further = await furtherOn(act, into);
  const written = await act.tx.db
    .select({
      letterId: letter.id,
      partyId: letter.partyId,
      at: letter.writtenAt,
      to: letter.recipient,
      state: sql<
        'waiting' | 'sent' | 'not sent'
      >`case when ${letter.sentAt} is not null then 'sent' when ${letter.nextTryAt} is null then 'not sent' else 'waiting' end`,
    })
    .from(letter)
    .where(and(eq(letter.lotId, id), isNotNull(letter.partyId)))
    .orderBy(letter.id);
  const having = (rows: typeof went, holds: contract.RecallRow['holds'], of: Pick<contract.RecallRow, 'sku' | 'item' | 'lot'>): contract.RecallRow[] => {
    const parties = [...new Set(rows.flatMap(({ partyId }) => partyId ?? []))];
    return parties.flatMap((partyId) => {
      const own = rows.filter((row) => row.partyId === partyId && decimal(row.quantity).gt(row.back));
      const [first] = own;
      if (!first) return [];
      return [
        {
          partyId,
          who: first.who,
          holds,
          ...of,
          email: first.email,
          quantity: quantityText(sum(own.map(({ quantity, back }) => decimal(quantity).minus(back)))),
          documents: own.flatMap(({ document }) => document?.number ?? []),
          written: written.filter((one) => one.partyId === partyId).map(({ partyId: _party, ...one }) => one),
        },
      ];
    });
  };
  const own = { sku, item: name, lot: code };
  const bought = (some: typeof went) => some.filter(({ kind }) => kind === 'customer');
  const rows = [
    ...having(bought(went), 'bought', own),
    ...having(held, 'on loan', own),
    ...further.flatMap(({ sku: made, name: item, code: of, rows: got, held: lent }) => [
      ...having(bought(got), 'bought', { sku: made, item, lot: of }),
      ...having(lent, 'on loan', { sku: made, item, lot: of }),
    ]),
  ];
  // Of the lot itself: what it went into is counted in units of its own.
  const all = rows.filter((row) => row.sku === sku && row.lot === code).reduce((total, row) => total.plus(row.quantity), zero);
  return { itemId, sku, name, lot: code, quantity: quantityText(all), rows, template: await template(act, 'recall') };
}

/** Writes to each of those chosen, with what they have of it filled in. All letters are kept, or none. */
export async function sendRecall(act: Act, id: number, { to, ...words }: BodyOf<typeof contract.sendRecall>): Promise<ResponseOf<typeof contract.sendRecall>> {
  refuseTemplate(words, 'recall');
  const { lot: code, rows } = await recallList(act, id);
  const [business] = await act.tx.db.select({ name: company.name }).from(company);
  for (const [index, one] of to.entries()) {
    const mine = rows.filter(({ partyId }) => partyId === one.partyId);
    const [first] = mine;
    if (!first) throw refuseField(409, 'has-none', `to.${index}.partyId`, `They have nothing of ${code} any more.`);
    const filled = fillTemplate(words, {
      customer: first.who,
      item: listed(mine.map(({ sku, item }) => `${sku} ${item}`)),
      lot: listed(mine.map(({ lot: of }) => of)),
      quantity: quantityText(sum(mine.map(({ quantity }) => decimal(quantity)))),
      orders: mine.flatMap(({ documents }) => documents).join(', '),
      company: business?.name ?? '',
      person: act.by.name,
    });
    await write(act, { lotId: id, partyId: one.partyId, to: one.to, business: business?.name ?? '', ...filled });
  }
  return { letters: to.length };
}

/** Each once, in words. */
const listed = (words: readonly string[]): string => [...new Set(words)].join(', ');

interface Letter {
  lotId: number;
  partyId: number;
  to: string;
  business: string;
  subject: string;
  text: string;
}

async function write(act: Act, { lotId, partyId, to, business, subject, text }: Letter): Promise<void> {
  const messageId = `<${randomUUID()}@tidy-larder.invalid>`;
  const sender = act.by.email;
  const from = { name: `${act.by.name}, ${business}`, address: sender };
  const raw = await new MailComposer({ from, to, subject, text, date: act.now, messageId }).compile().build();
  const at = act.now.toISOString();
  const [added] = await act.tx.db
    .insert(letter)
    .values({ lotId, partyId, messageId, sender, recipient: to, subject, body: text, attached: [], raw, writtenAt: at, writtenBy: act.by.id, nextTryAt: at })
    .returning({ id: letter.id });
  if (!added) throw new Error('the letter was written');
  await cause(act, 'sendLetter', { letterId: added.id }, String(added.id));
}
