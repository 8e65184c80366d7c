import { decimal, sum, zero, type Decimal } from '../decimal';

/** Goods that came or went, or lie somewhere, as the picture shows them. */
export interface Flow {
  /** What tells it apart on its side. */
  key: string;
  words: string;
  quantity: Decimal;
}

export interface PictureNode {
  key: string;
  words: string;
  side: 'came' | 'lot' | 'here' | 'held' | 'went';
}
export interface PictureLink {
  from: string;
  to: string;
  quantity: Decimal;
}

/**
 * The picture of a lot: what came flows into it, and on to where it lies, who has it on loan, and who got it. Both sides add up to the same;
 * of one party on several documents each is a flow of its own. What is nothing is left out.
 */
export function pictureOf(
  { came, here, held, went }: Record<'came' | 'here' | 'held' | 'went', readonly Flow[]>,
  lot: string,
): {
  nodes: PictureNode[];
  links: PictureLink[];
} {
  const middle: PictureNode = { key: 'lot', words: lot, side: 'lot' };
  const some = (flows: readonly Flow[]) => flows.filter(({ quantity }) => quantity.gt(zero));
  const nodesOf = (flows: readonly Flow[], side: PictureNode['side']): PictureNode[] =>
    some(flows).map(({ key, words }) => ({ key: `${side} ${key}`, words, side }));
  const on = (flows: readonly Flow[], side: PictureNode['side']): PictureLink[] =>
    some(flows).map(({ key, quantity }) => ({ from: 'lot', to: `${side} ${key}`, quantity }));
  return {
    nodes: [...nodesOf(came, 'came'), middle, ...nodesOf(here, 'here'), ...nodesOf(held, 'held'), ...nodesOf(went, 'went')],
    links: [
      ...some(came).map(({ key, quantity }) => ({ from: `came ${key}`, to: 'lot', quantity })),
      ...on(here, 'here'),
      ...on(held, 'held'),
      ...on(went, 'went'),
    ],
  };
}

/** Whether as much came into the lot as lies somewhere or went on. */
export const addsUp = (links: readonly PictureLink[]): boolean => {
  const total = (which: (link: PictureLink) => boolean) => sum(links.filter(which).map(({ quantity }) => quantity));
  return total(({ to }) => to === 'lot').eq(total(({ from }) => from === 'lot'));
};

/** A quantity as it is told, with what went the other way taken off. */
export const netOf = ({ quantity, back }: { quantity: string; back: string }): Decimal => decimal(quantity).minus(back);
