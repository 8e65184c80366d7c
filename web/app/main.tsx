import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource/atkinson-hyperlegible-mono/latin-400.css';
import './frame.css';
import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { Routed } from '../kit/Routed';
import { router } from './routes';
import { store } from './store';
import { theme } from './theme';

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <Provider store={store}>
      <ThemeProvider theme={theme} defaultMode="system">
        <CssBaseline />
        <Routed router={router} />
      </ThemeProvider>
    </Provider>
  </StrictMode>,
);
