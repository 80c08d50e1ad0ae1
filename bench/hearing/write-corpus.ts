/**
 * Makes recordings to train the ear on and writes what the ear sees of them into a folder:
 * `npm run bench:hearing-corpus -- --out FOLDER --phrases 800 --seed 1 [--which unseen]`.
 * Needs Debian's fluidsynth, fluid-soundfont-gm, musescore-general-soundfont, stk and ffmpeg, and the recorded notes of the
 * packages named in sources.ts, unpacked in `--packages`. One file of levels (a byte each, sixteenths), one of what is true.
 */
import { closeSync, mkdirSync, openSync, writeFileSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { type Chance, chance } from '@isochron/core';
import { createEarFrames, LONG_BANDS, SHORT_BANDS, STEP_LEVELS } from '../../core/src/signal/ear-frames';
import { CONDITIONS, makeRecording } from '../onsets/corpus';
import { SAMPLED } from '../onsets/instruments';
import { RATE, sampledNotes } from '../onsets/notes';
import { clickFree, SIMULATED, simulatedNotes } from '../onsets/training';
import { pick } from './draw';
import { atLevel, inSurroundings, nothingPlayed, type Phrase, playSampled } from './phrases';
import { PHYSICAL_MODELS, playPhysical } from './physical';
import { cutAtOnset, fontSources, RECORDED_TRAINED, recordedSource, type Source, type SourceNote } from './sources';

const { values } = parseArgs({
  options: {
    out: { type: 'string', default: join(tmpdir(), 'isochron-hearing') },
    packages: { type: 'string', default: join(tmpdir(), 'isochron-notes/node_modules') },
    phrases: { type: 'string', default: '800' },
    seed: { type: 'string', default: '1' },
    which: { type: 'string', default: 'trained' },
  },
});
const NOTES = join(tmpdir(), 'isochron-onset-bench');
const which = values.which === 'unseen' ? 'unseen' : 'trained';
const seed = Number(values.seed);

const notesOf = new Map<Source, readonly SourceNote[]>();
const cached = (source: Source): readonly SourceNote[] => {
  const notes = notesOf.get(source) ?? source.notes();
  notesOf.set(source, notes);
  return notes;
};

const fonts = [...fontSources('fluid', NOTES, which), ...fontSources('musescore', NOTES, which)];
/** Instruments whose notes speak slowly are the hard ones: drawn twice as often. */
const HARD = ['bowed', 'blown', 'brass', 'voice'];
const sampled = fonts.flatMap((source) => (HARD.includes(source.family) ? [source, source] : [source]));
const recorded =
  which === 'trained' ? RECORDED_TRAINED.map(([name, family]) => recordedSource(name, family, values.packages, NOTES)) : [];
/** The simulated player's own instruments: what a player meets first. */
const simulated: Source[] = SIMULATED.map(({ name, family }) => ({
  name: `simulated ${name}`,
  family,
  notes: () => simulatedNotes(name).flatMap(({ pitch, samples }) => cutAtOnset(pitch, samples) ?? []),
}));

/** A recording with a click that bleeds, or of doubled or noisy notes, as the other benchmark makes them; its click taken out. */
const withClicks = (random: Chance): Phrase => {
  const instrument = pick(
    random,
    SAMPLED.filter((one) => Boolean(one.unseen) === (which === 'unseen')),
  );
  const font = random.uniform() < 0.5 ? 'fluid' : 'musescore';
  const notes = sampledNotes(instrument, which === 'trained' ? 'tuned' : 'held', NOTES, font);
  const made = makeRecording(instrument, notes, pick(random, CONDITIONS), Math.floor(random.uniform() * 1e6));
  return {
    source: `clicks ${font} ${instrument.name}`,
    family: instrument.family,
    sound: atLevel(clickFree(made), random),
    onsets: made.onsetsS.map((timeS) => ({ timeS, isAudible: true })),
  };
};

const makeOne = (random: Chance): Phrase => {
  if (random.uniform() < 0.06) return nothingPlayed(random);
  const kind = random.uniform();
  if (kind < 0.22) return withClicks(random);
  if (kind < 0.4 && which === 'trained')
    return inSurroundings(playPhysical(pick(random, PHYSICAL_MODELS), random, join(NOTES, 'physical')), random);
  const own = which === 'unseen' ? [] : kind < 0.45 ? simulated : recorded;
  const source = pick(random, kind < 0.5 && own.length > 0 ? own : sampled);
  return inSurroundings(playSampled(source, cached(source), random), random);
};

mkdirSync(values.out, { recursive: true });
const stem = join(values.out, `${which}-${seed}`);
const levelsFile = openSync(`${stem}.levels`, 'w');
const index: unknown[] = [];
const writeIndex = () => {
  writeFileSync(`${stem}.json`, JSON.stringify({ longBands: LONG_BANDS, shortBands: SHORT_BANDS, phrases: index }));
  console.log(`${index.length} phrases`);
};
const levels = new Float32Array(STEP_LEVELS);
for (let k = 0; k < Number(values.phrases); k += 1) {
  const { source, family, sound, onsets } = makeOne(chance(1_000_003 * seed + k));
  const frames = createEarFrames(RATE);
  frames.push(sound);
  frames.finish();
  const rows: Uint8Array[] = [];
  while (frames.next(levels)) rows.push(Uint8Array.from(levels, (level) => Math.min(255, Math.round(16 * level))));
  writeSync(levelsFile, Buffer.concat(rows));
  index.push({ source, family, steps: rows.length, onsets: onsets.map(({ timeS, isAudible }) => [timeS, isAudible ? 1 : 0]) });
  // So that what was made is of use even if this is stopped.
  if (k % 50 === 49) writeIndex();
}
closeSync(levelsFile);
writeIndex();
