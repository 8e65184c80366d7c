import type { Progress } from '@larder/contract/work';

/** How far a piece of work is, written by the thread that does it and read by the server, in memory that both see. */
export type Shared = SharedArrayBuffer;

const places = { begun: 0, done: 1, total: 2 };

/** Room for the progress of one piece of work that waits for a thread. */
export const roomForProgress = (): Shared => new SharedArrayBuffer(Object.keys(places).length * Int32Array.BYTES_PER_ELEMENT);

/** What the thread says of its work: at once that it has begun, and then how many are done, of how many if that is known. */
export function progressIn(room: Shared): (done: number, total?: number) => void {
  const told = new Int32Array(room);
  const tell = (done: number, total = 0) => {
    Atomics.store(told, places.total, total);
    Atomics.store(told, places.done, done);
  };
  Atomics.store(told, places.begun, 1);
  return tell;
}

/** What the person who waits is told; `gone` of work that is done, or was never known. */
export function readProgress(room: Shared | undefined): Progress {
  if (!room) return { state: 'gone', done: 0, total: null };
  const told = new Int32Array(room);
  const of = (place: number) => Atomics.load(told, place);
  return { state: of(places.begun) === 1 ? 'working' : 'waiting', done: of(places.done), total: of(places.total) || null };
}

/** Batches as they pass, with how many rows have gone by told. */
export async function* countedBy<T>(tell: ((done: number) => void) | undefined, batches: AsyncIterable<T[]>): AsyncGenerator<T[]> {
  let done = 0;
  for await (const rows of batches) {
    yield rows;
    done += rows.length;
    tell?.(done);
  }
}
