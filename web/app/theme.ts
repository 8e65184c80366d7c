import { createTheme, type Components, type Theme } from '@mui/material/styles';
import { colour, schemes } from './tokens';
import { phone } from '../kit/layout';

declare module '@mui/material/Table' {
  interface TablePropsSizeOverrides {
    /** Cells that are written in, close to one another. */
    grid: true;
  }
}
declare module '@mui/material/TableCell' {
  interface TableCellPropsSizeOverrides {
    grid: true;
  }
}

const line = `1px solid ${colour('rule')}`;
const touch = { [phone]: { minHeight: 44 } };
const focus = { outline: `2px solid ${colour('damson')}`, outlineOffset: 2 };

/** Words that say more than their letters: codes, what is quiet, late, low, there; said twice, so that they hold on MUI's components too. */
const words = {
  '.code.code': { fontFamily: "'Atkinson Hyperlegible Mono', monospace", fontSize: 13, whiteSpace: 'nowrap' },
  'h1.code.code, h1 .code.code': { fontSize: 22 },
  '.quiet.quiet': { color: colour('quiet') },
  '.late.late, .out.out': { color: colour('brick'), fontWeight: 600 },
  '.low.low': { color: colour('quince-text') },
  '.here.here': { color: colour('sage') },
  '.strong.strong': { fontWeight: 600 },
  '.nowrap': { whiteSpace: 'nowrap' },
  '.name': { display: 'block', minWidth: 120, overflow: 'hidden', textOverflow: 'ellipsis' },
  '.pad': { padding: '12px 14px' },
  // Each as high as a finger or a pointer needs, one right below the other.
  '.lotline': { display: 'block', paddingLeft: 10, color: colour('quiet'), fontSize: 12, lineHeight: '24px' },
  '.binline': { display: 'inline-block', lineHeight: '24px' },
  '.hidden': { position: 'absolute', width: 1, height: 1, overflow: 'hidden', clipPath: 'inset(50%)', whiteSpace: 'nowrap' },
  kbd: { padding: '2px 7px', border: line, borderRadius: 5, background: colour('paper'), color: colour('quiet'), font: 'inherit', fontSize: 12 },
  [phone]: { '.wide-only.wide-only': { display: 'none' } },
  '@media (min-width: 761px)': { '.phone-only.phone-only': { display: 'none' } },
} as const;

/** The page itself. */
const page = {
  ...schemes,
  'html, body, #root': { height: '100%', margin: 0 },
  body: { background: colour('paper'), color: colour('ink'), fontVariantNumeric: 'tabular-nums slashed-zero' },
  'h1, h2, h3, p': { margin: 0 },
  h1: { fontSize: 22, lineHeight: 1.3 },
  h2: { fontSize: 14 },
  a: { color: 'inherit', textDecoration: 'none', '&:hover': { textDecoration: 'underline' } },
  ':focus-visible': { ...focus, borderRadius: 4 },
  fieldset: { minWidth: 0, margin: 0, padding: 0, border: 0 },
  svg: { verticalAlign: 'middle' },
  ...words,
  // Who has asked for less that moves.
  '@media (prefers-reduced-motion: reduce)': { '*, *::before, *::after': { transitionDuration: '0s !important', animationDuration: '0s !important' } },
} as const;

const buttons: Components<Theme> = {
  MuiButtonBase: { defaultProps: { disableRipple: true }, styleOverrides: { root: { '&.Mui-focusVisible': focus } } },
  MuiButton: {
    defaultProps: { variant: 'outlined', color: 'inherit', disableElevation: true },
    styleOverrides: {
      root: {
        gap: 10,
        minWidth: 0,
        height: 36,
        padding: '0 16px',
        border: line,
        borderRadius: 8,
        background: colour('card'),
        color: colour('ink'),
        font: 'inherit',
        fontWeight: 600,
        textTransform: 'none',
        whiteSpace: 'nowrap',
        flex: 'none',
        ...touch,
        '&:hover': { borderColor: colour('damson'), background: colour('card'), textDecoration: 'none' },
        '&.Mui-disabled': { border: line, color: 'inherit', opacity: 0.5 },
        '&[aria-current="page"]': { borderColor: colour('damson'), background: colour('damson-soft'), fontWeight: 600 },
        '& kbd': { [phone]: { display: 'none' } },
      },
    },
    variants: [
      { props: { size: 'small' }, style: { height: 28, padding: '0 10px', fontSize: 13 } },
      {
        props: { variant: 'contained' },
        style: {
          borderColor: colour('damson'),
          background: colour('damson'),
          color: colour('on-damson'),
          '&:hover': { background: colour('damson') },
          '&.Mui-disabled': { background: colour('damson'), color: colour('on-damson') },
          '& kbd': { border: 0, background: 'rgb(255 255 255 / 20%)', color: 'inherit' },
        },
      },
      {
        props: { variant: 'text' },
        style: { height: 'auto', padding: '2px 4px', border: 0, background: 'none', '&:hover': { background: 'none', textDecoration: 'underline' } },
      },
    ],
  },
  MuiToggleButtonGroup: { styleOverrides: { root: { flexWrap: 'wrap', gap: 4 }, grouped: { margin: 0 } } },
  MuiToggleButton: {
    defaultProps: { color: 'standard' },
    styleOverrides: {
      root: {
        height: 32,
        padding: '0 12px',
        border: `${line} !important`,
        borderRadius: '8px !important',
        background: colour('card'),
        color: colour('ink'),
        font: 'inherit',
        textTransform: 'none',
        whiteSpace: 'nowrap',
        ...touch,
        '&:hover': { background: colour('card') },
        '&.Mui-selected, &.Mui-selected:hover': {
          borderColor: `${colour('damson')} !important`,
          background: colour('damson-soft'),
          color: colour('ink'),
          fontWeight: 600,
        },
      },
    },
  },
  MuiCheckbox: {
    defaultProps: { size: 'small', color: 'primary' },
    styleOverrides: { root: { padding: 3, color: colour('quiet'), [phone]: { padding: 12 }, '&.Mui-focusVisible': { ...focus, outlineOffset: -1 } } },
  },
  MuiRadio: { defaultProps: { size: 'small' }, styleOverrides: { root: { padding: 3, color: colour('quiet') } } },
  MuiFormControlLabel: { styleOverrides: { root: { margin: 0, gap: 4, ...touch }, label: { font: 'inherit' } } },
};

const fields: Components<Theme> = {
  MuiFormControl: { styleOverrides: { root: { gap: 3, minWidth: 0 } } },
  MuiFormLabel: {
    styleOverrides: {
      root: {
        color: colour('quiet'),
        fontSize: 12,
        fontWeight: 600,
        lineHeight: 1.45,
        '&.Mui-focused, &.Mui-disabled': { color: colour('quiet') },
        '&.Mui-error': { color: colour('quiet') },
      },
    },
  },
  MuiFormHelperText: { styleOverrides: { root: { margin: 0, fontSize: 12, '&.Mui-error': { color: colour('brick') } } } },
  MuiInputBase: {
    styleOverrides: {
      root: { minWidth: 0, fontSize: 'inherit', lineHeight: 1.45, color: colour('ink') },
      input: { '&::placeholder': { color: colour('quiet'), opacity: 0.85 } },
    },
  },
  MuiOutlinedInput: {
    defaultProps: { notched: false },
    styleOverrides: {
      root: {
        height: 36,
        borderRadius: 6,
        background: colour('card'),
        '&:hover .MuiOutlinedInput-notchedOutline': { borderColor: colour('quiet') },
        '&.Mui-focused .MuiOutlinedInput-notchedOutline': { borderColor: colour('damson'), borderWidth: 2 },
        '&.Mui-error .MuiOutlinedInput-notchedOutline': { borderColor: colour('brick') },
        '& .MuiNativeSelect-icon': { color: colour('quiet') },
        ...touch,
      },
      multiline: { height: 'auto', padding: '8px 0' },
      input: { height: '100%', boxSizing: 'border-box', padding: '0 10px', '&:focus-visible': { outline: 'none' } },
      notchedOutline: { borderColor: colour('rule'), top: 0, '& legend': { display: 'none' } },
    },
    variants: [{ props: { size: 'small' }, style: { height: 30, '& .MuiOutlinedInput-input': { padding: '0 7px' } } }],
  },
  MuiNativeSelect: { styleOverrides: { select: { '&:focus': { background: 'none' } } } },
  MuiAutocomplete: {
    defaultProps: { size: 'medium' },
    styleOverrides: { inputRoot: { padding: '0 10px', '& .MuiAutocomplete-input': { padding: '0 !important' } }, option: { minHeight: 36 } },
  },
};

const surfaces: Components<Theme> = {
  MuiPaper: { defaultProps: { variant: 'outlined' }, styleOverrides: { root: { border: line, backgroundImage: 'none' }, rounded: { borderRadius: 10 } } },
  MuiDialog: { defaultProps: { slotProps: { paper: { variant: 'outlined' } } } },
  MuiDialogTitle: { styleOverrides: { root: { padding: 0, font: 'inherit', fontSize: 15, fontWeight: 600 } } },
  MuiPopover: { defaultProps: { slotProps: { paper: { variant: 'outlined' } } } },
  MuiBottomNavigation: { styleOverrides: { root: { height: 54, borderTop: line, background: colour('card') } } },
  MuiBottomNavigationAction: {
    styleOverrides: {
      root: {
        minWidth: 0,
        maxWidth: 'none',
        padding: 0,
        font: 'inherit',
        color: colour('quiet'),
        '&.Mui-selected': { color: colour('damson'), fontWeight: 600 },
      },
      label: { font: 'inherit', fontSize: 12, '&.Mui-selected': { fontSize: 12, fontWeight: 600 } },
    },
  },
  MuiMenuItem: {
    styleOverrides: { root: { minHeight: 36, font: 'inherit', ...touch, '&.Mui-selected, &.Mui-selected:hover': { background: colour('damson-soft') } } },
  },
  MuiAlert: {
    defaultProps: { icon: false },
    styleOverrides: {
      root: { padding: '9px 14px', border: line, borderRadius: 8, alignItems: 'center', color: colour('ink'), font: 'inherit' },
      message: { display: 'flex', flexWrap: 'wrap', flex: 1, gap: 10, alignItems: 'center', padding: 0, '& > span': { flex: '1 1 220px' } },
    },
    variants: [
      { props: { severity: 'warning' }, style: { background: colour('quince-soft') } },
      { props: { severity: 'error' }, style: { background: colour('brick-soft') } },
      { props: { severity: 'success' }, style: { background: colour('sage-soft') } },
    ],
  },
};

/** Below 760 px a list of the floor stands as cards: what it is in front, the figure at the right, the rest under it. */
const floor = {
  [phone]: {
    '& .MuiTableHead-root': { display: 'none' },
    '& .MuiTableRow-root': { display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) auto', borderBottom: line },
    '& .MuiTableCell-root': { height: 'auto', border: 0 },
    '& .under': { gridColumn: '1 / -1', width: 'auto !important' },
    '& .MuiOutlinedInput-root': { height: 44 },
  },
};

const tables: Components<Theme> = {
  MuiTable: { styleOverrides: { root: { '&[hidden]': { display: 'none' }, '&.floor': floor } } },
  MuiTableCell: {
    styleOverrides: {
      root: {
        height: 44,
        padding: '5px 10px',
        borderBottom: line,
        color: 'inherit',
        font: 'inherit',
        '.MuiTableBody-root > .MuiTableRow-root:last-child > &': { borderBottom: 0 },
        '& a.figure:hover': { color: colour('damson') },
        '&.inset': { paddingLeft: 28 },
      },
      head: {
        position: 'sticky',
        top: 0,
        zIndex: 2,
        height: 'auto',
        padding: '9px 10px',
        background: colour('card'),
        color: colour('quiet'),
        fontSize: 12,
        fontWeight: 600,
        whiteSpace: 'nowrap',
      },
      footer: { height: 'auto', padding: '9px 10px', borderBottom: 0, color: colour('quiet'), fontSize: 12, fontWeight: 600 },
      // What a column comes to in several currencies takes lines enough.
      alignRight: { whiteSpace: 'nowrap', '&.MuiTableCell-footer': { whiteSpace: 'normal' } },
    },
    variants: [
      { props: { size: 'small', variant: 'body' }, style: { height: 26, padding: '2px 10px', borderBottom: 0 } },
      { props: { size: 'grid' }, style: { padding: '3px 6px' } },
      { props: { size: 'grid', variant: 'body' }, style: { height: 36 } },
    ],
  },
  MuiTableRow: {
    styleOverrides: {
      root: {
        '&[hidden]': { display: 'none' },
        '&.selectable': { cursor: 'pointer' },
        '&.Mui-selected, &.Mui-selected:hover, &[aria-selected="true"]': { background: colour('damson-soft') },
        '&.off > .MuiTableCell-root': { opacity: 0.55 },
        '&.group > .MuiTableCell-root': {
          height: 'auto',
          padding: '8px 10px 2px',
          borderTop: line,
          borderBottom: 0,
          color: colour('quiet'),
          fontSize: 12,
          fontWeight: 600,
        },
        '&.whole .MuiOutlinedInput-notchedOutline': { borderStyle: 'dashed' },
        '&.under > .MuiTableCell-root:nth-of-type(2)': { paddingLeft: 30 },
      },
    },
  },
  MuiStepper: {
    styleOverrides: {
      root: {
        flexWrap: 'wrap',
        justifyContent: 'flex-start',
        gap: '6px 10px',
        '& .MuiStepConnector-root': { flex: '0 1 60px', minWidth: 8 },
        margin: '0 0 12px',
        padding: 0,
        listStyle: 'none',
      },
    },
  },
  MuiStep: { styleOverrides: { root: { flex: 'none', padding: '0 !important' } } },
  MuiStepConnector: { styleOverrides: { line: { borderColor: colour('rule') } } },
  MuiStepLabel: {
    styleOverrides: {
      root: { padding: 0 },
      iconContainer: { paddingRight: 6 },
      label: {
        color: colour('ink'),
        font: 'inherit',
        whiteSpace: 'nowrap',
        '&.Mui-active, &.Mui-completed': { color: colour('ink') },
        '&.Mui-active': { fontWeight: 700 },
      },
    },
  },
  MuiTableSortLabel: { styleOverrides: { root: { '&.Mui-active': { color: colour('ink') } }, icon: { fontSize: 14, margin: 0 } } },
};

/** Both schemes have the same: each colour is a token, which is another one in the dark. */
const palette = {
  primary: { main: colour('damson'), contrastText: colour('on-damson') },
  error: { main: colour('brick') },
  warning: { main: colour('quince') },
  success: { main: colour('sage') },
  info: { main: colour('slate') },
  background: { default: colour('paper'), paper: colour('card') },
  text: { primary: colour('ink'), secondary: colour('quiet') },
  divider: colour('rule'),
};

/** The look, said once: MUI's components on our paper, with damson for where one is and what is next. Spacing is in pixels. */
export const theme = createTheme({
  cssVariables: { nativeColor: true, colorSchemeSelector: '[data-scheme="%s"]' },
  colorSchemes: { light: { palette }, dark: { palette } },
  spacing: 1,
  breakpoints: { values: { xs: 0, sm: 761, md: 1000, lg: 1280, xl: 1600 } },
  typography: { fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif", fontSize: 14, body1: { fontSize: 14, lineHeight: 1.45 } },
  shape: { borderRadius: 6 },
  components: { MuiCssBaseline: { styleOverrides: page }, ...buttons, ...fields, ...surfaces, ...tables },
});
