import { median } from '../stats/summary';

/** Looks compared on either side of a moment. */
const LOOKS = 8;
/** A step of the lag beyond this is sound that went missing, in seconds. Between looks the lag wanders by the size of a buffer. */
const STEP_S = 0.02;

/** Sound that an input lost, as it was noticed. */
export interface LostSound {
  /** Seconds on the audio clock between which it went missing. */
  fromS: number;
  toS: number;
  /** About how much, in seconds. */
  lostS: number;
}

/**
 * Watches whether an input delivers as much sound as the audio clock counts. Each look tells the clock (s) and how much sound was
 * delivered since the start (s); the lag between them wanders by the buffers' size but does not step. A step is told once it is
 * certain, which takes eight looks; a slow drift between two devices' clocks is no step.
 */
export const createDeliveryWatch = (): ((clockS: number, deliveredS: number) => LostSound | null) => {
  let looks: { clockS: number; lagS: number }[] = [];
  return (clockS, deliveredS) => {
    looks.push({ clockS, lagS: clockS - deliveredS });
    if (looks.length < 2 * LOOKS) return null;
    const before = looks.slice(0, LOOKS);
    const after = looks.slice(LOOKS);
    const lostS = median(after.map(({ lagS }) => lagS)) - median(before.map(({ lagS }) => lagS));
    // All of one side lies above all of the other, and the step is between them, not beside.
    const isApart = Math.min(...after.map(({ lagS }) => lagS)) > Math.max(...before.map(({ lagS }) => lagS));
    const isHere = (after[0] as { lagS: number }).lagS - (before.at(-1) as { lagS: number }).lagS > lostS / 2;
    if (lostS > STEP_S && isApart && isHere) {
      looks = after;
      return { fromS: (before.at(-1) as { clockS: number }).clockS, toS: (after[0] as { clockS: number }).clockS, lostS };
    }
    looks.shift();
    return null;
  };
};
