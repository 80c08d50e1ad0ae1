import { noteValueName } from '../rhythm/note-values';
import { beats, writeBeats } from '../schema/beats';
import { type CodesOf, capital, type Dictionary, number, type Reader, say, text } from './reader';

const ORDINAL = ['', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'];
const ordinal = (n: number): string => ORDINAL[n] ?? `${n}th`;

const DYNAMICS: Record<string, string> = { pp: 'very softly', p: 'softly', f: 'loudly', ff: 'very loudly' };
const WAVE_FIGURES: Record<string, string> = {
  'long-short': 'Waves long and short',
  'short-long': 'Waves short and long',
  dotted: 'Waves dotted',
  'two-and-one': 'Waves two short, one long',
  'one-and-two': 'Waves one long, two short',
};
const CLAPPED: Record<string, string> = { clap: 'Clapped', tap: 'Tapped', sing: 'Sung' };

const TRIPLET_FORMS: Record<string, string> = { t21: 'triplet, long and short', t12: 'triplet, short and long' };
const COUNTED = ['', '', 'two ', 'three ', 'four '];

/** A mixed figure by its note values: a digit is how many units of the quick note, which is a fraction of a whole note. */
const formName = ({ form, quick }: { form: string; quick: string }, { noteNaming }: Reader) => {
  const triplet = TRIPLET_FORMS[form];
  if (triplet) return capital(triplet);
  // Takes of before say no value: figures were named as parts of a crotchet.
  const unit = beats(quick || '1/16');
  const runs = [...form.matchAll(/(\d)\1*/g)];
  const names = runs.map(([run, digit]) => {
    const name = noteValueName(writeBeats(unit.mul(Number(digit))), noteNaming);
    return run.length > 1 ? `${COUNTED[run.length] ?? `${run.length} `}${name}s` : name;
  });
  return capital(names.length === 2 ? names.join(' and ') : names.join(', '));
};

/** What each drill is called among those of its method, by the code of its title. */
export const DRILL_TITLES = {
  'straight-title': say({}, () => 'As written'),
  'around-title': say({ from: number, to: number }, (values) => `Notes ${values.from} to ${values.to}`),
  'chunks-title': say({ size: text, number: number, of: number }, (values) => {
    const size = values.size;
    const what = size === 'beat' ? 'One beat' : size === 'bar' ? 'One bar' : capital(size);
    return `${what}: piece ${values.number} of ${values.of}`;
  }),
  'from-the-end-title': say({ pieces: number, joined: text }, (values) =>
    values.pieces === 1 ? 'The last piece' : `The last ${values.pieces} pieces, ${values.joined}`,
  ),
  'add-a-note-title': say({ count: number }, (values) => `${values.count} notes`),
  'hands-title': say({ which: text }, (values) =>
    values.which === 'together' ? 'Both hands' : `${values.which === 'right' ? 'Right' : 'Left'} hand`,
  ),
  'outline-title': say(
    { stage: number },
    (values) => ['', 'Notes on the beats', 'Every other note', 'All notes', 'The first note of each bar'][values.stage] ?? '',
  ),
  'long-short-title': say(
    { size: number, place: number },
    (values) => `Groups of ${values.size}, the ${ordinal(values.place)} long`,
  ),
  'mixed-forms-title': say({ form: text, quick: text }, formName),
  'quick-groups-title': say(
    { size: number, first: number },
    (values) => `Groups of ${values.size} from the ${ordinal(values.first)} note`,
  ),
  'burst-title': say({ number: number, of: number }, (values) => `Burst ${values.number} of ${values.of}`),
  'repeat-each-title': say(
    { times: number },
    (values) => `Each note ${['', 'once', 'twice', 'three times', 'four times'][values.times] ?? 'again'}`,
  ),
  'doublings-title': say({ places: text, of: number }, (values) => `Doubled: ${values.places} of ${values.of}`),
  'blocks-title': say({ size: number }, (values) => `Blocks of ${values.size}`),
  'hold-one-title': say({ finger: number, of: number }, (values) => `The ${ordinal(values.finger)} of ${values.of} held`),
  'two-voices-title': say({ hands: text }, (values) => values.hands),
  'subdivisions-title': say({ from: number, to: number }, (values) => `From ${values.from} to ${values.to} to the beat`),
  'pulses-title': say({ perBeat: number, figure: text, finger: text, string: text }, ({ perBeat, figure, finger, string }) =>
    [
      WAVE_FIGURES[figure] ?? `${perBeat} ${perBeat === 1 ? 'wave' : 'waves'} to the beat`,
      ...(finger ? [`finger ${finger}`] : []),
      ...(string ? [`string ${string}`] : []),
    ].join(', '),
  ),
  'pattern-chain-title': say(
    { patterns: number, times: number },
    (values) => `${values.patterns} patterns, ${values.times} times each`,
  ),
  'accents-title': say({ on: text, place: number, size: number }, (values) => {
    const on = values.on;
    if (on === 'beats') return 'Accents on the beats';
    if (on === 'off') return 'Accents off the beats';
    if (on === 'spot') return `Accent on note ${values.place}`;
    return `Accent on the ${ordinal(values.place)} of ${values.size}`;
  }),
  'touch-title': say({ how: text }, (values) => (values.how === 'short' ? 'Short' : 'Connected')),
  'slur-then-articulate-title': say({ step: text }, (values) => (values.step === 'slurred' ? 'Slurred' : 'Articulated')),
  'loud-soft-title': say({ dynamic: text }, (values) => {
    return capital(DYNAMICS[values.dynamic] ?? '');
  }),
  'clap-first-title': say({ how: text }, (values) => CLAPPED[values.how] ?? ''),
  'slow-quick-title': say({ percent: number }, (values) => `At ${values.percent} % of the tempo`),
  'arc-title': say({ percent: number }, (values) => `Arc from ${values.percent} % and back`),
  'sweep-title': say({ percent: number }, (values) => `Sweep from ${values.percent} %`),
  'sweep-down-title': say({ percent: number }, (values) => `Sweep down to ${values.percent} %`),
  'gaps-title': say(
    { clicked: number, silent: number },
    (values) => `${values.clicked} bars with click, ${values.silent} without`,
  ),
  'long-run-title': say({ rounds: number, mind: text }, (values) => `${values.rounds} times round, ${values.mind}`),
} satisfies Dictionary;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'drill title', typeof DRILL_TITLES> {}
}
