import type { Endpoint } from '@larder/contract/endpoint';
import { me, signOut } from '@larder/contract/people';
import type { Answer, AskedHere } from '../ask';
import { after, hold, known, ownedBy } from './answers';
import { connection } from './connection';

export { sendOrKeep } from './sending';

/** What a device of the floor makes of an answer to what was read: it is held, and where none came the last one is given; always as it is after what waits. */
export async function readHere(endpoint: Endpoint, asked: AskedHere, path: string, { data, error }: Answer): Promise<Answer> {
  if (error === undefined) {
    connection.back();
    const holding = hold(endpoint, path, data).catch((failed: unknown) => console.warn('This answer is not held on this device.', failed));
    // Whose answers these are is known first; nobody waits for the rest.
    if (endpoint.path === me.path) await holding;
    return { data: await after(endpoint, asked, data) };
  }
  // Whoever is signed in here no more, or was shut out, leaves nothing to be read.
  if (error.status === 401) await ownedBy(null);
  if (error.status !== 0 && error.status < 502) return { error };
  connection.lost();
  const told = await known(endpoint, asked, path);
  return told === undefined ? { error } : { data: await after(endpoint, asked, told) };
}

/** Forgets what is held once somebody signs out. */
export async function writtenHere(endpoint: Endpoint, { error }: Answer): Promise<void> {
  if (error === undefined && endpoint.path === signOut.path) await ownedBy(null);
}
