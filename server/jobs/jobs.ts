/** What a change can cause, and what its job has to know. */
export interface Caused {
  sendLetter: { letterId: number };
  tellCarrier: { shipmentId: number };
  remind: Record<string, never>;
  /** Items of which something changed: what waits already is added to. */
  watch: number[];
}

interface Job {
  /** Jobs of one queue are done one after the other. */
  queue: string;
  /** How often it is tried. After the nth time it waits e to the n seconds, at most six hours: eleven times take about eight hours, so that a server which is down for an hour is none of its ends. */
  attempts: number;
}

/** How each is done that a change causes. */
export const jobs: Record<keyof Caused, Job> = {
  sendLetter: { queue: 'letters', attempts: 11 },
  tellCarrier: { queue: 'carriers', attempts: 8 },
  remind: { queue: 'remind', attempts: 3 },
  watch: { queue: 'watch', attempts: 5 },
};

/** How long a job waits after it failed for the nth time, in milliseconds, as the queue has it. */
export const pauseAfter = (tries: number): number => 1000 * Math.exp(Math.min(10, tries));
