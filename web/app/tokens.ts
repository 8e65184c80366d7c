/** The colours of the look: on light paper, and on dark. The dark ones keep the hues and turn paper and ink about. */
const tokens = {
  paper: ['#f7f3ea', '#1f1a22'],
  card: ['#fffdf8', '#28222c'],
  oat: ['#ebe3d3', '#332b37'],
  rule: ['#d8cdb8', '#4b4150'],
  ink: ['#2b2430', '#f1eae0'],
  quiet: ['#635a66', '#b5a9b4'],
  damson: ['#5a2a55', '#d9a8d2'],
  'damson-soft': ['#eadde8', '#4b3148'],
  'on-damson': ['#fffdf8', '#2b1629'],
  sage: ['#4e7358', '#8fbb9a'],
  'sage-soft': ['#dde8dd', '#2f4034'],
  slate: ['#3f5f77', '#9cc0da'],
  'slate-soft': ['#dae4eb', '#2c3b47'],
  quince: ['#b97a12', '#dfa94e'],
  'quince-text': ['#855400', '#e9bb6a'],
  'quince-soft': ['#f6e7c6', '#4a3a1c'],
  brick: ['#a53f2b', '#ee9a86'],
  'brick-soft': ['#f5ddd5', '#4e2b24'],
} as const satisfies Record<string, readonly [light: string, dark: string]>;
type Token = keyof typeof tokens;

/** A colour of the look, as the scheme in force has it. */
export const colour = (token: Token): string => `var(--${token})`;

const variables = (scheme: 0 | 1): Record<string, string> =>
  Object.fromEntries(Object.entries(tokens).map(([token, colours]) => [`--${token}`, colours[scheme]]));

/** The tokens as CSS variables, for the page and for our own drawings. */
export const schemes = {
  ':root': { ...variables(0), colorScheme: 'light' },
  ':root[data-scheme="dark"]': { ...variables(1), colorScheme: 'dark' },
};
