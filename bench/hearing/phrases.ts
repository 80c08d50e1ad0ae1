import { type Chance, type Family, mixInto } from '@isochron/core/analysis';
import { peakOf } from '../onsets/corpus';
import { RATE } from '../onsets/notes';
import { between, logBetween, pick } from './draw';
import type { Source, SourceNote } from './sources';
import { addNoise, gesture, inRoom, NOISES, type Noise, rms, throughMicrophone } from './surroundings';

/** Where a note begins, and whether anyone could hear that it does. */
export interface TrueOnset {
  timeS: number;
  isAudible: boolean;
  /** MIDI number as it sounds, with fractions; left out where it has none or none is known. */
  pitch?: number;
}

/** A made recording with what is known of it. */
export interface Phrase {
  source: string;
  family: Family;
  sound: Float32Array;
  onsets: TrueOnset[];
}

export const LENGTH_S = 12;
/** A note whose first 60 ms lie this far under everything else that sounds is not asked for: nobody hears it begin. */
const MASKED_DB = -28;
const DROWNED_DB = -10;
/** As much of a note's beginning as is looked at. */
export const AUDIBLE_S = 0.06;

const SUSTAINED: readonly Family[] = ['bowed', 'blown', 'brass', 'voice'];

/** How a phrase is played; drawn once for each. */
const drawManner = (random: Chance, family: Family, isRecorded: boolean) => {
  const isSustained = SUSTAINED.includes(family);
  const vibrato = isSustained && random.uniform() < 0.4;
  // Read faster or slower than it was recorded, a note is one of another instrument: of few sources comes more variety.
  const semitones = random.uniform() < 0.5 ? between(random, -0.5, 0.5) : between(random, -7, isRecorded ? 19 : 9);
  return {
    isSustained,
    intervalS: isSustained ? logBetween(random, 0.1, 0.7) : logBetween(random, 0.07, 0.6),
    unevenness: between(random, 0.01, 0.08),
    /** Chance that a note is slurred to, rings into the next, or is short. */
    slurred: isSustained ? pick(random, [0, 0, 0.3, 0.8]) : 0,
    legato: pick(random, [0, 0.5, 1, 1]),
    overlapS: random.uniform() < 0.3 ? 0.003 : between(random, 0, 0.12),
    ringsOn: !isSustained && random.uniform() < 0.4,
    rangeDb: pick(random, [3, 8, 14, 20, 30]),
    tuning: 2 ** (semitones / 12),
    vibratoCents: vibrato ? between(random, 5, 60) : 0,
    vibratoHz: between(random, 4, 8),
    tremoloDb: vibrato && random.uniform() < 0.5 ? between(random, 0.5, 4) : 0,
    glideS: random.uniform() < 0.5 ? 0.002 : between(random, 0.002, 0.03),
    slurDipDb: random.uniform() < 0.5 ? 0 : between(random, 0, 8),
    releaseS: logBetween(random, 0.005, 0.15),
    /** Speaks faster than the recorded note, which swells alone. */
    hurried: random.uniform() < 0.5 ? between(random, 0, 0.7) : 0,
    restShare: pick(random, [0, 0.05, 0.15]),
    repeatShare: pick(random, [0, 0.1, 0.4, 1]),
    stepReach: pick(random, [1, 2, 5]),
  };
};
type Manner = ReturnType<typeof drawManner>;

/** A change of pitch inside one breath or bow: where, and to how much of the recorded note's own speed. */
interface Bend {
  atS: number;
  speed: number;
}

/**
 * Reads a recorded note at another speed, with vibrato, tremolo, and slurs to other pitches on the way. Ends with the
 * recorded note or after `lengthS`, fading out.
 */
const readNote = (note: SourceNote, bends: readonly Bend[], lengthS: number, manner: Manner, random: Chance): Float32Array => {
  const { vibratoCents, vibratoHz, tremoloDb, glideS, slurDipDb, releaseS, hurried } = manner;
  const skipped = Math.round(hurried * note.attackS * RATE);
  const fadeIn = skipped > 0 ? Math.round(between(random, 0.001, 0.006) * RATE) : 0;
  const out = new Float32Array(Math.round((lengthS + releaseS) * RATE));
  const phase = 6.28 * random.uniform();
  const delayS = between(random, 0.02, 0.3);
  let at = skipped;
  let bend = 0;
  let n = 0;
  for (; n < out.length; n += 1) {
    const t = n / RATE;
    while (bend + 1 < bends.length && t >= (bends[bend + 1] as Bend).atS) bend += 1;
    const { atS, speed } = bends[bend] as Bend;
    const before = bend > 0 ? (bends[bend - 1] as Bend).speed : speed;
    const gone = Math.min(1, (t - atS) / glideS);
    const depth = vibratoCents * Math.min(1, t / delayS);
    const wave = Math.sin(2 * Math.PI * vibratoHz * t + phase);
    const rate = (before + (speed - before) * gone) * 2 ** ((depth * wave) / 1200);
    const whole = Math.floor(at);
    const rest = at - whole;
    if (whole + 1 >= note.samples.length) break;
    const value = (note.samples[whole] as number) * (1 - rest) + (note.samples[whole + 1] as number) * rest;
    const dip = bend > 0 && slurDipDb > 0 ? slurDipDb * Math.exp(-(((t - atS) / 0.012) ** 2)) : 0;
    const loudness = 10 ** ((tremoloDb * wave - dip) / 20);
    out[n] = value * loudness * (n < fadeIn ? n / fadeIn : 1);
    at += rate;
  }
  const release = Math.min(n, Math.round(releaseS * RATE));
  for (let k = 0; k < release; k += 1) out[n - 1 - k] = (out[n - 1 - k] as number) * (k / release);
  return out.subarray(0, n);
};

const SPEED_RANGE = 1.35;

/** The times at which notes begin, and whether a rest comes before each. */
const drawTimes = (manner: Manner, startS: number, random: Chance): number[] => {
  const times: number[] = [];
  const shapes = pick(random, [[1], [1], [1, 1, 2], [2, 1], [3, 1], [0.5, 0.5, 1]]);
  let timeS = startS;
  for (let k = 0; timeS < LENGTH_S - 0.8; k += 1) {
    times.push(timeS * 1);
    const own = manner.intervalS * (shapes[k % shapes.length] as number);
    timeS += Math.max(0.045, own * (1 + manner.unevenness * random.normal()));
    if (random.uniform() < manner.restShare) timeS += pick(random, [1, 2, 4]) * manner.intervalS;
  }
  return times;
};

/** Puts the notes into `sound`; gives where they begin and how loud their beginnings are. */
const playNotes = (sound: Float32Array, notes: readonly SourceNote[], manner: Manner, startS: number, random: Chance) => {
  const times = drawTimes(manner, startS, random);
  const pitches = [...new Set(notes.map((one) => one.pitch))].sort((a, b) => a - b);
  const starts: Performance['starts'] = [];
  let place = Math.floor(random.uniform() * pitches.length);
  for (let k = 0; k < times.length; ) {
    const timeS = times[k] as number;
    if (random.uniform() >= manner.repeatShare) {
      const step = Math.ceil(random.uniform() * manner.stepReach) * (random.uniform() < 0.5 ? 1 : -1);
      place = Math.min(pitches.length - 1, Math.max(0, place + step));
    }
    const note = pick(
      random,
      notes.filter((one) => one.pitch === pitches[place]),
    );
    const own = manner.tuning * 2 ** ((random.uniform() < 0.5 ? pick(random, [-2, -1, 1, 2]) : 0) / 12);
    const bends: Bend[] = [{ atS: 0, speed: own }];
    let speed = own;
    let last = k;
    while (last + 1 < times.length && random.uniform() < manner.slurred) {
      const interval = pick(random, [-4, -3, -2, -1, 1, 2, 3, 4]);
      const next = speed * 2 ** (interval / 12);
      if (next > own * SPEED_RANGE || next < own / SPEED_RANGE) continue;
      const atS = (times[last + 1] as number) - timeS;
      // What was recorded must last, and no rest lies between.
      if (atS + 0.15 > note.samples.length / RATE / SPEED_RANGE || (times[last + 1] as number) - (times[last] as number) > 0.9)
        break;
      last += 1;
      speed = next;
      bends.push({ atS, speed });
    }
    const endS = (times[last] as number) - timeS;
    const gapS = Math.min((times[last + 1] ?? LENGTH_S - 0.2) - (times[last] as number), 2);
    const isLegato = random.uniform() < manner.legato;
    const holdS = manner.ringsOn
      ? between(random, 0.5, 3) * gapS
      : isLegato
        ? gapS + manner.overlapS * random.uniform()
        : Math.max(0.03, gapS * between(random, 0.25, 0.9));
    const gain =
      (0.5 / peakOf(note.samples.subarray(0, Math.round(0.6 * RATE)))) * 10 ** ((-manner.rangeDb * random.uniform()) / 20);
    const samples = readNote(note, bends, endS + holdS, manner, random).map((value) => value * gain);
    const frame = Math.round(timeS * RATE);
    mixInto(sound, 0, { frame, samples });
    for (const [b, { atS, speed: ownSpeed }] of bends.entries()) {
      const from = Math.round(atS * RATE);
      if (b > 0 && from + 0.03 * RATE > samples.length) break;
      const head = samples.subarray(from, from + Math.round(AUDIBLE_S * RATE));
      starts.push({ frame: frame + from, head, isSlurred: b > 0, pitch: note.pitch + 12 * Math.log2(ownSpeed) });
    }
    k = last + 1;
  }
  return starts;
};

const addGestures = (sound: Float32Array, random: Chance): void => {
  const peak = peakOf(sound);
  const count = Math.floor(random.uniform() * 14);
  for (let k = 0; k < count; k += 1) {
    const gain = peak * 10 ** (between(random, -45, -18) / 20);
    mixInto(sound, 0, { frame: Math.round(random.uniform() * (LENGTH_S - 0.4) * RATE), samples: gesture(random), gain });
  }
};

const db = (ratio: number): number => 10 * Math.log10(ratio + 1e-12);

/** What is played, before it stands in a room: the sound, and where each note begins with its first moments alone. */
export interface Performance {
  source: string;
  family: Family;
  sound: Float32Array;
  /** What is not asked for begins together with something else. */
  starts: { frame: number; head: Float32Array; isSlurred: boolean; pitch?: number; isAsked?: boolean }[];
}

/** Plays one phrase of a source's notes; every chance another, but for what is asked of its manner. */
export const playSampled = (
  source: Source,
  notes: readonly SourceNote[],
  random: Chance,
  asked: Partial<Manner> = {},
): Performance => {
  const manner = { ...drawManner(random, source.family, source.name.startsWith('recorded')), ...asked };
  const startS = random.uniform() < 0.25 ? 0 : between(random, 0.05, 1.5);
  const sound = new Float32Array(Math.round(LENGTH_S * RATE));
  return { source: source.name, family: source.family, sound, starts: playNotes(sound, notes, manner, startS, random) };
};

/** Puts what is played into surroundings drawn by chance: the player's other noises, a room, a microphone, noise, a level. */
export const inSurroundings = ({ source, family, sound: dry, starts }: Performance, random: Chance): Phrase => {
  const heads = starts.map(({ frame, head, isSlurred, pitch, isAsked = true }) => {
    const own = rms(head) ** 2;
    const rest = dry.slice(frame, frame + head.length).map((value, n) => value - (head[n] ?? 0));
    return { frame, own, pitch, isMasked: !isAsked || (!isSlurred && db(own / (rms(rest) ** 2 + 1e-12)) < MASKED_DB) };
  });
  if (family !== 'drum' && random.uniform() < 0.5) addGestures(dry, random);
  let sound: Float32Array = dry;
  if (random.uniform() < 0.4) sound = inRoom(sound, random, logBetween(random, 0.1, 2), between(random, -3, 18));
  if (random.uniform() < 0.5) sound = throughMicrophone(sound, random);
  let noisePower = 0;
  if (random.uniform() < 0.8) {
    const snrDb = random.uniform() < 0.5 ? between(random, 10, 32) : between(random, 32, 70);
    noisePower = rms(sound) ** 2 * 10 ** (-snrDb / 10);
    sound = addNoise(sound, pick(random, Object.keys(NOISES) as Noise[]), snrDb, random);
  }
  return {
    source,
    family,
    sound: atLevel(sound, random),
    onsets: heads.map(({ frame, own, pitch, isMasked }) => ({
      timeS: frame / RATE,
      pitch,
      isAudible: !isMasked && db(own / (noisePower + 1e-12)) > DROWNED_DB,
    })),
  };
};

/** Brings a sound to any level between −60 and 0 dBFS, as a file of 16 bits holds it, but for a few that hold more. */
export const atLevel = (sound: Float32Array, random: Chance): Float32Array => {
  const levelDb = random.uniform() < 0.5 ? between(random, -12, -0.5) : between(random, -60, -1);
  const scale = 10 ** (levelDb / 20) / peakOf(sound);
  const grain = random.uniform() < 0.7 ? 2 ** 15 : 2 ** 23;
  return sound.map((value) => Math.round(value * scale * grain) / grain);
};

/** A recording in which nobody plays: noise, and whatever a player does that is no note. */
export const nothingPlayed = (random: Chance): Phrase => {
  const quiet = new Float32Array(Math.round(LENGTH_S * RATE));
  // Something to hold the noise against.
  quiet.forEach((_, n) => {
    quiet[n] = 1e-4 * random.normal();
  });
  if (random.uniform() < 0.6) addGestures(quiet, random);
  const noises = Object.keys(NOISES) as Noise[];
  const sound = addNoise(
    inRoom(quiet, random, logBetween(random, 0.1, 1), 10),
    pick(random, noises),
    between(random, -30, 20),
    random,
  );
  return { source: 'nothing', family: 'voice', sound: atLevel(sound, random), onsets: [] };
};
