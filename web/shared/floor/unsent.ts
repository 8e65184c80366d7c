import { isPastKnowing } from '@larder/contract/requestKey';
import type { Problem } from '@larder/contract/values';
import type { DeskChange } from '@larder/core/inbound/tally';
import { isForLater } from '../ask';

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

/** Changes sent at once. */
const most = 500;
/** What is said of what is too old to be sent: whether it was done before is not known any more. */
export const tooOld =
  'This was begun more than three months ago, and whether it was done is no longer known. Look in the trail, and do it anew if it is not there.';

/**
 * Sends what waits, oldest first, as long as answers come; of changes sent together of which one is refused, one by one. What is older than keys are kept is
 * set apart and never sent. With `before`, only what was done before that request. Answers whether nothing of it waits any more.
 */
export async function sendUnsent(
  unsent: ReturnType<typeof unsentOn>,
  send: (changes: DeskChange[]) => Promise<Problem | null>,
  before: string | null = null,
): Promise<boolean> {
  const next = (many: number) =>
    unsent
      .waiting()
      .filter(({ key }) => before === null || key < before)
      .slice(0, many);
  for (const change of next(Infinity)) if (isPastKnowing(change.key, new Date())) unsent.refuse(change, tooOld);
  let many = most;
  for (let changes = next(many); changes.length > 0; changes = next(many)) {
    const problem = await send(changes);
    if (problem === null) unsent.sent(changes);
    else if (isForLater(problem)) return false;
    else if (changes.length > 1) many = 1;
    else {
      unsent.refuse(changes[0] as DeskChange, problem.errors[0]?.sentence ?? problem.title);
      many = most;
    }
  }
  return true;
}
