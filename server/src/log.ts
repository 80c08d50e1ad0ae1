import { createHash } from 'node:crypto';
import { newPracticeConfig } from '@isochron/core/planning';
import { dayStartMs, HOUR_MS, type LoggedTempo, type Passage } from '@isochron/core/schema';
import { loggedTake } from '@isochron/core/strategy';
import type { Store } from './database/open';
import { getPlayerSettings } from './settings';
import { putNote, putTake } from './takes';

/** A UUID that says always the same of the same line: a log that is read in twice is there once. */
const idOf = (...parts: string[]): string => {
  const hex = createHash('sha256').update(parts.join('/')).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-5${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
};

const NOON_MS = 12 * HOUR_MS;

/** Stores the lines of a log as takes of a passage; those that are stored already stay as they are. Gives back how many are new. */
export const storeLog = async (
  store: Store,
  passage: Passage,
  tempos: readonly LoggedTempo[],
  zone: string,
): Promise<number> => {
  const config = newPracticeConfig(passage, await getPlayerSettings(store));
  let added = 0;
  for (const tempo of tempos) {
    const id = idOf('log', passage.id, tempo.day, String(tempo.bpm));
    if (await store.models.takes.findByPk(id, { attributes: ['id'] })) continue;
    const sessionId = idOf('log-sitting', tempo.day);
    // Noon where the player is, so that it is the same day in every list.
    const startedAt = new Date(dayStartMs(zone, tempo.day) + NOON_MS).toISOString();
    const session = { id: sessionId, startedAt, lastAt: startedAt, blocks: [] };
    await store.write(async (transaction) => {
      await store.models.sessions.upsert({ id: sessionId, startedAt, document: session }, { transaction });
    });
    const take = loggedTake(tempo, passage, config, { id, sessionId, startedAt });
    await putTake(store, take);
    if (tempo.note) await putNote(store, id, tempo.note);
    added += 1;
  }
  return added;
};
