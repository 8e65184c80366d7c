import { connect } from '../db/database';
import { verify } from './verify';

const pool = connect(process.env.DATABASE_URL ?? '', { max: 1, patient: true });
const laws = await verify(pool);
await pool.end();
for (const law of laws) {
  console.log(`${law.broken.length === 0 ? 'holds ' : 'BROKEN'}  ${String(law.checked).padStart(8)}  ${law.name}`);
  for (const { what } of law.broken) console.log(`                    ${what}`);
}
const broken = laws.filter((law) => law.broken.length > 0).length;
console.log(broken === 0 ? `All ${laws.length} laws hold.` : `${broken} of ${laws.length} laws are broken.`);
process.exit(broken === 0 ? 0 : 1);
