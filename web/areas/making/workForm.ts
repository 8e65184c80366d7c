import type { WorkChange, WorkForm, WorkOrder, workProposal } from '@larder/contract/workOrders';
import type { ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText, type Decimal } from '@larder/core/decimal';
import { inSteps } from '@larder/core/making/work';
import { isNumber } from '@larder/core/number';

export type Proposal = ResponseOf<typeof workProposal>;

/** A part of a work order while it is typed. */
export interface ComponentRow {
  /** Null while it is new. */
  id: number | null;
  itemId: number;
  sku: string;
  name: string;
  unit: string;
  quantity: string;
  note: string;
  free: string;
  taken: string;
}
export interface CostRow {
  name: string;
  per: 'hour' | 'piece';
  quantity: string;
  rate: string;
  accountId: number | null;
}
export interface WorkDraft {
  item: { id: number; sku: string; name: string } | null;
  siteId: number | null;
  quantity: string;
  startsOn: string;
  dueOn: string;
  /** Null: as the bill has them. */
  steps: string | null;
  note: string;
  /** As the bill in use says: what stands in the lists does not count. */
  byBill: boolean;
  components: ComponentRow[];
  costs: CostRow[];
}

export const workRowKeys = {
  components: { key: ({ id, itemId }: ComponentRow): string => (id === null ? `new ${itemId}` : String(id)), typed: ['quantity', 'note'] as const },
  costs: ({ name }: CostRow): string => name,
};

/** What the bill says, to be changed for this order. */
export const typedParts = ({ components, costs }: Proposal): { components: ComponentRow[]; costs: CostRow[] } => ({
  components: components.map((part) => ({ ...part, id: null, taken: '0' })),
  costs: costs.map((cost) => ({ ...cost })),
});

export const newPart = (item: { id: number; sku: string; name: string; unit: string }, quantity: string): ComponentRow => ({
  ...{ id: null, itemId: item.id, sku: item.sku, name: item.name, unit: item.unit, quantity },
  ...{ note: '', free: '', taken: '0' },
});

/** What stands in the form of an order that was written. */
export const workDraft = (one: WorkOrder): WorkDraft => ({
  item: { id: one.itemId, sku: one.sku, name: one.name },
  siteId: one.siteId,
  quantity: one.quantity,
  startsOn: one.startsOn,
  dueOn: one.dueOn,
  steps: one.steps,
  note: one.note,
  byBill: false,
  components: one.lines
    .filter(({ needed, taken }) => Number(needed) > 0 || Number(taken) > 0)
    .map(({ id, itemId, sku, name, unit, needed, note, taken }) => ({ id, itemId, sku, name, unit, quantity: needed, note, taken, free: '' })),
  costs: one.costs.map(({ name, per, quantity, rate, accountId }) => ({ name, per, quantity, rate, accountId })),
});

/** Parts and costs of an order when it is for so many: what stands as the order says for `was` follows, what was typed otherwise stays. */
export function followed(one: WorkOrder, { components, costs }: Pick<WorkDraft, 'components' | 'costs'>, was: string, now: string) {
  const follow = <R extends { quantity: string }>(row: R, due: (many: string) => Decimal): R =>
    row.quantity.trim() === quantityText(due(was)) ? { ...row, quantity: quantityText(due(now)) } : row;
  const share = (of: string) => (many: string) => decimal(of).times(many).div(one.quantity);
  return {
    components: components.map((row) => {
      const line = one.lines.find(({ id }) => id === row.id);
      return line ? follow(row, (many) => inSteps(share(line.needed)(many), decimal(line.step))) : row;
    }),
    costs: costs.map((row) => {
      const cost = one.costs.find(({ name }) => name === row.name);
      return cost ? follow(row, (many) => share(cost.quantity)(many).toDecimalPlaces(4)) : row;
    }),
  };
}

const isWanted = ({ quantity }: ComponentRow): boolean => quantity.trim() !== '' && !(isNumber(quantity, 'quantity') && Number(quantity) === 0);
const sentPart = ({ itemId, quantity, note }: ComponentRow) => ({ itemId, quantity, note });

export const workBody = (typed: WorkDraft, salesLineId: number | null, release: boolean): WorkForm => ({
  itemId: typed.item?.id ?? null,
  siteId: typed.siteId,
  quantity: typed.quantity,
  startsOn: typed.startsOn,
  dueOn: typed.dueOn,
  steps: typed.steps,
  note: typed.note,
  salesLineId,
  components: typed.byBill ? null : typed.components.filter(isWanted).map(sentPart),
  costs: typed.byBill ? null : typed.costs,
  release,
});

export const changeBody = (typed: WorkDraft, version: number): WorkChange => ({
  version,
  quantity: typed.quantity,
  startsOn: typed.startsOn,
  dueOn: typed.dueOn,
  steps: typed.steps ?? '',
  note: typed.note,
  components: typed.components.filter(isWanted).map((row) => ({ ...sentPart(row), id: row.id })),
  costs: typed.costs,
});

/** In which field stands what was refused of something sent. */
export function workField(path: string, typed: WorkDraft): string {
  const [list, at, ...part] = path.split('.');
  if (list === 'itemId') return 'item';
  if (list !== 'components' || at === undefined) return path;
  const sent = typed.components.filter(isWanted)[Number(at)];
  return ['components', sent ? typed.components.indexOf(sent) : at, ...part].join('.');
}
