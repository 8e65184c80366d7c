import { connect } from '../db/database';
import { migrate } from '../db/migrate';
import { repair } from './repair';
import { verify } from './verify';

/** Tells how a database stands by every law, those that hold only where it is not to be brief. Gives whether all of them hold. */
async function audit(url: string, isBrief: boolean): Promise<boolean> {
  const pool = connect(url, { max: 1, patient: true });
  // What was put back from a backup may be of an earlier version: it is brought up to this one before it is held against its laws.
  if (process.env.AUDIT_RESTORED === '1') {
    await migrate(pool);
    await repair(pool, new Date());
  }
  const laws = await verify(pool);
  await pool.end();
  const broken = laws.filter((law) => law.broken.length > 0);
  for (const law of isBrief ? broken : laws) {
    console.log(`${law.broken.length === 0 ? 'holds ' : 'BROKEN'}  ${String(law.checked).padStart(8)}  ${law.name}`);
    for (const { what } of law.broken) console.log(`                    ${what}`);
  }
  console.log(broken.length === 0 ? `All ${laws.length} laws hold.` : `${broken.length} of ${laws.length} laws are broken.`);
  return broken.length === 0;
}

/** Several databases by a name each, of which only what is broken is told, so that many that are well are a line each; else the one there is. */
const several = Object.entries(JSON.parse(process.env.AUDIT_DATABASES ?? '{}') as Record<string, string>);
let well = true;
for (const [name, url] of several) {
  process.stdout.write(`${name}: `);
  well = (await audit(url, true)) && well;
}
if (several.length === 0) well = await audit(process.env.DATABASE_URL ?? '', false);
process.exit(well ? 0 : 1);
