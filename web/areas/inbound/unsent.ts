import type { DeskChange } from '@larder/core/inbound/tally';

/** A change that the server will not take, and why. */
export interface RefusedChange {
  change: DeskChange;
  why: string;
}

/** What a person did at the desk that the server does not have: it waits on this machine, shared by all windows, until it is sent or dropped. */
export function unsentOn(personId: number) {
  const [waitingAt, refusedAt] = [`desk-unsent-${personId}`, `desk-refused-${personId}`];
  const read = <T>(place: string): T[] => JSON.parse(localStorage.getItem(place) ?? '[]') as T[];
  const write = (place: string, rows: readonly unknown[]) => localStorage.setItem(place, JSON.stringify(rows));
  const waiting = () => read<DeskChange>(waitingAt);
  const refused = () => read<RefusedChange>(refusedAt);
  const sent = (changes: readonly DeskChange[]) => {
    const keys = new Set(changes.map(({ key }) => key));
    write(
      waitingAt,
      waiting().filter(({ key }) => !keys.has(key)),
    );
  };
  return {
    waiting,
    refused,
    add: (change: DeskChange) => write(waitingAt, [...waiting(), change]),
    sent,
    refuse: (change: DeskChange, why: string) => {
      write(refusedAt, [...refused(), { change, why }]);
      sent([change]);
    },
    drop: (key: string) =>
      write(
        refusedAt,
        refused().filter(({ change }) => change.key !== key),
      ),
  };
}
