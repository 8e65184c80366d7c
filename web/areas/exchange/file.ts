import type { Answer, Ask } from './readFile.worker';
import type { FileFound } from './readTable';
import type { Reading } from './shape';

/** A file in a worker of its own: reading it never stops the page. */
export class OpenFile {
  private readonly worker = new Worker(new URL('./readFile.worker.ts', import.meta.url), { type: 'module' });
  private asked = 0;

  constructor(readonly file: File) {}

  async read(choice: { encoding?: FileFound['encoding'] | undefined; separator?: string | undefined } = {}): Promise<FileFound> {
    const answer = await this.ask({
      id: 0,
      open: await this.file.arrayBuffer(),
      name: this.file.name,
      encoding: choice.encoding ?? undefined,
      separator: choice.separator,
    });
    if (!('found' in answer)) throw new Error('the worker answered something else');
    return answer.found;
  }

  async rows(reading: Reading): Promise<string[][]> {
    const answer = await this.ask({ id: 0, shape: reading });
    if (!('rows' in answer)) throw new Error('the worker answered something else');
    return answer.rows;
  }

  close(): void {
    this.worker.terminate();
  }

  private ask(what: Ask): Promise<Exclude<Answer, { fault: string }>> {
    const id = (this.asked += 1);
    return new Promise((resolve, reject) => {
      // A worker that runs out of memory tells nothing but that.
      const died = () => reject(new Error('The file is too much to be read here. Save what is needed of it as CSV, or in several files.'));
      const hear = ({ data }: MessageEvent<Answer>) => {
        if (data.id !== id) return;
        this.worker.removeEventListener('message', hear);
        this.worker.removeEventListener('error', died);
        if ('fault' in data) reject(new Error(data.fault));
        else resolve(data);
      };
      this.worker.addEventListener('message', hear);
      this.worker.addEventListener('error', died, { once: true });
      this.worker.postMessage({ ...what, id });
    });
  }
}
