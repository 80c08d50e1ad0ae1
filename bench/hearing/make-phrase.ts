import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Chance } from '@isochron/core/analysis';
import { CONDITIONS, makeRecording } from '../onsets/corpus';
import { MORE_TRAINED, SAMPLED } from '../onsets/instruments';
import { sampledNotes } from '../onsets/notes';
import { clickFree, SIMULATED, simulatedNotes } from '../onsets/training';
import { pick } from './draw';
import { playGraced, playKit, playOver, playRinging, playStrums } from './layered';
import { atLevel, inSurroundings, nothingPlayed, type Performance, type Phrase, playSampled } from './phrases';
import { PHYSICAL_MODELS, playPhysical } from './physical';
import { cutAtOnset, fontSources, RECORDED_TRAINED, recordedSource, type Source, type SourceNote } from './sources';

/** Where rendered and decoded notes are kept for the next run. */
export const NOTES = join(tmpdir(), 'isochron-onset-bench');
/** Where the packages of recorded notes that may be trained on are unpacked. */
const PACKAGES = join(tmpdir(), 'isochron-notes/node_modules');

/** The simulated player's own instruments: what a player meets first. */
export const SIMULATED_SOURCES: readonly Source[] = SIMULATED.map(({ name, family }) => ({
  name: `simulated ${name}`,
  family,
  notes: () => simulatedNotes(name).flatMap(({ pitch, samples }) => cutAtOnset(pitch, samples) ?? []),
}));

/** The recorded instruments that may be trained on, from the packages of a folder. */
export const recordedSources = (packages = PACKAGES): Source[] =>
  RECORDED_TRAINED.map(([name, family]) => recordedSource(name, family, packages, NOTES));

/**
 * Makes recordings by chance: of every kind of source in every kind of surroundings, of what is trained on, or of the soundfonts'
 * instruments that never are.
 */
export const createPhraseMaker = (which: 'trained' | 'unseen', packages = PACKAGES): ((random: Chance) => Phrase) => {
  const notesOf = new Map<Source, readonly SourceNote[]>();
  const cached = (source: Source): readonly SourceNote[] => {
    const notes = notesOf.get(source) ?? source.notes();
    notesOf.set(source, notes);
    return notes;
  };

  const drawn = which === 'trained' ? [...SAMPLED, ...MORE_TRAINED] : SAMPLED;
  const fonts = (['fluid', 'musescore'] as const).flatMap((font) => fontSources(font, NOTES, which, drawn));
  /** Instruments whose notes speak slowly are the hard ones: drawn three times as often. */
  const HARD = ['bowed', 'blown', 'brass', 'voice'];
  const sampled = fonts.flatMap((source) => (HARD.includes(source.family) ? [source, source, source] : [source]));
  const recorded = which === 'trained' ? recordedSources(packages) : [];
  /** A recording with a click that bleeds, or of doubled or noisy notes, as the other benchmark makes them; its click taken out. */
  const withClicks = (random: Chance): Phrase => {
    const instrument = pick(
      random,
      SAMPLED.filter((one) => Boolean(one.unseen) === (which === 'unseen')),
    );
    const font = random.uniform() < 0.5 ? 'fluid' : 'musescore';
    const notes = sampledNotes(instrument, which === 'trained' ? 'tuned' : 'held', NOTES, font);
    const condition = pick(random, CONDITIONS);
    // Now and then hardly anyone plays: what remains of a click where nothing else sounds is no note.
    const missed = random.uniform() < 0.3 ? pick(random, [0.5, 0.9, 1]) : condition.missed;
    const made = makeRecording(instrument, notes, { ...condition, missed }, Math.floor(random.uniform() * 1e6));
    return {
      source: `clicks ${font} ${instrument.name}`,
      family: instrument.family,
      sound: atLevel(clickFree(made), random),
      onsets: made.onsetsS.map((timeS) => ({ timeS, isAudible: true })),
    };
  };

  const ofFamily = (random: Chance, ...families: readonly Source['family'][]) =>
    pick(
      random,
      [...sampled, ...recorded].filter(({ family }) => families.includes(family)),
    );
  /** Several things at once, or ringing into each other. */
  const layered = (random: Chance): Performance => {
    const kind = random.uniform();
    if (kind < 0.2) {
      const source = ofFamily(random, 'plucked', 'plucked', 'struck');
      return playStrums(source, cached(source), random);
    }
    if (kind < 0.35) {
      const kit = Array.from({ length: 2 + Math.floor(3 * random.uniform()) }, () => cached(ofFamily(random, 'drum')));
      return playKit(kit, random);
    }
    if (kind < 0.5) {
      const below = ofFamily(random, 'plucked', 'bowed', 'struck');
      return playOver(playSampled(below, cached(below), random), cached(ofFamily(random, 'drum')), random);
    }
    if (kind < 0.6) {
      const source = ofFamily(random, 'struck', 'plucked', 'bowed', 'blown', 'drum');
      return playGraced(source, cached(source), random);
    }
    const source = ofFamily(random, 'blown', 'brass', 'bowed', 'voice', 'struck');
    return playRinging(source, cached(source), random);
  };

  return (random) => {
    if (random.uniform() < 0.06) return nothingPlayed(random);
    if (which === 'trained' && random.uniform() < 0.35) return inSurroundings(layered(random), random);
    const kind = random.uniform();
    if (kind < 0.22) return withClicks(random);
    if (kind < 0.4 && which === 'trained')
      return inSurroundings(playPhysical(pick(random, PHYSICAL_MODELS), random, join(NOTES, 'physical')), random);
    const own = which === 'unseen' ? [] : kind < 0.45 ? SIMULATED_SOURCES : recorded;
    const source = pick(random, kind < 0.5 && own.length > 0 ? own : sampled);
    return inSurroundings(playSampled(source, cached(source), random), random);
  };
};
