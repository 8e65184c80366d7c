import type { Serve } from '../http/route';
import { billRoutes } from './bills/routes';
import { bookRoutes } from './books/routes';
import { carrierRoutes } from './carriers/routes';
import { catalogRoutes } from './catalog/routes';
import { exchangeRoutes } from './exchange/routes';
import type { Writing } from './exchange/service';
import { handoverRoutes } from './handover/routes';
import { inboundRoutes } from './inbound/routes';
import { invoiceRoutes } from './invoices/routes';
import { landedRoutes } from './landed/routes';
import { listRoutes } from './lists/routes';
import { outboundRoutes } from './outbound/routes';
import { colleagueRoutes } from './people/routes';
import { planningRoutes } from './planning/routes';
import { postRoutes } from './post/routes';
import { priceRoutes } from './prices/routes';
import { printingRoutes } from './printing/routes';
import { returnRoutes } from './returns/routes';
import { setupRoutes } from './setup/routes';
import { transferRoutes } from './transfers/routes';
import { ublRoutes } from './ubl/routes';
import { stockRoutes } from './stock/routes';

/** What every area can be asked. `begin` starts the writing of a file, which goes on after its answer. */
export function areaRoutes(serve: Serve, begin: (writing: Writing) => void): void {
  setupRoutes(serve);
  colleagueRoutes(serve);
  carrierRoutes(serve);
  catalogRoutes(serve);
  inboundRoutes(serve);
  postRoutes(serve);
  billRoutes(serve);
  invoiceRoutes(serve);
  ublRoutes(serve);
  landedRoutes(serve);
  bookRoutes(serve);
  handoverRoutes(serve);
  stockRoutes(serve);
  transferRoutes(serve);
  outboundRoutes(serve);
  returnRoutes(serve);
  priceRoutes(serve);
  planningRoutes(serve);
  listRoutes(serve);
  printingRoutes(serve);
  exchangeRoutes(serve, begin);
}
