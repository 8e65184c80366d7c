import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource/atkinson-hyperlegible-mono/latin-400.css';
import './tokens.css';
import './base.css';
import './shell.css';
import '../kit/pieces.css';
import '../kit/tables.css';
import '../kit/forms.css';
import { ThemeProvider } from '@mui/material/styles';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { RouterProvider } from 'react-router';
import { router } from './routes';
import { store } from './store';
import { theme } from './theme';

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <Provider store={store}>
      <ThemeProvider theme={theme} defaultMode="system">
        <RouterProvider router={router} />
      </ThemeProvider>
    </Provider>
  </StrictMode>,
);
