import { chance, type Family, learnClickPath, subtractClicks } from '@isochron/core/analysis';
import { INSTRUMENTS } from '@isochron/core/simulation';
import { CONDITIONS, makeRecording, type Recording } from './corpus';
import { SAMPLED, type SampledInstrument } from './instruments';
import { RATE, type SampledNote, sampledNotes } from './notes';

/** A recording with its clicks taken out, learnt from those that sounded alone. */
export const clickFree = ({ sound, clicksS, onsetsS }: Recording): Float32Array => {
  if (clicksS.length === 0) return sound;
  const clicks = clicksS.map((timeS) => ({ frame: Math.round(timeS * RATE), kind: 'click' }));
  const until = Math.round((onsetsS[0] ?? sound.length / RATE) * RATE - 0.03 * RATE);
  const alone = clicks.filter((click) => click.frame < until - 0.03 * RATE);
  const cleaned = Float32Array.from(sound);
  subtractClicks(cleaned, 0, clicks, learnClickPath(sound, alone, RATE, until));
  return cleaned;
};

/** The simulated player's own instruments, so that whoever is trained knows them too. */
export const SIMULATED: readonly SampledInstrument[] = [
  { name: 'struck-bar', family: 'struck', program: 0, range: [45, 80] },
  { name: 'plucked-string', family: 'plucked', program: 0, range: [40, 76] },
  { name: 'blown-reed', family: 'blown', program: 0, range: [38, 76] },
];

export const simulatedNotes = (name: string): SampledNote[] => {
  const instrument = INSTRUMENTS.find((one) => one.id === name);
  const random = chance(name.length);
  return [40, 43, 48, 53, 57, 60, 62, 65, 67, 72, 76].flatMap((pitch) =>
    [0.3, 0.8].map((lengthS) => ({
      pitch,
      velocity: 80,
      samples:
        instrument?.note({ hz: 440 * 2 ** ((pitch - 69) / 12), lengthS, sampleRateHz: RATE, chance: random }) ??
        new Float32Array(1),
    })),
  );
};

/** Families whose notes speak slowly or begin inside the one before, and the shortest of plucked notes: trained on twice as often. */
const HARD: readonly Family[] = ['bowed', 'blown', 'brass', 'voice'];
const isHard = ({ family, name }: SampledInstrument) => HARD.includes(family) || name === 'pizzicato';

/**
 * The recordings of the tuned half that judge and timer are trained on: `takes` of each instrument and condition, more of the
 * hard ones, from the take number `first` on.
 */
export function* makeTrainingRecordings(folder: string, takes: number, first = 0): Generator<Recording> {
  const seen = SAMPLED.filter((instrument) => !instrument.unseen);
  for (const [i, instrument] of [...seen, ...SIMULATED].entries()) {
    const notes = SIMULATED.includes(instrument) ? simulatedNotes(instrument.name) : sampledNotes(instrument, 'tuned', folder);
    const end = first + (isHard(instrument) ? 2 * takes : takes);
    for (const [c, condition] of CONDITIONS.entries())
      for (let take = first; take < end; take += 1)
        yield makeRecording(instrument, notes, condition, 100 + 17 * take + 101 * i + 1009 * c);
  }
}
