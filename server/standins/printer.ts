import type { Act } from '../act';
import { printJob } from '../db/schema/index';

export interface Printed {
  title: string;
  pages: number;
  pdf: Buffer;
}

/** What prints. A real one hands the PDF to a print server; both keep what they printed. */
export interface Printer {
  print(act: Act, job: Printed): Promise<number>;
}

/** The printer stand-in: keeps what it was given, to be looked at and downloaded. Returns the job's id. */
export const printer: Printer = {
  async print(act, job) {
    const [added] = await act.tx.db
      .insert(printJob)
      .values({ ...job, personId: act.by.id, at: act.now.toISOString() })
      .returning({ id: printJob.id });
    return added?.id as number;
  },
};
