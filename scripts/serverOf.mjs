import { startPostgres } from './postgres.mjs';

export const say = (text) => console.log(text);

/** Does `work` with the database server of this folder, started if need be; what goes wrong is told in a sentence. */
export async function withServer(work) {
  const server = await startPostgres();
  try {
    await work({ server, database: process.argv.includes('--empty') ? 'larder_empty' : 'larder' });
  } catch (error) {
    console.error(error.message);
    process.exitCode = 1;
  } finally {
    await server.stop();
  }
}
