// npm run restore -- FILE [--replace]: a backup into an empty database; over one that has something only when told to.
import { resolve } from 'node:path';
import { restore } from './archive.mjs';
import { ensurePackages } from './packages.mjs';
import { say, withServer } from './serverOf.mjs';

ensurePackages();
const [file, ...options] = process.argv.slice(2);
if (file === undefined || options.some((option) => !['--replace', '--empty'].includes(option))) {
  console.error('Say which backup: npm run restore -- FILE, and --replace to put it over a business that is there already.');
  process.exit(1);
}
await withServer(async ({ server, database }) => {
  const { madeAt } = await restore(server, database, resolve(file), options.includes('--replace'));
  say(`The business is as it was on ${madeAt}. npm start serves it.`);
});
