import { Refusal } from '../refusal';

/** What a letter's template may name, each as {name}. */
export const orderWords = ['order', 'supplier', 'company', 'site', 'day', 'lines', 'total', 'note', 'person'] as const;
export type OrderWord = (typeof orderWords)[number];

export interface Template {
  subject: string;
  text: string;
}

/** What a purchase order is sent with until the business writes words of its own. */
export const firstOrderTemplate: Template = {
  subject: 'Purchase order {order} from {company}',
  text: `Dear {supplier},

please deliver to {site}{day}:

{lines}

In all {total}. The order is attached as a PDF.
{note}
Please answer this letter to confirm it.

{person}
{company}`,
};

const named = /\{([^{}\n]*)\}/g;

/** Refuses a template that names what no letter knows. */
export function refuseTemplate({ subject, text }: Template): void {
  for (const [field, words] of Object.entries({ subject, text })) {
    const odd = [...words.matchAll(named)].find(([, name]) => !orderWords.includes(name as OrderWord));
    if (odd)
      throw new Refusal(422, 'unknown-word', `${odd[0]} means nothing here.`, [
        { field, sentence: `${odd[0]} means nothing here. What can be named: ${orderWords.map((word) => `{${word}}`).join(', ')}.` },
      ]);
  }
}

/** The template with everything it names filled in; what is filled in is not looked through again. */
export const fillTemplate = ({ subject, text }: Template, words: Readonly<Record<OrderWord, string>>): Template => {
  const fill = (given: string) => given.replace(named, (whole, name: string) => words[name as OrderWord] ?? whole);
  return {
    subject: fill(subject).replace(/\s+/g, ' ').trim(),
    text: fill(text)
      .replace(/\n{3,}/g, '\n\n')
      .trim(),
  };
};
