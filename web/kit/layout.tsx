import Box, { type BoxProps } from '@mui/material/Box';
import Paper, { type PaperProps } from '@mui/material/Paper';
import type { Theme } from '@mui/material/styles';
import type { SystemStyleObject } from '@mui/system';
import type { ElementType } from 'react';

type Style = SystemStyleObject<Theme>;

/** The width below which pages are laid out for a phone. */
export const phone = '@media (max-width: 760px)';

const pad: Style = { padding: '12px 14px' };
const stack: Style = { display: 'grid', gap: 14, alignContent: 'start', '& > *': { minWidth: 0 } };
const fields: Style = { display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(210px, 1fr))', gap: 12 };
const state: Style = { padding: '40px 20px', color: 'text.secondary', textAlign: 'center' };

/** Fields of one row beside one another, as wide as `columns` says; on a phone two by two. */
export const inRow = (columns: string, alignItems: 'start' | 'end' = 'end'): Style => ({
  gridTemplateColumns: columns,
  alignItems,
  [phone]: { gridTemplateColumns: 'repeat(2, minmax(0, 1fr))' },
});

/** Styles that are there, with what the caller adds. */
const styles = (own: readonly (Style | false | undefined)[], sx: BoxProps['sx']) => [
  ...own.filter((one): one is Style => Boolean(one)),
  ...(Array.isArray(sx) ? sx : [sx]),
];

interface CardProps extends PaperProps {
  component?: ElementType;
  /** Room between its edge and what it holds. */
  pad?: boolean;
  /** What it holds stands one under the other. */
  stack?: boolean;
  /** It holds fields, as many beside one another as there is room for. */
  fields?: boolean;
  /** It says that there is nothing, or that something is awaited. */
  state?: boolean;
  /** What is too wide for it is scrolled in it. */
  sheet?: boolean;
}

const card: Style = {
  position: 'relative', // what is hidden in it scrolls with it, and widens no page
  '& > h2': { padding: '11px 14px', borderBottom: 1, borderColor: 'divider', '& > span': { marginLeft: 8, color: 'text.secondary', fontWeight: 400 } },
  '& > .MuiTable-root:first-of-type th:first-of-type': { borderTopLeftRadius: 10 },
  '& > .MuiTable-root:first-of-type th:last-of-type': { borderTopRightRadius: 10 },
  [phone]: { overflowX: 'auto' },
};

/** A sheet of card on the paper of the page: a table, a block of fields, a few words. */
export function Card({ pad: padded, stack: stacked, fields: ofFields, state: ofState, sheet, sx, ...rest }: CardProps) {
  const own = [card, padded && pad, stacked && stack, ofFields && fields, ofState && state, sheet && { overflowX: 'auto' }];
  return <Paper component="section" sx={styles(own, sx)} {...rest} />;
}

interface BlockProps extends BoxProps {
  pad?: boolean;
}

const block =
  (name: string, base: Style, component: ElementType = 'div') =>
  ({ pad: padded, sx, ...rest }: BlockProps) => <Box component={component} data-block={name} sx={styles([base, padded && pad], sx)} {...rest} />;

/** Parts one under the other. */
export const Stack = block('stack', stack);
/** Fields, as many beside one another as there is room for. */
export const Fields = block('fields', fields);
/** Three columns, or one on a phone. */
export const Columns = block('columns', {
  display: 'grid',
  gridTemplateColumns: 'repeat(3, minmax(0, 1fr))',
  gap: 14,
  alignItems: 'start',
  [phone]: { gridTemplateColumns: 'minmax(0, 1fr)' },
});
/** The head of a page: what it is about, and at its side what holds it to some. */
export const PageHead = block('head', { display: 'flex', flexWrap: 'wrap', alignItems: 'baseline', gap: 14, marginBottom: 10 });
export const Side = block(
  'side',
  {
    display: 'flex',
    alignItems: 'center',
    gap: 8,
    marginLeft: 'auto',
    '& > *': { flex: 'none' },
    [phone]: { flexWrap: 'wrap', marginLeft: 0, '& > *': { flex: '0 1 auto' } },
  },
  'span',
);
/** Checks and small fields in a row. */
export const Choices = block('choices', { display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: '4px 18px', padding: '4px 0', fontSize: 13 });
/** Facts with their names over them: `dt` and `dd` in a `div` each. */
export const FactList = block(
  'facts',
  { display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(170px, 1fr))', gap: '12px 20px', margin: 0, '& dd': { margin: '2px 0 0' } },
  'dl',
);
/** Sums one under the other, their names before them: `dt` and `dd` in a `div` each. */
export const Sums = block(
  'sums',
  {
    display: 'grid',
    gridTemplateColumns: 'auto auto',
    justifyContent: 'end',
    gap: '2px 22px',
    margin: 0,
    paddingTop: 8,
    '& div': { display: 'contents' },
    '& dd': { margin: 0, textAlign: 'right' },
  },
  'dl',
);
/** What was done, a line each, as high as a few of them. */
export const Log = block(
  'log',
  {
    maxHeight: 170,
    margin: 0,
    padding: 0,
    overflowY: 'auto',
    '& li': { display: 'flex', alignItems: 'center', justifyContent: 'space-between', gap: 10, padding: '6px 14px' },
  },
  'ol',
);
/** The page before one is signed in. */
export const Doorway = block(
  'doorway',
  { display: 'grid', placeItems: 'center', height: '100dvh', '& form': { display: 'grid', gap: 14, width: 340, padding: 26 } },
  'main',
);
/** Buttons and links of which one is where one is. */
export const Ways = block(
  'ways',
  { display: 'inline-flex', flexWrap: 'wrap', gap: 4, '& > .MuiButton-root': { height: 32, padding: '0 12px', fontWeight: 400, [phone]: { height: 44 } } },
  'span',
);
/** Sums at the right, under a table. */
export const Totals = block('totals', {
  display: 'flex',
  gap: 26,
  justifyContent: 'flex-end',
  padding: '10px 12px',
  color: 'text.secondary',
  '& b': { color: 'text.primary' },
});
/** That there is nothing here, or that it is awaited. */
export const State = block('state', state, 'p');

interface SplitProps extends BoxProps {
  /** As high as the page, with each side scrolled on its own. */
  fill?: boolean;
  /** Both sides are equally wide. */
  even?: boolean;
}

/** The main thing on the left, and on the right what it is about or what is decided of it. */
export function Split({ fill, even, sx, ...rest }: SplitProps) {
  const sides: Style = {
    display: 'grid',
    gridTemplateColumns: even ? 'repeat(2, minmax(0, 1fr))' : 'minmax(0, 1fr) 352px',
    gap: 16,
    alignItems: 'start',
    [phone]: { gridTemplateColumns: 'minmax(0, 1fr)' },
  };
  const filled: Style = {
    height: '100%',
    gridTemplateRows: 'minmax(0, 1fr)',
    '& > *': { maxHeight: '100%', overflow: 'auto' },
    [phone]: { height: 'auto', '& > *': { maxHeight: 'none' } },
  };
  return <Box sx={styles([sides, fill && filled], sx)} {...rest} />;
}
