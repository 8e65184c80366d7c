/** What a person may do. Roles are sets of these; a grant gives a role at one site or at all. */
export const rights = [
  'look',
  'items.edit',
  'setup.edit',
  'inbound.order',
  'inbound.receive',
  'outbound.sell',
  'outbound.ship',
  'stock.correct',
  'planning.top-up',
  'books.bill',
  'books.pay',
  'undo',
] as const;
export type Right = (typeof rights)[number];

/** Roles a new business starts with. */
export const firstRoles: Record<string, Right[]> = {
  Owner: [...rights],
  'Stock controller': rights.filter((right) => right !== 'setup.edit'),
  'Sales desk': ['look', 'outbound.sell'],
  Floor: ['look', 'inbound.receive', 'outbound.ship', 'stock.correct'],
  Onlooker: ['look'],
};
