import { isPastKnowing, newRequestKey } from '@larder/contract/requestKey';
import { changeDesk, receive } from '@larder/contract/receiving';
import { finishBin } from '@larder/contract/counts';
import type { Noun } from '@larder/contract/nouns';
import type { Problem } from '@larder/contract/values';
import { decimal } from '@larder/core/decimal';
import { beyondLying } from '@larder/core/floor/held';
import { holdsFewer } from '@larder/core/ledger/sentences';
import { ask, isForLater, type Answer } from '../ask';
import { ownerHere, sitesNow } from './answers';
import { connection } from './connection';
import type { Waiting } from './database';
import type { Kept } from './kept';
import { sendUnsent, tooOld, unsentOn } from './unsent';
import { waiting, waitingOf } from './waiting';

/** So long an answer is waited for, in milliseconds, before the connection counts as lost: where it is weak, nobody stands and waits. */
const patience = 12_000;

type Wish = Omit<Waiting, 'key' | 'personId' | 'refused'> & { key?: string | undefined };

/** Sends something now; where nobody answers, or something older waits still, it is kept and sent later, in its turn. */
export async function sendOrKeep(wish: Wish, sentBody: string): Promise<Answer> {
  const personId = ownerHere();
  const key = wish.key ?? newRequestKey();
  if (personId === null) return ask({ method: 'POST', path: wish.path, body: sentBody, key });
  const isTurn = waitingOf(personId).length === 0 || (await sendWaiting());
  if (isTurn && connection.lostSince() === null) {
    const answer = await ask({ method: 'POST', path: wish.path, body: sentBody, key, patience });
    if (!answer.error || !isUnanswered(answer.error)) return answer;
    connection.lost();
  }
  const refusal = await refusedHere(wish);
  if (refusal) return { error: refusal };
  await waiting.add({ ...wish, key, personId, refused: null });
  return { data: { kept: key } satisfies Kept };
}

/** Nobody answered, or whoever did was not the server. What the server itself fails at is no matter of the connection. */
const isUnanswered = (problem: Problem): boolean => isForLater(problem) && ![401, 429, 500].includes(problem.status);

/** Refuses what this device knows cannot be done: more than lies there. */
async function refusedHere({ moves }: Wish): Promise<Problem | null> {
  for (const site of await sitesNow()) {
    const bins = new Set(site.bins.map(({ id }) => id));
    const beyond = beyondLying(
      site.lying,
      moves.map((move) => ({ ...move, fromBinId: move.fromBinId !== null && bins.has(move.fromBinId) ? move.fromBinId : null })),
    );
    const move = beyond && moves[beyond.index];
    if (!move) continue;
    const sku = site.items.find(({ id }) => id === move.itemId)?.sku ?? 'it';
    const bin = site.bins.find(({ id }) => id === move.fromBinId)?.code ?? 'The bin';
    const sentence = holdsFewer(bin, decimal(beyond.left), sku, decimal(move.quantity));
    return { type: 'not-enough-stock', status: 409, title: sentence, asks: [], errors: [{ field: `lines.${beyond.index}.quantity`, sentence }] };
  }
  return null;
}

const onSent = new Set<(changes: readonly Noun[]) => void>();
/** Tells what is to be read again once something that waited was done. Gives what ends that. */
export const whenSent = (tell: (changes: readonly Noun[]) => void): (() => void) => {
  onSent.add(tell);
  return () => void onSent.delete(tell);
};

let sending: Promise<boolean> | null = null;

/** Sends what waits, oldest first. Answers whether nothing waits any more. Of several windows one sends at a time. */
export function sendWaiting(): Promise<boolean> {
  sending ??= inTurn().finally(() => (sending = null));
  return sending;
}

const inTurn = async (): Promise<boolean> => {
  const locks = (navigator as Partial<Navigator>).locks;
  return locks ? ((await locks.request('tidy-larder waiting', sendAll)) as boolean) : sendAll();
};

async function sendAll(): Promise<boolean> {
  const personId = ownerHere();
  if (personId === null) return false;
  await waiting.read();
  const done = new Set<Noun>();
  let isAll = true;
  for (const one of waitingOf(personId)) {
    const outcome = await sendOne(one);
    if (outcome === 'later') {
      isAll = false;
      break;
    }
    for (const noun of one.changes) done.add(noun);
  }
  if (isAll && unsentOn(personId).waiting().length > 0) {
    isAll = await sendDesk(personId, null);
    for (const noun of changeDesk.changes) done.add(noun);
  }
  if (done.size > 0) for (const tell of onSent) tell([...done]);
  return isAll;
}

async function sendOne(one: Waiting): Promise<'done' | 'refused' | 'later'> {
  if (isPastKnowing(one.key, new Date())) {
    await waiting.refuse(one.key, tooOld);
    return 'refused';
  }
  // What was counted at the desk before goes first, what was counted after waits for this.
  if (isOf(one, receive) && !(await sendDesk(one.personId, one.key))) return 'later';
  const { data, error } = await ask({ method: 'POST', path: one.path, body: JSON.stringify(one.body), key: one.key, patience });
  if (error === undefined) {
    const recount = isOf(one, finishBin) ? Number((data as { recount?: number }).recount ?? 0) : 0;
    if (recount > 0)
      await waiting.refuse(one.key, `Goods moved meanwhile, or it differs much: ${recount === 1 ? 'a line is' : `${recount} lines are`} to be counted again.`);
    else await waiting.remove(one.key);
    return 'done';
  }
  // What the server fails at holds up nothing: it is set apart like what it refuses.
  if (isForLater(error) && error.status !== 500) {
    if (isUnanswered(error)) connection.lost();
    return 'later';
  }
  await waiting.refuse(one.key, error.errors[0]?.sentence ?? error.title);
  return 'refused';
}

const isOf = (one: Waiting, { method, path }: { method: string; path: string }): boolean => one.endpoint === `${method} ${path}`;

/** Sends what was counted at the desk, of before something that waits. */
const sendDesk = (personId: number, before: string | null): Promise<boolean> =>
  sendUnsent(
    unsentOn(personId),
    async (changes) => (await ask({ method: 'POST', path: changeDesk.path, body: JSON.stringify({ changes }), key: newRequestKey(), patience })).error ?? null,
    before,
  );
