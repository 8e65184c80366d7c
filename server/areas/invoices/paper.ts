import { dayInWords } from '@larder/core/day';
import type * as contract from '@larder/contract/invoices';
import type { QueryOf } from '@larder/contract/endpoint';
import { decimal, quantityText } from '@larder/core/decimal';
import type { Act } from '../../act';
import { letterheadOf, letterPaper, wordsOn, type Letterhead } from '../../documents/letterhead';
import { bytesOf, facts, margin, table, totals, type PaperColumn } from '../../documents/paper';
import { statement } from './accounts';
import { oneInvoice } from './queries';

interface File {
  type: string;
  name: string;
  bytes: Uint8Array;
}
const pdf = (name: string, bytes: Uint8Array): File => ({ type: 'application/pdf', name: `${name}.pdf`, bytes });

/** An invoice or credit note as a PDF. */
export async function paperOfInvoice(act: Act, id: number): Promise<File> {
  const one = await oneInvoice(act, id);
  return pdf(one.number, await invoicePaper(one, await letterheadOf(act)));
}

/** The account of a customer as a PDF. */
export async function paperOfStatement(act: Act, query: QueryOf<typeof contract.getStatement>): Promise<File> {
  const account = await statement(act, query);
  return pdf(`Statement ${account.party} ${account.to}`, await statementPaper(account, await letterheadOf(act)));
}

const columns = [
  { name: 'Item', x: 50, width: 78, align: 'left' },
  { name: 'What', x: 132, width: 168, align: 'left' },
  { name: 'Quantity', x: 304, width: 66, align: 'right' },
  { name: 'Price', x: 374, width: 66, align: 'right' },
  { name: 'Tax', x: 444, width: 34, align: 'right' },
  { name: 'Amount', x: 482, width: 64, align: 'right' },
] satisfies PaperColumn[];

/** On A4: to whom, of when, for which orders, every line with its lots and serials, tax by rate, and how it is paid. */
async function invoicePaper(one: contract.Invoice, letterhead: Letterhead): Promise<Buffer> {
  const isCredit = one.kind === 'credit';
  const paper = letterPaper(`${isCredit ? 'Credit note' : 'Invoice'} ${one.number}`, letterhead);
  const top = paper.y;
  facts(paper, margin, top, 'To', one.address.split('\n'));
  const ends = [paper.y];
  facts(paper, 230, top, isCredit ? 'Credit note of' : 'Invoice of', [dayInWords(one.invoicedOn)]);
  facts(paper, 230, paper.y + 6, isCredit ? 'On invoice' : 'To be paid by', [one.credits?.number ?? dayInWords(one.dueOn)]);
  ends.push(paper.y);
  facts(paper, 400, top, one.orderRefs.length > 1 ? 'Our orders' : 'Our order', [one.orders]);
  if (one.reference !== '') facts(paper, 400, paper.y + 6, 'Your order', [one.reference]);
  paper.y = Math.max(...ends, paper.y) + 18;
  wordsOn(paper, one.opening);
  table(
    paper,
    columns,
    one.lines.map((line) => [
      line.sku,
      [
        line.text,
        line.discount === '' ? '' : `${line.discount} off`,
        line.lots.length === 0 ? '' : `${line.lots.length > 1 ? 'Lots or serials' : 'Lot or serial'} ${line.lots.join(', ')}`,
      ]
        .filter(Boolean)
        .join('\n'),
      line.asOrdered,
      line.asOrdered === '' ? '' : line.price,
      decimal(line.taxRate).isZero() ? '' : `${quantityText(line.taxRate)} %`,
      line.amount,
    ]),
  );
  sums(paper, one);
  wordsOn(paper, one.closing);
  if (!isCredit) wordsOn(paper, letterhead.payTo);
  return bytesOf(paper);
}

const sums = (paper: PDFKit.PDFDocument, { net, taxes, total, currency, kind }: contract.Invoice): void =>
  totals(
    paper,
    [
      ['Without tax', net],
      ...taxes.flatMap(({ rate, base, tax }) => (decimal(rate).isZero() ? [] : [[`${quantityText(rate)} % tax on ${base}`, tax] as const])),
    ],
    [`${kind === 'credit' ? 'Credited' : 'To pay'}, ${currency}`, total],
  );

const accountColumns = [
  { name: 'Day', x: 50, width: 110, align: 'left' },
  { name: 'What', x: 164, width: 200, align: 'left' },
  { name: 'Amount', x: 368, width: 86, align: 'right' },
  { name: 'Owed', x: 458, width: 88, align: 'right' },
] satisfies PaperColumn[];

async function statementPaper(account: contract.Statement, letterhead: Letterhead): Promise<Buffer> {
  const { party, currency, from, to, before, rows, balance, open } = account;
  const paper = letterPaper('Statement of account', letterhead);
  const top = paper.y;
  facts(paper, margin, top, 'Of', [party]);
  facts(paper, 230, top, 'From', [dayInWords(from)]);
  facts(paper, 400, top, 'To', [dayInWords(to)]);
  paper.y += 18;
  table(paper, accountColumns, [
    ['', 'Owed before', '', before],
    ...rows.map((row) => [dayInWords(row.day), row.text, row.amount, row.balance]),
    [dayInWords(to), 'Owed', '', `${balance} ${currency}`],
  ]);
  if (open.length > 0) {
    paper.moveDown(0.8).font('bold').fontSize(12).text('Open now', margin, paper.y);
    paper.moveDown(0.4);
    table(
      paper,
      accountColumns.map((column, index) => ({ ...column, name: ['Due', 'Invoice', 'Of', 'Open'][index] ?? '' })),
      open.map((one) => [`${dayInWords(one.dueOn)}${one.late ? ', late' : ''}`, one.number, one.total, one.open]),
    );
  }
  wordsOn(paper.moveDown(0.6), letterhead.payTo);
  return bytesOf(paper);
}
