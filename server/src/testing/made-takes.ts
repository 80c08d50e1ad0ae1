import { randomUUID } from 'node:crypto';
import { builtInPassage, writeWav } from '@isochron/core/material';
import { newPracticeConfig } from '@isochron/core/planning';
import { DEFAULT_SETTINGS, type Passage, type PracticeSession, type Take } from '@isochron/core/schema';
import { practise } from '../demo/practice';

const AT = '2026-03-01T18:00:00.000Z';

/** The passage of every take made here. */
export const PASSAGE = builtInPassage('five-steps') as Passage;

/** The practice session of every take made here. */
export const PRACTICE_SESSION: PracticeSession = {
  id: '1b4e28ba-2fa1-4d2e-883f-0016d3cca427',
  startedAt: AT,
  lastAt: AT,
  blocks: [],
};

const { take: pattern } = practise({
  takeId: randomUUID(),
  sessionId: PRACTICE_SESSION.id,
  startedAt: new Date(AT),
  passage: PASSAGE,
  config: newPracticeConfig(PASSAGE, DEFAULT_SETTINGS),
  startBpm: 60,
  skill: DEFAULT_SETTINGS.skill,
  seed: 11,
  patience: 3,
  withSound: false,
});

/** A take as the Bench sends it; each is another one. */
export const makeOne = (id: string = randomUUID()): Take => ({ ...pattern, id });

/** A recording, told apart from others by its seed. */
export const makeWav = (seed: number, frames = 4800): Uint8Array<ArrayBuffer> =>
  writeWav(
    Float32Array.from({ length: frames }, (_, n) => Math.sin((n * (seed + 3)) / 50) / 2),
    48_000,
  );

/** Sends JSON. */
export const sendJson = (address: string, method: 'PUT' | 'PATCH' | 'POST', body: unknown): Promise<Response> =>
  fetch(address, { method, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) });

/** Sends a recording, or a piece of one. */
export const sendWav = (
  address: string,
  body: Uint8Array<ArrayBuffer>,
  headers: Record<string, string> = {},
): Promise<Response> => fetch(address, { method: 'PUT', headers: { 'Content-Type': 'audio/wav', ...headers }, body });
