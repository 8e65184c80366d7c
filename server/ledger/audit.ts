import { connect } from '../db/database';
import { migrate } from '../db/migrate';
import { repair } from './repair';
import { verify } from './verify';

const pool = connect(process.env.DATABASE_URL ?? '', { max: 1, patient: true });
// What was put back from a backup may be of an earlier version: it is brought up to this one before it is held against its laws.
if (process.env.AUDIT_RESTORED === '1') {
  await migrate(pool);
  await repair(pool, new Date());
}
const laws = await verify(pool);
await pool.end();
// After the journeys only what is wrong is told, law by law: ten audits that find nothing are ten lines.
const told = process.env.AUDIT_BRIEF === '1' ? laws.filter((law) => law.broken.length > 0) : laws;
for (const law of told) {
  console.log(`${law.broken.length === 0 ? 'holds ' : 'BROKEN'}  ${String(law.checked).padStart(8)}  ${law.name}`);
  for (const { what } of law.broken) console.log(`                    ${what}`);
}
const broken = laws.filter((law) => law.broken.length > 0).length;
console.log(broken === 0 ? `All ${laws.length} laws hold.` : `${broken} of ${laws.length} laws are broken.`);
process.exit(broken === 0 ? 0 : 1);
