import { least, shareOf, sum, zero, type Decimal } from '../decimal';
import { partOf } from './average';
import type { CostMethod, Layer, LayerMove, Leaving } from './method';

/**
 * Cost by layers: what comes in keeps its own cost, and what leaves takes the oldest layer that serves it, one after the other.
 * First in, first out lets every layer serve; specific cost only the layer of the serial itself. Layers that are named go first.
 */
export const layered = (serves: (layer: Layer, leaving: Leaving) => boolean): CostMethod => ({
  keepsLayers: true,
  take: ({ layers }, leaving) => {
    const inTurn = layers.filter((layer) => layer.quantity.gt(zero) && serves(layer, leaving)).sort((a, b) => a.seq - b.seq);
    const taken = new Map<number, Decimal>();
    let open = leaving.quantity;
    const takeFrom = (layer: Layer, most: Decimal) => {
      const before = taken.get(layer.seq) ?? zero;
      const quantity = least(least(open, most), layer.quantity.minus(before));
      if (quantity.lte(zero)) return;
      taken.set(layer.seq, before.plus(quantity));
      open = open.minus(quantity);
    };
    for (const { layerSeq, quantity } of leaving.named) inTurn.filter(({ seq }) => seq === layerSeq).forEach((layer) => takeFrom(layer, quantity));
    inTurn.forEach((layer) => takeFrom(layer, open));
    if (!open.isZero()) throw new Error('the layers hold less than the pool');
    const moves = [...taken].map(([layerSeq, quantity]): LayerMove => {
      const layer = inTurn.find(({ seq }) => seq === layerSeq) as Layer;
      return { layerSeq, quantity: quantity.neg(), value: partOf(layer, quantity).neg() };
    });
    return { value: sum(moves.map(({ value }) => value)).neg(), moves };
  },
  worthOf: ({ layers }, quantity) => {
    const newest = layers.filter((layer) => layer.quantity.gt(zero)).at(-1);
    return newest ? shareOf(newest.value, quantity, newest.quantity) : null;
  },
});

/** Layers after `moves`; a layer that did not exist is made by what comes into it. */
export function afterMoves(layers: readonly Layer[], moves: readonly LayerMove[], made: Pick<Layer, 'lotId'>): Layer[] {
  const all = new Map(layers.map((layer) => [layer.seq, layer]));
  for (const { layerSeq, quantity, value } of moves) {
    const was = all.get(layerSeq) ?? { seq: layerSeq, quantity: zero, value: zero, ...made };
    all.set(layerSeq, { ...was, quantity: was.quantity.plus(quantity), value: was.value.plus(value) });
  }
  return [...all.values()].sort((a, b) => a.seq - b.seq);
}

/**
 * The moves that undo `moves`: back into the layers they took from, and out of the layer they made, which must be whole.
 * Null when goods of that layer have been used since. What a layer is worth less than then stays out of the moves.
 */
export function undoMoves(layers: readonly Layer[], moves: readonly LayerMove[]): LayerMove[] | null {
  const back: LayerMove[] = [];
  for (const { layerSeq, quantity, value } of moves) {
    if (quantity.lt(zero)) back.push({ layerSeq, quantity: quantity.neg(), value: value.neg() });
    else {
      const layer = layers.find(({ seq }) => seq === layerSeq);
      if (!layer?.quantity.eq(quantity)) return null;
      back.push({ layerSeq, quantity: quantity.neg(), value: layer.value.neg() });
    }
  }
  return back;
}
