import type { Accompaniment, BeatsOf } from '@isochron/core/schema';
import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { playerMessage } from '../../app/report-error';
import { accompanimentSound } from '../../audio/accompaniment-sound';
import { monoOf } from '../../audio/decode-sound';
import { openFindingBeats } from '../../workers/open-worker';

/** Sound is decoded at this rate where nothing of it is played yet. */
const RATE_HZ = 48_000;

/** What stands for beats before the player has said anything about them. */
const PLAIN = { beatsPerBar: 4, firstBarBeat: 0 } as const;

/**
 * Looks for the beats of a recording that has none yet, in a worker: how far it has come, 0…1, or null while nothing is looked for; a way
 * to stop; and what went wrong. The finding of beats goes to `onFound`.
 */
export const useBeatFinder = (
  accompaniment: Accompaniment | null,
  onFound: (beats: BeatsOf) => void,
): { share: number | null; trouble: string; stop(): void; again(): void } => {
  const [share, setShare] = useState<number | null>(null);
  const [trouble, setTrouble] = useState('');
  const [asked, setAsked] = useState(0);
  const stopping = useRef<AbortController | null>(null);
  const found = useRef(onFound);
  found.current = onFound;
  const id = accompaniment?.id;
  const isDue = accompaniment !== null && (accompaniment.beats === null || asked > 0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: one search for each asking.
  useEffect(() => {
    if (!id || !isDue) return;
    const leaving = new AbortController();
    stopping.current = leaving;
    const worker = openFindingBeats();
    leaving.signal.addEventListener('abort', () => {
      worker.end();
      setShare(null);
    });
    const find = async () => {
      setTrouble('');
      setShare(0);
      try {
        const samples = monoOf(await accompanimentSound(id, RATE_HZ));
        const answer = await Promise.race([worker.ask.find(samples, RATE_HZ, proxy(setShare)), worker.broken]);
        if (leaving.signal.aborted) return;
        found.current({ ...PLAIN, ...answer });
      } catch (error) {
        if (!leaving.signal.aborted) setTrouble(playerMessage(error));
      } finally {
        leaving.abort();
      }
    };
    void find();
    return () => leaving.abort();
  }, [id, isDue, asked]);
  return { share, trouble, stop: () => stopping.current?.abort(), again: () => setAsked((before) => before + 1) };
};
