import { Refusal } from '../refusal';

/** What letters are about. */
export const letterKinds = ['purchase order', 'quote', 'confirmation', 'invoice', 'credit note', 'recall'] as const;
export type LetterKind = (typeof letterKinds)[number];

const sold = ['order', 'customer', 'company', 'day', 'lines', 'total', 'reference', 'note', 'person'] as const;
const billed = ['invoice', 'customer', 'company', 'day', 'orders', 'total', 'reference', 'person'] as const;
/** What a template of each kind may name, each as {name}. */
export const letterWords: Readonly<Record<LetterKind, readonly string[]>> = {
  'purchase order': ['order', 'supplier', 'company', 'site', 'day', 'lines', 'total', 'note', 'person'],
  quote: sold,
  confirmation: sold,
  invoice: billed,
  'credit note': billed,
  recall: ['customer', 'item', 'lot', 'quantity', 'orders', 'company', 'person'],
};

export interface Template {
  subject: string;
  text: string;
}

/** What each is sent with until the business writes words of its own. */
export const firstTemplates: Readonly<Record<LetterKind, Template>> = {
  'purchase order': {
    subject: 'Purchase order {order} from {company}',
    text: `Dear {supplier},

please deliver to {site}{day}:

{lines}

In all {total}. The order is attached as a PDF.
{note}
Please answer this letter to confirm it.

{person}
{company}`,
  },
  quote: {
    subject: 'Quote {order} from {company}',
    text: `Dear {customer},

here is what you asked us for{day}:

{lines}

In all {total}. The quote is attached as a PDF.
{note}
Answer this letter, and we put it before our packers.

{person}
{company}`,
  },
  confirmation: {
    subject: 'Your order {order} with {company}',
    text: `Dear {customer},

thank you for your order {reference}. We send you{day}:

{lines}

In all {total}. The confirmation is attached as a PDF.
{note}
{person}
{company}`,
  },
  invoice: {
    subject: 'Invoice {invoice} from {company}',
    text: `Dear {customer},

the invoice for {orders} is attached: {total}, to be paid{day}.

{person}
{company}`,
  },
  'credit note': {
    subject: 'Credit note {invoice} from {company}',
    text: `Dear {customer},

a credit note of {total} for {orders} is attached.

{person}
{company}`,
  },
  recall: {
    subject: 'Please do not use {item}, {lot}, from {company}',
    text: `Dear {customer},

you had {quantity} of {item} from us, with the number {lot} ({orders}).

Please do not use or sell it any more, and put what you still have of it aside. Answer this letter and say how many that is: we fetch it, and make it good.

{person}
{company}`,
  },
};

const named = /\{([^{}\n]*)\}/g;

/** Refuses a template that names what no letter knows. */
export function refuseTemplate({ subject, text }: Template, kind: LetterKind): void {
  const known = letterWords[kind];
  for (const [field, words] of Object.entries({ subject, text })) {
    const odd = [...words.matchAll(named)].find(([, name]) => !known.includes(name ?? ''));
    if (odd)
      throw new Refusal(422, 'unknown-word', `${odd[0]} means nothing here.`, [
        { field, sentence: `${odd[0]} means nothing here. What can be named: ${known.map((word) => `{${word}}`).join(', ')}.` },
      ]);
  }
}

/** The template with everything it names filled in; what is filled in is not looked through again. */
export const fillTemplate = ({ subject, text }: Template, words: Readonly<Record<string, string>>): Template => {
  const fill = (given: string) => given.replace(named, (whole, name: string) => words[name] ?? whole);
  return {
    subject: fill(subject).replace(/\s+/g, ' ').trim(),
    text: fill(text)
      .replace(/\n{3,}/g, '\n\n')
      .trim(),
  };
};
