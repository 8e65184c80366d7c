import { createTheme } from '@mui/material/styles';

/** MUI takes its colours from the tokens, so that both schemes are said in one place. */
const colours = (dark: boolean) => ({
  palette: {
    mode: dark ? ('dark' as const) : ('light' as const),
    primary: { main: dark ? '#d9a8d2' : '#5a2a55' },
    error: { main: dark ? '#ee9a86' : '#a53f2b' },
    background: { default: dark ? '#1f1a22' : '#f7f3ea', paper: dark ? '#28222c' : '#fffdf8' },
    text: { primary: dark ? '#f1eae0' : '#2b2430', secondary: dark ? '#b5a9b4' : '#6d6470' },
  },
});

export const theme = createTheme({
  cssVariables: { colorSchemeSelector: '[data-scheme="%s"]' },
  colorSchemes: { light: colours(false), dark: colours(true) },
  typography: { fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif", fontSize: 14 },
  shape: { borderRadius: 6 },
  components: { MuiTextField: { defaultProps: { size: 'small' } } },
});
