import type { Chance } from '../stats/random';

/** A simulated instrument: one note's sound, full scale, its first sample being its physical onset. */
export interface Instrument {
  id: string;
  name: string;
  note(options: { hz: number; lengthS: number; sampleRateHz: number; chance: Chance }): Float32Array;
}

/** Mode ratios, levels and decay times (s) of a tuned wooden bar: modes near 1 : 4 : 10 (common practice, no source). */
const BAR_MODES = [
  { ratio: 1, level: 1, decayS: 0.35 },
  { ratio: 3.98, level: 0.35, decayS: 0.09 },
  { ratio: 9.9, level: 0.18, decayS: 0.03 },
];

export const STRUCK_BAR: Instrument = {
  id: 'struck-bar',
  name: 'Struck bar',
  note({ hz, lengthS, sampleRateHz, chance: { normal } }) {
    const length = Math.round(Math.max(lengthS, 1.4) * sampleRateHz);
    const sound = new Float32Array(length);
    for (const { ratio, level, decayS } of BAR_MODES) {
      if (hz * ratio > sampleRateHz / 2.2) continue;
      const step = (2 * Math.PI * hz * ratio) / sampleRateHz;
      const fall = Math.exp(-1 / sampleRateHz / decayS);
      // A decaying cosine by its recurrence: x[n] = 2·d·cos(w)·x[n − 1] − d²·x[n − 2].
      const turn = 2 * fall * Math.cos(step);
      let before = (level * Math.cos(2 * step)) / fall ** 2;
      let last = (level * Math.cos(step)) / fall;
      for (let n = 0; n < length; n += 1) {
        const next = turn * last - fall * fall * before;
        sound[n] = (sound[n] as number) + next;
        before = last;
        last = next;
      }
    }
    // The mallet's own knock.
    const knock = Math.round(0.006 * sampleRateHz);
    for (let n = 0; n < knock; n += 1) {
      sound[n] = (sound[n] as number) + 0.25 * normal() * Math.exp(-n / sampleRateHz / 0.002);
    }
    // A bar is not damped: it rings until it is inaudible.
    return release(sound, sampleRateHz, 0.3);
  },
};

export const BLOWN_REED: Instrument = {
  id: 'blown-reed',
  name: 'Blown reed',
  note({ hz, lengthS, sampleRateHz, chance: { normal } }) {
    const length = Math.round(Math.max(0.05, lengthS * 0.92) * sampleRateHz);
    const sound = new Float32Array(length);
    for (let harmonic = 1; harmonic <= 15; harmonic += 1) {
      // A closed cylinder favours its odd harmonics (common practice, no source).
      const level = (harmonic % 2 ? 1 : 0.2) / harmonic ** 1.1;
      if (hz * harmonic > sampleRateHz / 2.2) break;
      const step = (2 * Math.PI * hz * harmonic) / sampleRateHz;
      // Higher harmonics speak later.
      const attackS = 0.012 + 0.002 * harmonic;
      const fall = Math.exp(-1 / sampleRateHz / attackS);
      const turn = 2 * Math.cos(step);
      let before = -level * Math.sin(2 * step);
      let last = -level * Math.sin(step);
      let silence = 1;
      for (let n = 0; n < length; n += 1) {
        const next = turn * last - before;
        sound[n] = (sound[n] as number) + next * (1 - silence);
        before = last;
        last = next;
        silence *= fall;
      }
    }
    // The tongue's release of air.
    for (let n = 0; n < length; n += 1) {
      const t = n / sampleRateHz;
      sound[n] = 0.7 * (sound[n] as number) + (0.004 + 0.05 * Math.exp(-t / 0.008)) * normal();
    }
    return release(sound, sampleRateHz, 0.03);
  },
};

export const PLUCKED_STRING: Instrument = {
  id: 'plucked-string',
  name: 'Plucked string',
  /** A noise burst in a damped loop. Source: Karplus & Strong, Computer Music Journal 7(2), 1983. */
  note({ hz, lengthS, sampleRateHz, chance: { normal } }) {
    const length = Math.round(Math.max(lengthS, 1) * sampleRateHz);
    const loop = Math.max(2, Math.round(sampleRateHz / hz));
    const sound = new Float32Array(length);
    for (let n = 0; n < length; n += 1) {
      sound[n] = n < loop ? 0.35 * normal() : 0.498 * ((sound[n - loop] as number) + (sound[n - loop + 1] as number));
    }
    return release(sound, sampleRateHz, 0.2);
  },
};

const release = (sound: Float32Array, sampleRateHz: number, lengthS: number): Float32Array => {
  const fade = Math.min(sound.length, Math.round(lengthS * sampleRateHz));
  for (let n = 0; n < fade; n += 1) {
    const at = sound.length - fade + n;
    sound[at] = (sound[at] as number) * (1 - n / fade);
  }
  return sound;
};

/** The instruments of the simulated player. */
export const INSTRUMENTS: readonly Instrument[] = [STRUCK_BAR, PLUCKED_STRING, BLOWN_REED];
