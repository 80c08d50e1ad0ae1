import { Readable } from 'node:stream';
import { beatsInRecording, chance } from '@isochron/core/analysis';
import { soundInMemory, writeWav } from '@isochron/core/material';
import { inventAccompaniment, inventBeats } from '@isochron/core/simulation';
import { addAccompaniment, putAccompaniment } from '../accompaniments';
import type { Store } from '../database/open';

const RATE_HZ = 22_050;
const LENGTH_S = 50;
const BPM = 84;
/** A band that breathes a little, and whose beats are a few milliseconds off. */
const BREATH = 0.015;
const BREATH_S = 13;
const OFF_MS = 5;

/** An invented band to play along with, its beats found as those of any recording are. */
export const bringBand = async (store: Store, id: string, seed: number, addedAt: Date): Promise<void> => {
  const random = chance(seed);
  const even = inventBeats({
    bpm: BPM,
    firstS: 0.8,
    lengthS: LENGTH_S,
    share: (timeS) => 1 + BREATH * Math.sin((2 * Math.PI * timeS) / BREATH_S),
  });
  const beatsS = even.map((timeS) => timeS + (OFF_MS / 1000) * random.normal());
  const sound = inventAccompaniment({ beatsS, style: 'on every beat', lengthS: LENGTH_S, rateHz: RATE_HZ, seed });
  const found = beatsInRecording(soundInMemory(sound, RATE_HZ));
  const fresh = {
    id,
    revision: 0,
    title: 'Ferry band, made up',
    addedAt: addedAt.toISOString(),
    lengthS: LENGTH_S,
    beats: null,
  };
  const added = await addAccompaniment(store, fresh, Readable.from([Buffer.from(writeWav(sound, RATE_HZ))]), null);
  await putAccompaniment(store, { ...added, beats: { ...found, beatsPerBar: 4, firstBarBeat: 0 } });
};
