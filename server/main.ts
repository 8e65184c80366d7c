import { createApp } from './app';
import { openFounding } from './areas/people/founding';
import { answers } from './db/alone';
import { connect } from './db/database';
import { grantServing } from './db/grants';
import { migrate } from './db/migrate';
import { prepare } from './demo/prepare';
import { startThreads } from './heavy/threads';
import { listen } from './http/listen';
import { startLive } from './http/live';
import { startJobs } from './jobs/start';
import { repair } from './ledger/repair';
import { makeLog } from './log';
import { isLoopback, readSettings } from './settings';
import { startMailServer } from './standins/mailServer';

const log = makeLog();
const settings = readSettings(process.env, process.argv);
/** How long what is under way may take when the server is stopped, in milliseconds. */
const patience = 10_000;
const now = () => new Date();

// Before anybody is served, as the owner of the tables: migrations, repairs and the demo take as long as they take.
const owner = connect(settings.ownerUrl, { max: 16, patient: true });
await migrate(owner);
await grantServing(owner, settings.databaseUrl);
for (const what of await repair(owner, now())) log.info(`put right: ${what}`);
const signIns = await prepare(owner, { empty: settings.empty }, (text) => log.info(text));
const opened = await openFounding(owner);
await owner.end();
if (signIns.length > 0 && !isLoopback(settings.host))
  throw new Error('The passwords of the demo are known to all: it is served on this machine only. Leave HOST out, or start with --empty.');

const pool = connect(settings.databaseUrl, { max: 16 });
const health = connect(settings.databaseUrl, { max: 1, name: 'tidy-larder health', keep: true });
await answers(health);
pool.on('error', (error) => log.warn({ err: error }, 'database connection lost'));
const heavy = startThreads(settings.databaseUrl, (error, what) => log.error({ err: error }, `${what} failed`));
const mail = settings.smtpUrl ? { url: settings.smtpUrl, stop: () => Promise.resolve() } : await startMailServer(pool, log);
const live = await startLive(settings.databaseUrl, log);
const { databaseUrl, publicUrl } = settings;
const stopJobs = await startJobs({ databaseUrl, pool, smtpUrl: mail.url, publicUrl, now, tell: (changed) => live.tell(changed, null), goOn: heavy.goOn }, log);
const { app } = createApp({ pool, health, clock: now, heavy, live, founding: opened?.founding ?? null, publicUrl }, log, settings.proxies);
const listening = await listen(app, settings.port, settings.host).catch((error: Error) => {
  console.error(error.message);
  process.exit(1);
});
const address = `http://${settings.host.includes(':') ? `[${settings.host}]` : settings.host}:${listening.port}`;
const begin = opened ? [`Begin here; this link works once: ${address}/begin#${opened.token}`] : [];
// All at once: whoever reads it has the whole of it or nothing.
console.log([`\nTidy Larder is at ${address}`, ...begin, ...signIns].join('\n  '));

let stopping = false;
/** Stops taking requests, lets those under way finish, then goes; nothing is waited for longer than ten seconds. */
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  log.info('stopping');
  setTimeout(() => process.exit(1), 3 * patience).unref();
  const quiet = stopJobs();
  await live.stop();
  await listening.stop(patience);
  await heavy.stop(patience);
  await Promise.race([quiet, new Promise((later) => setTimeout(later, patience).unref())]);
  await mail.stop();
  await Promise.all([pool.end(), health.end()]);
  process.exit(0);
}
process.once('SIGTERM', () => void stop());
process.once('SIGINT', () => void stop());
// Without the start script there is nobody to stop it any more: it goes as well.
process.once('disconnect', () => void stop());
