import * as exchange from '@larder/contract/exchange';
import papa from 'papaparse';
import type { Business } from './business';

type Kind = exchange.ImportForm['kind'];

/** The cells of a CSV file, headings first. */
export const cellsOf = (bytes: Buffer): string[][] =>
  papa.parse<string[]>(
    bytes
      .toString()
      .replace(/^\ufeff/, '')
      .trim(),
  ).data;

/** Brings files in and takes lists out, as the owner of a business. */
export const filesOf = (business: () => Business) => {
  const check = (kind: Kind, fields: (string | null)[], ...rows: string[][]): Promise<exchange.Import> =>
    business().owner.get(exchange.checkImport, { body: { kind, fileName: `${kind}.csv`, headings: fields.map((field) => field ?? 'x'), fields, rows } });
  const run = async (id: number): Promise<exchange.Import> => {
    await business().owner.get(exchange.runImport, { params: { id } });
    for (;;) {
      const { import: now } = await business().owner.get(exchange.getImport, { params: { id } });
      if (now.state !== 'running') return now;
      await new Promise((later) => setTimeout(later, 20));
    }
  };
  const file = async (path: string, init: RequestInit = {}): Promise<Buffer> => {
    const answer = await fetch(`${business().base}/api/exchange/${path}`, {
      ...init,
      headers: { Cookie: business().owner.cookie, 'Content-Type': 'application/json' },
    });
    return Buffer.from(await answer.arrayBuffer());
  };
  return {
    /** Dry run. */
    check,
    rowsOf: async (id: number): Promise<exchange.ImportRow[]> =>
      (await business().owner.get(exchange.getImport, { params: { id }, query: { limit: 200 } })).rows,
    /** Writes what was checked, and waits until it is done. */
    run,
    bringIn: async (kind: Kind, fields: string[], ...rows: string[][]): Promise<exchange.Import> => run((await check(kind, fields, ...rows)).id),
    refused: async (id: number): Promise<string[][]> => cellsOf(await file(`imports/${id}/refused`)),
    exported: (list: string, fields: string, format = 'csv', q = '', more = {}): Promise<Buffer> =>
      file(`exports/${list}`, { method: 'POST', body: JSON.stringify({ fields, format, q, ...more }) }),
  };
};
