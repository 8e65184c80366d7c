import * as alerts from './alerts';
import * as attributes from './attributes';
import * as bearers from './bearers';
import * as bills from './bills';
import * as books from './books';
import * as carriers from './carriers';
import * as catalog from './catalog';
import * as colleagues from './colleagues';
import * as corrections from './corrections';
import * as counts from './counts';
import * as customers from './customers';
import type { Endpoint } from './endpoint';
import * as direct from './direct';
import * as exchange from './exchange';
import * as explain from './explain';
import * as families from './families';
import * as floor from './floor';
import * as gaps from './gaps';
import * as handover from './handover';
import * as inbound from './inbound';
import * as invoices from './invoices';
import * as landed from './landed';
import * as levels from './levels';
import * as lists from './lists';
import * as loans from './loans';
import * as lots from './lots';
import * as making from './making';
import * as margin from './margin';
import * as moves from './moves';
import * as outbound from './outbound';
import * as papers from './papers';
import * as people from './people';
import * as picking from './picking';
import * as planning from './planning';
import * as post from './post';
import * as prices from './prices';
import * as printing from './printing';
import * as recalls from './recalls';
import * as receiving from './receiving';
import * as runningLow from './runningLow';
import * as setup from './setup';
import * as setupLists from './setupLists';
import * as shipping from './shipping';
import * as reminders from './reminders';
import * as returns from './returns';
import * as stock from './stock';
import * as ubl from './ubl';
import * as transfers from './transfers';
import * as takingApart from './takingApart';
import * as work from './work';
import * as workOrders from './workOrders';
import * as workRecords from './workRecords';

const isEndpoint = (value: unknown): value is Endpoint => typeof value === 'object' && value !== null && 'path' in value && 'method' in value;

/** Every endpoint there is, area by area. */
export const endpoints: Endpoint[] = [
  people,
  colleagues,
  setup,
  setupLists,
  papers,
  carriers,
  catalog,
  families,
  attributes,
  inbound,
  receiving,
  stock,
  floor,
  explain,
  corrections,
  moves,
  counts,
  transfers,
  loans,
  reminders,
  lots,
  recalls,
  outbound,
  customers,
  gaps,
  picking,
  shipping,
  direct,
  making,
  margin,
  returns,
  prices,
  planning,
  levels,
  runningLow,
  alerts,
  lists,
  post,
  printing,
  exchange,
  bills,
  invoices,
  ubl,
  landed,
  books,
  bearers,
  handover,
  work,
  workOrders,
  workRecords,
  takingApart,
].flatMap((area) => Object.values(area).filter(isEndpoint));
