import type { Encoding } from '@larder/core/exchange/text';
import { readTable, type FileFound } from './readTable';
import { shapedRows, type Reading } from './shape';

export type Ask =
  { id: number; open: ArrayBuffer; name: string; encoding?: Encoding | undefined; separator?: string | undefined } | { id: number; shape: Reading };
export type Answer = { id: number; found: FileFound } | { id: number; rows: string[][] } | { id: number; fault: string };

let rows: string[][] = [];

self.onmessage = async ({ data }: MessageEvent<Ask>) => {
  const answer = (given: Answer) => self.postMessage(given);
  try {
    if ('shape' in data) answer({ id: data.id, rows: shapedRows(rows, data.shape) });
    else {
      const read = await readTable(data.open, data.name, data.encoding, data.separator);
      rows = read.rows;
      answer({ id: data.id, found: read.found });
    }
  } catch (error) {
    answer({ id: data.id, fault: error instanceof Error ? error.message : 'The file could not be read.' });
  }
};
