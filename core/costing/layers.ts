import { least, sum, zero, type Decimal } from '../decimal';
import { partOf } from './average';
import type { CostMethod, Layer, LayerMove, Leaving } from './method';

/**
 * Cost by layers: what comes in keeps its own cost, and what leaves takes the oldest layer that serves it, one after the other.
 * First in, first out lets every layer serve; specific cost only the layer of the serial itself.
 */
export const layered = (serves: (layer: Layer, leaving: Leaving) => boolean): CostMethod => ({
  keepsLayers: true,
  take: ({ layers }, leaving) => {
    const own = (layer: Layer) => Number(leaving.purchaseLineId !== null && layer.purchaseLineId === leaving.purchaseLineId);
    const inTurn = layers.filter((layer) => layer.quantity.gt(zero) && serves(layer, leaving)).sort((a, b) => own(b) - own(a) || a.seq - b.seq);
    const moves: LayerMove[] = [];
    let open = leaving.quantity;
    for (const layer of inTurn) {
      const quantity = least(open, layer.quantity);
      if (quantity.isZero()) break;
      moves.push({ layerSeq: layer.seq, quantity: quantity.neg(), value: partOf(layer, quantity).neg() });
      open = open.minus(quantity);
    }
    if (!open.isZero()) throw new Error('the layers hold less than the pool');
    return { value: sum(moves.map(({ value }) => value)).neg(), moves };
  },
  unitCost: ({ layers }) => {
    const newest = layers.filter(({ quantity }) => quantity.gt(zero)).at(-1);
    return newest ? newest.value.div(newest.quantity) : null;
  },
});

/** Layers after `moves`; a layer that did not exist is made by what comes into it. */
export function afterMoves(layers: readonly Layer[], moves: readonly LayerMove[], made: Pick<Layer, 'lotId' | 'purchaseLineId'>): Layer[] {
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

/** Which part of what a layer brought is still here, from 0 to 1. */
export const layerHere = (layer: { quantity: Decimal } | undefined, received: Decimal): Decimal =>
  layer === undefined || received.lte(zero) ? zero : least(layer.quantity, received).div(received);
