import type pg from 'pg';
import type { Noun } from '@larder/contract/nouns';
import { runImport } from '@larder/contract/exchange';
import { startLook } from '@larder/contract/levels';
import { writeFile, type Writing } from './exchange/service';
import { lookAtAll, type Looking } from './planning/look';

/** What a request begins and what goes on after its answer: the writing of a file, or a look at the past of all items. */
export type GoingOn = { kind: 'write'; writing: Writing } | { kind: 'look'; looking: Looking };

export const goOn = (pool: pg.Pool, work: GoingOn): Promise<void> => (work.kind === 'write' ? writeFile(pool, work.writing) : lookAtAll(pool, work.looking));

/** What was changed once it has ended. */
export const changedBy = ({ kind }: GoingOn): readonly Noun[] => (kind === 'write' ? runImport : startLook).changes;
