/** The first steps of a business: what each is called, how it is done and where. */
export const steps = {
  places: {
    next: 'Set up the first bins',
    name: 'Sites and bins',
    how: 'Where stock lies: a building or van, and its shelves, many at once by a pattern.',
    to: '/setup',
    also: null,
  },
  items: {
    next: 'Set up the first item',
    name: 'First items',
    how: 'One by one in ten seconds each, or a whole spreadsheet.',
    to: '/items/new',
    also: { to: '/import?kind=items', name: 'import a file' },
  },
  opening: {
    next: 'Add opening stock',
    name: 'Opening count',
    how: 'How many lie where, and what they are worth.',
    to: '/stock/opening',
    also: { to: '/import?kind=opening', name: 'import a file' },
  },
  'order-in': {
    next: 'Write the first purchase order',
    name: 'First order in',
    how: 'Write a purchase order, place it, and receive it.',
    to: '/inbound/orders/new',
    also: { to: '/inbound/unordered', name: 'receive without an order' },
  },
  'order-out': {
    next: 'Write the first quote',
    name: 'First order out',
    how: 'Write a quote, confirm it, pick it and send it.',
    to: '/outbound/orders/new',
    also: null,
  },
};
