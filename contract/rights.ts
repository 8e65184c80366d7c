/** What a person may do. Roles are sets of these; a grant gives a role at one site or at all. */
export const rights = [
  'look',
  'costs.see',
  'items.edit',
  'setup.edit',
  'inbound.order',
  'inbound.receive',
  'outbound.sell',
  'outbound.ship',
  'outbound.hold',
  'outbound.over-limit',
  'outbound.return',
  'outbound.return-older',
  'stock.correct',
  'stock.count',
  'stock.transfer',
  'stock.move',
  'stock.lend',
  'making.write',
  'making.plan',
  'making.record',
  'making.unrecorded',
  'planning.top-up',
  'books.bill',
  'books.invoice',
  'books.pay',
  'undo',
] as const;
export type Right = (typeof rights)[number];

/**
 * Whether a right is held for a site or for the whole company. A company's right needs a grant for the company; a site's right is asked for each site
 * that something happens at.
 */
export const rightScope: Readonly<Record<Right, 'company' | 'site'>> = {
  look: 'site',
  'costs.see': 'site',
  'items.edit': 'company',
  'setup.edit': 'company',
  'inbound.order': 'site',
  'inbound.receive': 'site',
  'outbound.sell': 'site',
  'outbound.ship': 'site',
  'outbound.hold': 'site',
  'outbound.over-limit': 'site',
  'outbound.return': 'site',
  'outbound.return-older': 'site',
  'stock.correct': 'site',
  'stock.count': 'site',
  'stock.transfer': 'site',
  'stock.move': 'site',
  'stock.lend': 'site',
  'making.write': 'company',
  'making.plan': 'site',
  'making.record': 'site',
  'making.unrecorded': 'site',
  'planning.top-up': 'site',
  'books.bill': 'company',
  'books.invoice': 'company',
  'books.pay': 'company',
  undo: 'site',
};

/** A role's rights, given at one site or (null) for the whole company. */
export interface Grant {
  siteId: number | null;
  rights: readonly Right[];
}

/** Whoever writes prices, or what is paid, sees what things cost. */
const costly: readonly Right[] = ['items.edit', 'inbound.order', 'making.write', 'books.bill', 'books.pay'];
const gives = ({ rights: given }: Grant, right: Right): boolean =>
  given.includes(right) || (right === 'costs.see' && costly.some((each) => given.includes(each)));

/** Whether these grants give a right at a site; without a site (null), for the whole company. */
export const grantedAt = (grants: readonly Grant[], right: Right, siteId: number | null): boolean =>
  grants.some((grant) => gives(grant, right) && (grant.siteId === null || grant.siteId === siteId));

/** Sites; null for all of them. */
export type Sites = readonly number[] | null;

/** The sites at which these grants give a right. */
export const sitesGranted = (grants: readonly Grant[], right: Right): Sites =>
  grantedAt(grants, right, null) ? null : grants.flatMap((grant) => (grant.siteId !== null && gives(grant, right) ? [grant.siteId] : []));

/** Whether these grants give a right at all: for a company's right for the company, for a site's right at some site. */
export const grantedSomewhere = (grants: readonly Grant[], right: Right): boolean =>
  rightScope[right] === 'company' ? grantedAt(grants, right, null) : grants.some((grant) => gives(grant, right));

/** Whether cost and margin are shown: to whom may see them wherever they may look. */
export function seesCosts(grants: readonly Grant[]): boolean {
  const sites = sitesGranted(grants, 'look');
  return sites === null ? grantedAt(grants, 'costs.see', null) : sites.length > 0 && sites.every((siteId) => grantedAt(grants, 'costs.see', siteId));
}

/** Roles a new business starts with. */
export const firstRoles: Record<string, Right[]> = {
  Owner: [...rights],
  'Stock controller': rights.filter((right) => !['setup.edit', 'making.unrecorded'].includes(right)),
  'Sales desk': ['look', 'outbound.sell', 'outbound.return', 'stock.transfer'],
  Floor: [
    'look',
    'inbound.receive',
    'outbound.ship',
    'outbound.return',
    'stock.correct',
    'stock.count',
    'stock.transfer',
    'stock.move',
    'stock.lend',
    'making.record',
  ],
  Onlooker: ['look'],
};
