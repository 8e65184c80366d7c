import { State } from '../kit/layout';
import type { Right } from '@larder/contract/rights';
import { createBrowserRouter } from 'react-router';
import type { Purpose } from './Entrance';
import { Lost } from './Lost';
import { Shell } from './Shell';

/** For a page that is nothing to those who may not do this. */
const forThose = (needs: Right): { handle: Purpose } => ({ handle: { needs } });

/** Every page, loaded with its area. */
export const router = createBrowserRouter([
  {
    path: '/',
    element: <Shell />,
    errorElement: <Lost />,
    hydrateFallbackElement: <State>One moment…</State>,
    children: [
      { index: true, lazy: async () => ({ Component: (await import('../areas/planning/TodayPage')).TodayPage }) },
      { path: 'items', lazy: async () => ({ Component: (await import('../areas/catalog/ItemsPage')).ItemsPage }) },
      { path: 'items/families', lazy: async () => ({ Component: (await import('../areas/catalog/FamiliesPage')).FamiliesPage }) },
      {
        path: 'items/families/new',
        ...forThose('items.edit'),
        lazy: async () => ({ Component: (await import('../areas/catalog/FamilyNewPage')).FamilyNewPage }),
      },
      { path: 'items/families/:id', lazy: async () => ({ Component: (await import('../areas/catalog/FamilyPage')).FamilyPage }) },
      { path: 'items/units', lazy: async () => ({ Component: (await import('../areas/stock/LotsPage')).LotsPage }) },
      { path: 'items/new', ...forThose('items.edit'), lazy: async () => ({ Component: (await import('../areas/catalog/ItemPage')).ItemPage }) },
      { path: 'items/:id', lazy: async () => ({ Component: (await import('../areas/catalog/ItemPage')).ItemPage }) },
      { path: 'inbound', lazy: async () => ({ Component: (await import('../areas/inbound/PurchasesPage')).PurchasesPage }) },
      {
        path: 'inbound/return',
        ...forThose('inbound.receive'),
        lazy: async () => ({ Component: (await import('../areas/inbound/ReturnFromPage')).ReturnFromPage }),
      },
      {
        path: 'inbound/orders/:id/return',
        ...forThose('inbound.receive'),
        lazy: async () => ({ Component: (await import('../areas/inbound/ReturnPage')).ReturnPage }),
      },
      {
        path: 'inbound/orders/:id/change',
        ...forThose('inbound.order'),
        lazy: async () => ({ Component: (await import('../areas/inbound/AmendPage')).AmendPage }),
      },
      {
        path: 'inbound/orders/:id/delivered',
        ...forThose('inbound.receive'),
        lazy: async () => ({ Component: (await import('../areas/inbound/DirectPage')).DirectPage }),
      },
      { path: 'inbound/orders/:id/send', ...forThose('inbound.order'), lazy: async () => ({ Component: (await import('../areas/post/SendPage')).SendPage }) },
      {
        path: 'outbound/orders/:id/send',
        ...forThose('outbound.sell'),
        lazy: async () => ({ Component: (await import('../areas/post/SendPage')).SendSalePage }),
      },
      {
        path: 'books/invoices/:id/send',
        ...forThose('books.invoice'),
        lazy: async () => ({ Component: (await import('../areas/post/SendPage')).SendInvoicePage }),
      },
      { path: 'post', lazy: async () => ({ Component: (await import('../areas/post/PostPage')).PostPage }) },
      { path: 'inbound/suppliers', lazy: async () => ({ Component: (await import('../areas/inbound/SuppliersPage')).SuppliersPage }) },
      { path: 'outbound/picking', lazy: async () => ({ Component: (await import('../areas/outbound/PickingPage')).PickingPage }) },
      { path: 'outbound/rounds/:id', lazy: async () => ({ Component: (await import('../areas/outbound/RoundPage')).RoundPage }) },
      { path: 'outbound/lines', lazy: async () => ({ Component: (await import('../areas/outbound/WaitingPage')).WaitingPage }) },
      {
        path: 'outbound/direct',
        ...forThose('inbound.order'),
        lazy: async () => ({ Component: (await import('../areas/outbound/DirectOrderPage')).DirectOrderPage }),
      },
      {
        path: 'outbound/to-invoice',
        ...forThose('books.invoice'),
        lazy: async () => ({ Component: (await import('../areas/invoices/ToInvoicePage')).ToInvoicePage }),
      },
      { path: 'outbound/returns', lazy: async () => ({ Component: (await import('../areas/returns/ReturnsPage')).ReturnsPage }) },
      { path: 'outbound/returns/report', lazy: async () => ({ Component: (await import('../areas/returns/ReturnReportPage')).ReturnReportPage }) },
      {
        path: 'outbound/returns/new',
        ...forThose('outbound.return'),
        lazy: async () => ({ Component: (await import('../areas/returns/ReturnPage')).ReturnPage }),
      },
      { path: 'outbound/returns/:id', lazy: async () => ({ Component: (await import('../areas/returns/ReturnPage')).ReturnPage }) },
      { path: 'outbound/prices', lazy: async () => ({ Component: (await import('../areas/outbound/PriceListsPage')).PriceListsPage }) },
      {
        path: 'outbound/prices/new',
        ...forThose('items.edit'),
        lazy: async () => ({ Component: (await import('../areas/outbound/PriceListPage')).PriceListPage }),
      },
      { path: 'outbound/prices/:id', lazy: async () => ({ Component: (await import('../areas/outbound/PriceListPage')).PriceListPage }) },
      {
        path: 'outbound/margin',
        ...forThose('costs.see'),
        lazy: async () => ({ Component: (await import('../areas/outbound/MarginPage')).MarginPage }),
      },
      { path: 'outbound/customers', lazy: async () => ({ Component: (await import('../areas/outbound/CustomersPage')).CustomersPage }) },
      {
        path: 'outbound/customers/new',
        ...forThose('items.edit'),
        lazy: async () => ({ Component: (await import('../areas/outbound/CustomerPage')).CustomerPage }),
      },
      { path: 'outbound/customers/:id', lazy: async () => ({ Component: (await import('../areas/outbound/CustomerPage')).CustomerPage }) },
      {
        path: 'inbound/suppliers/new',
        ...forThose('items.edit'),
        lazy: async () => ({ Component: (await import('../areas/inbound/SupplierPage')).SupplierPage }),
      },
      { path: 'inbound/suppliers/:id', lazy: async () => ({ Component: (await import('../areas/inbound/SupplierPage')).SupplierPage }) },
      {
        path: 'inbound/unordered',
        ...forThose('inbound.receive'),
        lazy: async () => ({ Component: (await import('../areas/inbound/UnorderedPage')).UnorderedPage }),
      },
      { path: 'inbound/desk', ...forThose('inbound.receive'), lazy: async () => ({ Component: (await import('../areas/inbound/DeskPage')).DeskPage }) },
      {
        path: 'inbound/orders/new',
        ...forThose('inbound.order'),
        lazy: async () => ({ Component: (await import('../areas/inbound/PurchasePage')).PurchasePage }),
      },
      { path: 'inbound/orders/:id', lazy: async () => ({ Component: (await import('../areas/inbound/PurchasePage')).PurchasePage }) },
      { path: 'stock', lazy: async () => ({ Component: (await import('../areas/stock/StockPage')).StockPage }) },
      { path: 'stock/trail', lazy: async () => ({ Component: (await import('../areas/stock/TrailPage')).TrailPage }) },
      { path: 'stock/move', ...forThose('stock.move'), lazy: async () => ({ Component: (await import('../areas/stock/MovePage')).MovePage }) },
      { path: 'stock/put-away', ...forThose('stock.move'), lazy: async () => ({ Component: (await import('../areas/stock/PutAwayPage')).PutAwayPage }) },
      { path: 'stock/transfers', lazy: async () => ({ Component: (await import('../areas/transfers/TransfersPage')).TransfersPage }) },
      {
        path: 'stock/transfers/new',
        ...forThose('stock.transfer'),
        lazy: async () => ({ Component: (await import('../areas/transfers/TransferNewPage')).TransferNewPage }),
      },
      { path: 'stock/transfers/:id', lazy: async () => ({ Component: (await import('../areas/transfers/TransferPage')).TransferPage }) },
      {
        path: 'stock/correction',
        ...forThose('stock.correct'),
        lazy: async () => ({ Component: (await import('../areas/stock/CorrectionPage')).CorrectionPage }),
      },
      { path: 'stock/opening', ...forThose('stock.correct'), lazy: async () => ({ Component: (await import('../areas/stock/OpeningPage')).OpeningPage }) },
      { path: 'stock/lots/:id', lazy: async () => ({ Component: (await import('../areas/stock/LotPage')).LotPage }) },
      { path: 'stock/bins/:id', lazy: async () => ({ Component: (await import('../areas/stock/BinPage')).BinPage }) },
      { path: 'outbound', lazy: async () => ({ Component: (await import('../areas/outbound/SalesPage')).SalesPage }) },
      { path: 'outbound/orders/new', ...forThose('outbound.sell'), lazy: async () => ({ Component: (await import('../areas/outbound/SalePage')).SalePage }) },
      {
        path: 'outbound/orders/:id/change',
        ...forThose('outbound.sell'),
        lazy: async () => ({ Component: (await import('../areas/outbound/SaleAmendPage')).SaleAmendPage }),
      },
      { path: 'outbound/orders/:id', lazy: async () => ({ Component: (await import('../areas/outbound/SalePage')).SalePage }) },
      { path: 'planning', lazy: async () => ({ Component: (await import('../areas/planning/TopUpPage')).TopUpPage }) },
      { path: 'books', ...forThose('costs.see'), lazy: async () => ({ Component: (await import('../areas/bills/BillsPage')).BillsPage }) },
      { path: 'books/bills/new', ...forThose('books.bill'), lazy: async () => ({ Component: (await import('../areas/bills/BillNewPage')).BillNewPage }) },
      { path: 'books/bills/:id', ...forThose('costs.see'), lazy: async () => ({ Component: (await import('../areas/bills/BillPage')).BillPage }) },
      {
        path: 'books/invoices',
        ...forThose('books.invoice'),
        lazy: async () => ({ Component: (await import('../areas/invoices/InvoicesPage')).InvoicesPage }),
      },
      {
        path: 'books/invoices/new',
        ...forThose('books.invoice'),
        lazy: async () => ({ Component: (await import('../areas/invoices/InvoiceNewPage')).InvoiceNewPage }),
      },
      {
        path: 'books/invoices/:id',
        ...forThose('books.invoice'),
        lazy: async () => ({ Component: (await import('../areas/invoices/InvoicePage')).InvoicePage }),
      },
      {
        path: 'books/invoices/:id/credit',
        ...forThose('books.invoice'),
        lazy: async () => ({ Component: (await import('../areas/invoices/CreditPage')).CreditPage }),
      },
      {
        path: 'books/debtors',
        ...forThose('books.invoice'),
        lazy: async () => ({ Component: (await import('../areas/invoices/DebtorsPage')).DebtorsPage }),
      },
      {
        path: 'books/debtors/:id',
        ...forThose('books.invoice'),
        lazy: async () => ({ Component: (await import('../areas/invoices/AccountPage')).AccountPage }),
      },
      { path: 'books/landed', ...forThose('costs.see'), lazy: async () => ({ Component: (await import('../areas/landed/LandedPage')).LandedPage }) },
      { path: 'books/landed/new', ...forThose('books.bill'), lazy: async () => ({ Component: (await import('../areas/landed/SheetPage')).SheetPage }) },
      { path: 'books/landed/:id', ...forThose('costs.see'), lazy: async () => ({ Component: (await import('../areas/landed/SheetPage')).SheetPage }) },
      { path: 'books/clearing', ...forThose('costs.see'), lazy: async () => ({ Component: (await import('../areas/landed/ClearingPage')).ClearingPage }) },
      { path: 'books/accounts', ...forThose('costs.see'), lazy: async () => ({ Component: (await import('../areas/books/AccountsPage')).AccountsPage }) },
      { path: 'books/accounts/:id', ...forThose('costs.see'), lazy: async () => ({ Component: (await import('../areas/books/AccountPage')).AccountPage }) },
      { path: 'books/journal', ...forThose('costs.see'), lazy: async () => ({ Component: (await import('../areas/books/JournalPage')).JournalPage }) },
      { path: 'books/handover', ...forThose('costs.see'), lazy: async () => ({ Component: (await import('../areas/handover/HandoverPage')).HandoverPage }) },
      { path: 'me', lazy: async () => ({ Component: (await import('../areas/people/MyPage')).MyPage }) },
      { path: 'setup', lazy: async () => ({ Component: (await import('../areas/setup/SetupPage')).SetupPage }) },
      { path: 'import', ...forThose('items.edit'), lazy: async () => ({ Component: (await import('../areas/exchange/ImportPage')).ImportPage }) },
      { path: 'labels', lazy: async () => ({ Component: (await import('../areas/printing/LabelsPage')).LabelsPage }) },
      { path: 'setup/bins', lazy: async () => ({ Component: (await import('../areas/setup/BinsPage')).BinsPage }) },
      { path: '*', element: <Lost /> },
    ],
  },
]);
