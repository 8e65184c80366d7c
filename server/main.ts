import { pino } from 'pino';
import { createApp } from './app';
import { connect } from './db/database';
import { migrate } from './db/migrate';
import { prepare } from './demo/prepare';
import { startMailServer } from './standins/mailServer';
import { startPoster } from './areas/post/poster';

const log = pino({ level: process.env.LOG_LEVEL ?? 'info', redact: ['req.headers.cookie', 'password'] });
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL says which database to use; npm start sets it.');
const port = Number(process.env.PORT ?? 4310);
const pool = connect(url, 16);
pool.on('error', (error) => log.warn({ err: error }, 'database connection lost'));

await migrate(pool);
const signIns = await prepare(pool, { empty: process.argv.includes('--empty') }, (text) => log.info(text));
const mail = process.env.SMTP_URL ? { url: process.env.SMTP_URL, stop: () => Promise.resolve() } : await startMailServer(pool, log);
const stopPoster = startPoster(pool, mail.url, log);
const { app } = createApp({ pool, clock: () => new Date() }, log);
const server = app.listen(port, '127.0.0.1', () => {
  console.log(`\nTidy Larder is at http://127.0.0.1:${port}`);
  for (const line of signIns) console.log(`  ${line}`);
});

/** Stops taking requests, lets those under way finish, then goes. */
function stop(): void {
  log.info('stopping');
  const quiet = stopPoster().then(mail.stop);
  server.close(() => void quiet.then(() => pool.end()).then(() => process.exit(0)));
  server.closeIdleConnections();
}
process.once('SIGTERM', stop);
process.once('SIGINT', stop);
