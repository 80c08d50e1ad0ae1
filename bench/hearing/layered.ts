/** Playing in which several things begin together or sound at once: strokes over strings, a kit, a bass under hats, notes under a pedal, grace notes. */
import { type Chance, mixInto } from '@isochron/core/analysis';
import { peakOf } from '../onsets/corpus';
import { RATE } from '../onsets/notes';
import { between, logBetween, pick } from './draw';
import { AUDIBLE_S, LENGTH_S, type Performance, playSampled } from './phrases';
import type { Source, SourceNote } from './sources';

/** What begins closer together than this is one event: the first of it is asked for, the rest is not. */
const ONE_EVENT_S = 0.07;

const fadedOut = (samples: Float32Array, lengthS: number, releaseS: number): Float32Array => {
  const out = samples.slice(0, Math.round((lengthS + releaseS) * RATE));
  const release = Math.min(out.length, Math.round(releaseS * RATE));
  for (let n = 0; n < release; n += 1) out[out.length - 1 - n] = ((out[out.length - 1 - n] as number) * n) / release;
  return out;
};

interface Struck {
  timeS: number;
  note: SourceNote;
  /** Of full scale. */
  gain: number;
  lengthS: number;
}

/** Puts notes where they are struck; of those that begin together, only the first is asked for. */
const played = (source: string, family: Performance['family'], struck: readonly Struck[], random: Chance): Performance => {
  const sound = new Float32Array(Math.round(LENGTH_S * RATE));
  const releaseS = logBetween(random, 0.01, 0.2);
  let eventS = Number.NEGATIVE_INFINITY;
  const starts = [...struck]
    .sort((a, b) => a.timeS - b.timeS)
    .map(({ timeS, note, gain, lengthS }) => {
      const scale = gain / peakOf(note.samples.subarray(0, Math.round(0.6 * RATE)));
      const samples = fadedOut(note.samples, lengthS, releaseS).map((value) => value * scale);
      const frame = Math.round(timeS * RATE);
      mixInto(sound, 0, { frame, samples });
      const isAsked = timeS - eventS > ONE_EVENT_S;
      if (isAsked) eventS = timeS;
      return { frame, head: samples.slice(0, Math.round(AUDIBLE_S * RATE)), isSlurred: false, isAsked };
    });
  return { source, family, sound, starts };
};

/** When a phrase's events come: steps of one length or two, a little uneven, with rests. */
const times = (random: Chance, shortestS: number): number[] => {
  const stepS = logBetween(random, shortestS, 0.6);
  const shape = pick(random, [[1], [1], [2, 1, 1], [3, 1]]);
  const rests = pick(random, [0, 0.1, 0.3]);
  const all: number[] = [];
  for (let timeS = between(random, 0.02, 0.8), k = 0; timeS < LENGTH_S - 0.8; k += 1) {
    if (random.uniform() >= rests) all.push(timeS);
    timeS += stepS * (shape[k % shape.length] as number) * (1 + 0.04 * random.normal());
  }
  return all;
};

const level = (random: Chance, rangeDb: number): number => 0.4 * 10 ** ((-rangeDb * random.uniform()) / 20);

/** Strokes over two to six strings, up and down, spread over up to 60 ms. */
export const playStrums = (source: Source, notes: readonly SourceNote[], random: Chance): Performance => {
  const ascending = [...notes].sort((a, b) => a.pitch - b.pitch);
  const at = times(random, 0.14);
  const rings = random.uniform() < 0.5;
  const struck = at.flatMap((timeS, k) => {
    const count = 2 + Math.floor(5 * random.uniform());
    const chosen = Array.from({ length: count }, () => pick(random, ascending)).sort((a, b) => a.pitch - b.pitch);
    if (random.uniform() < 0.5) chosen.reverse();
    const spreadS = random.uniform() < 0.3 ? 0 : between(random, 0.005, 0.06);
    const gain = level(random, 12) / Math.sqrt(count);
    const gapS = (at[k + 1] ?? LENGTH_S) - timeS;
    return chosen.map((note, n) => ({
      timeS: timeS + (spreadS * n) / (count - 1),
      note,
      gain: gain * 10 ** (between(random, -6, 0) / 20),
      lengthS: rings ? between(random, 0.5, 2) * gapS : gapS * between(random, 0.4, 1),
    }));
  });
  return played(`strums ${source.name}`, source.family, struck, random);
};

/** Several drums in patterns over one another. */
export const playKit = (kit: readonly (readonly SourceNote[])[], random: Chance): Performance => {
  const stepS = logBetween(random, 0.09, 0.3);
  const struck = kit.flatMap((notes) => {
    const pattern = Array.from({ length: 16 }, () => random.uniform() < pick(random, [0.2, 0.4, 0.8]));
    const softerDb = between(random, 0, 18);
    const all: Struck[] = [];
    for (let k = 0; 0.2 + k * stepS < LENGTH_S - 0.5; k += 1)
      if (pattern[k % 16])
        all.push({
          timeS: 0.2 + k * stepS + 0.006 * random.normal(),
          note: pick(random, notes),
          gain: level(random, 8) * 10 ** (-softerDb / 20),
          lengthS: 1.2,
        });
    return all;
  });
  return played('kit', 'drum', struck, random);
};

/** Soft strokes of a drum over another instrument. */
export const playOver = (below: Performance, drum: readonly SourceNote[], random: Chance): Performance => {
  const gain = peakOf(below.sound) * 10 ** (between(random, -26, -6) / 20);
  const struck = times(random, 0.1).map((timeS) => ({
    timeS,
    note: pick(random, drum),
    gain: gain * 10 ** (between(random, -4, 0) / 20),
    lengthS: 0.6,
  }));
  const above = played('over', 'drum', struck, random);
  mixInto(below.sound, 0, { frame: 0, samples: above.sound });
  let eventFrame = Number.NEGATIVE_INFINITY;
  const starts = [...below.starts, ...above.starts]
    .sort((a, b) => a.frame - b.frame)
    .map((start) => {
      const isAsked = start.isAsked !== false && start.frame - eventFrame > 0.04 * RATE;
      if (isAsked) eventFrame = start.frame;
      return { ...start, isAsked };
    });
  return { ...below, source: `over ${below.source}`, starts };
};

/** Everything rings on, as under a pedal, or into the next note and the one after, as a legato in a room does. */
export const playRinging = (source: Source, notes: readonly SourceNote[], random: Chance): Performance => {
  const performance = playSampled(source, notes, random, {
    legato: 1,
    hurried: 0,
    ...(random.uniform() < 0.5 ? { ringsOn: true } : { overlapS: between(random, 0.05, 0.5) }),
    releaseS: logBetween(random, 0.05, 0.5),
    restShare: 0,
  });
  return { ...performance, source: `ringing ${source.name}` };
};

/** Notes of which some have a short one before them. */
export const playGraced = (source: Source, notes: readonly SourceNote[], random: Chance): Performance => {
  const at = times(random, 0.2);
  const struck = at.flatMap((timeS, k) => {
    const gapS = (at[k + 1] ?? LENGTH_S) - timeS;
    const note = pick(random, notes);
    const main = { timeS, note, gain: level(random, 10), lengthS: gapS * between(random, 0.5, 1) };
    if (random.uniform() < 0.5 || gapS < 0.2) return [main];
    const beforeS = between(random, 0.075, 0.14);
    const near = notes.filter(({ pitch }) => pitch !== note.pitch && Math.abs(pitch - note.pitch) < 8);
    const grace = {
      timeS: timeS - beforeS,
      note: pick(random, near.length ? near : notes),
      gain: 0.7 * main.gain,
      lengthS: beforeS,
    };
    return grace.timeS > 0 ? [grace, main] : [main];
  });
  return played(`graced ${source.name}`, source.family, struck, random);
};
