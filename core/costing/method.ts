import type { Decimal } from '../decimal';
import { average } from './average';
import { layered } from './layers';

/** What an item's owned stock holds and is worth. `value` is in whole cents of company currency. */
export interface Pool {
  quantity: Decimal;
  value: Decimal;
}

/** What one line brought in and is still here, for items whose cost is kept by layers. Oldest first by `seq`, the line's running number. */
export interface Layer extends Pool {
  seq: number;
  lotId: number | null;
}

/** A pool and, for items kept by layers, the layers that make it up. */
export interface Holding {
  pool: Pool;
  layers: readonly Layer[];
}

/** What a line puts into a layer, or, below zero, takes out of it. */
export interface LayerMove extends Pool {
  layerSeq: number;
}

/** What is known of the goods that leave. */
export interface Leaving {
  quantity: Decimal;
  lotId: number | null;
  /** Layers they are known to be of, and so many of each: those go first. */
  named: readonly { layerSeq: number; quantity: Decimal }[];
}

/** How value leaves a pool. One implementation for each cost method an item can be given before its first movement. */
export interface CostMethod {
  /** Whether what comes in is kept as layers of its own. */
  keepsLayers: boolean;
  /** Value, in whole cents, that goods take with them, and out of which layers. The last unit takes what is left. */
  take(holding: Holding, leaving: Leaving): { value: Decimal; moves: LayerMove[] };
  /** What so many more, found, would be worth, in whole cents; null when nothing is here. */
  worthOf(holding: Holding, quantity: Decimal): Decimal | null;
}

export const costMethodNames = ['average', 'fifo', 'specific'] as const;
export type CostMethodName = (typeof costMethodNames)[number];

export const costMethods: Record<CostMethodName, CostMethod> = {
  average,
  fifo: layered(() => true),
  specific: layered((layer, { lotId }) => layer.lotId === lotId),
};
