import { openBusiness } from './testing/business';
import { ordered, sold } from './testing/trade';
import { pino } from 'pino';
const b = await openBusiness();
const it = await b.item('X-1');
b.pool.on('error', console.log);
try {
  console.log(await ordered(b, it, '5'));
} catch (e) {
  console.log(String(e));
}
await b.close();
process.exit(0);
