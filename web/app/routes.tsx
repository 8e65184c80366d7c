import { createBrowserRouter } from 'react-router';
import { Lost } from './Lost';
import { Shell } from './Shell';

/** Every page, loaded with its area. */
export const router = createBrowserRouter([
  {
    path: '/',
    element: <Shell />,
    errorElement: <Lost />,
    hydrateFallbackElement: <p className="state">One moment…</p>,
    children: [
      { index: true, lazy: async () => ({ Component: (await import('../areas/today/TodayPage')).TodayPage }) },
      { path: 'items', lazy: async () => ({ Component: (await import('../areas/items/ItemsPage')).ItemsPage }) },
      { path: 'items/families', lazy: async () => ({ Component: (await import('../areas/items/FamiliesPage')).FamiliesPage }) },
      { path: 'items/families/new', lazy: async () => ({ Component: (await import('../areas/items/FamilyNewPage')).FamilyNewPage }) },
      { path: 'items/families/:id', lazy: async () => ({ Component: (await import('../areas/items/FamilyPage')).FamilyPage }) },
      { path: 'items/:id', lazy: async () => ({ Component: (await import('../areas/items/ItemPage')).ItemPage }) },
      { path: 'inbound', lazy: async () => ({ Component: (await import('../areas/inbound/PurchasesPage')).PurchasesPage }) },
      { path: 'inbound/orders/:id/return', lazy: async () => ({ Component: (await import('../areas/inbound/ReturnPage')).ReturnPage }) },
      { path: 'inbound/loose', lazy: async () => ({ Component: (await import('../areas/inbound/LoosePage')).LoosePage }) },
      { path: 'inbound/desk', lazy: async () => ({ Component: (await import('../areas/inbound/DeskPage')).DeskPage }) },
      { path: 'inbound/orders/:id', lazy: async () => ({ Component: (await import('../areas/inbound/PurchasePage')).PurchasePage }) },
      { path: 'stock', lazy: async () => ({ Component: (await import('../areas/stock/StockPage')).StockPage }) },
      { path: 'stock/trail', lazy: async () => ({ Component: (await import('../areas/stock/TrailPage')).TrailPage }) },
      { path: 'stock/correction', lazy: async () => ({ Component: (await import('../areas/stock/CorrectionPage')).CorrectionPage }) },
      { path: 'stock/opening', lazy: async () => ({ Component: (await import('../areas/stock/OpeningPage')).OpeningPage }) },
      { path: 'stock/lots/:id', lazy: async () => ({ Component: (await import('../areas/stock/LotPage')).LotPage }) },
      { path: 'stock/bins/:id', lazy: async () => ({ Component: (await import('../areas/stock/BinPage')).BinPage }) },
      { path: 'outbound', lazy: async () => ({ Component: (await import('../areas/outbound/SalesPage')).SalesPage }) },
      { path: 'outbound/orders/:id', lazy: async () => ({ Component: (await import('../areas/outbound/SalePage')).SalePage }) },
      { path: 'planning', lazy: async () => ({ Component: (await import('../areas/planning/TopUpPage')).TopUpPage }) },
      { path: 'books', lazy: async () => ({ Component: (await import('../areas/books/BillsPage')).BillsPage }) },
      { path: 'books/bills/new', lazy: async () => ({ Component: (await import('../areas/books/BillNewPage')).BillNewPage }) },
      { path: 'books/bills/:id', lazy: async () => ({ Component: (await import('../areas/books/BillPage')).BillPage }) },
      { path: 'books/landed', lazy: async () => ({ Component: (await import('../areas/books/LandedPage')).LandedPage }) },
      { path: 'books/landed/:id', lazy: async () => ({ Component: (await import('../areas/books/SheetPage')).SheetPage }) },
      { path: 'books/clearing', lazy: async () => ({ Component: (await import('../areas/books/ClearingPage')).ClearingPage }) },
      { path: 'books/accounts', lazy: async () => ({ Component: (await import('../areas/books/AccountsPage')).AccountsPage }) },
      { path: 'books/accounts/:id', lazy: async () => ({ Component: (await import('../areas/books/AccountPage')).AccountPage }) },
      { path: 'books/journal', lazy: async () => ({ Component: (await import('../areas/books/JournalPage')).JournalPage }) },
      { path: 'setup', lazy: async () => ({ Component: (await import('../areas/setup/SetupPage')).SetupPage }) },
      { path: 'import', lazy: async () => ({ Component: (await import('../areas/exchange/ImportPage')).ImportPage }) },
      { path: 'labels', lazy: async () => ({ Component: (await import('../areas/printing/LabelsPage')).LabelsPage }) },
      { path: 'setup/bins', lazy: async () => ({ Component: (await import('../areas/setup/BinsPage')).BinsPage }) },
      { path: '*', element: <Lost /> },
    ],
  },
]);
