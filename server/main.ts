import { pino } from 'pino';
import { createApp } from './app';
import { connect } from './db/database';
import { migrate } from './db/migrate';
import { prepare } from './demo/prepare';
import { startMailServer } from './standins/mailServer';
import { sendWaiting } from './areas/post/poster';
import { every } from './jobs/every';
import { changeDay } from './ledger/pastUse';
import { repair } from './ledger/repair';

const log = pino({ level: process.env.LOG_LEVEL ?? 'info', redact: ['req.headers.cookie', 'password'] });
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL says which database to use; npm start sets it.');
const port = Number(process.env.PORT ?? 4310);
const pool = connect(url, 16);
pool.on('error', (error) => log.warn({ err: error }, 'database connection lost'));

await migrate(pool);
for (const what of await repair(pool, new Date())) log.info(`put right: ${what}`);
const signIns = await prepare(pool, { empty: process.argv.includes('--empty') }, (text) => log.info(text));
const mail = process.env.SMTP_URL ? { url: process.env.SMTP_URL, stop: () => Promise.resolve() } : await startMailServer(pool, log);
const jobs = [
  every(2000, 'sending letters', log, () => sendWaiting(pool, mail.url, () => new Date())),
  every(60_000, 'the change of day', log, () => changeDay(pool, new Date())),
];
const { app } = createApp({ pool, clock: () => new Date() }, log);
const server = app.listen(port, '127.0.0.1', () => {
  console.log(`\nTidy Larder is at http://127.0.0.1:${port}`);
  for (const line of signIns) console.log(`  ${line}`);
});

/** Stops taking requests, lets those under way finish, then goes. */
function stop(): void {
  log.info('stopping');
  const quiet = Promise.all(jobs.map((stopJob) => stopJob())).then(mail.stop);
  server.close(() => void quiet.then(() => pool.end()).then(() => process.exit(0)));
  server.closeIdleConnections();
}
process.once('SIGTERM', stop);
process.once('SIGINT', stop);
