import { hash } from '@node-rs/argon2';
import { refuseField } from '@larder/core/refusal';
import type { ZxcvbnFactory } from '@zxcvbn-ts/core';

/** What knows the words people take for passwords: half a second to load, so only once a password is to be judged. */
let guessing: Promise<ZxcvbnFactory> | null = null;
async function loadGuessing(): Promise<ZxcvbnFactory> {
  const [{ ZxcvbnFactory }, common, english] = await Promise.all([
    import('@zxcvbn-ts/core'),
    import('@zxcvbn-ts/language-common'),
    import('@zxcvbn-ts/language-en'),
  ]);
  return new ZxcvbnFactory({ dictionary: { ...common.dictionary, ...english.dictionary }, graphs: common.adjacencyGraphs });
}

/** How hard it must be to guess, of 0 to 4: 3 withstands a long offline attack on a slow hash. */
const hardEnough = 3;

/** The argon2id hash of a new password. Refuses, by its field, one that is easy to guess, also from what is known of the person. */
export async function newPassword(password: string, about: readonly string[]): Promise<string> {
  guessing ??= loadGuessing();
  if ((await guessing).check(password, [...about, 'tidy larder', 'larder']).score < hardEnough)
    throw refuseField(422, 'easy-to-guess', 'password', 'This is easy to guess. Take several words that have nothing to do with each other.');
  return hash(password);
}
