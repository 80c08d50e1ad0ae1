import { noteValueName } from '../rhythm/note-values';
import { capital, type Sentence } from './reader';

const ORDINAL = ['', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'];
const ordinal = (n: number): string => ORDINAL[n] ?? `${n}th`;

const DYNAMICS: Record<string, string> = { pp: 'very softly', p: 'softly', f: 'loudly', ff: 'very loudly' };
const CLAPPED: Record<string, string> = { clap: 'Clapped', tap: 'Tapped', sing: 'Sung' };

/** Mixed figures by name: units of the quick note. */
const formName: Sentence = (values, reader) => {
  const form = values.text('form');
  const quick = noteValueName('1/16', reader.noteNaming);
  const long = noteValueName('1/8', reader.noteNaming);
  const names: Record<string, string> = {
    '211': `${long} and two ${quick}s`,
    '112': `two ${quick}s and ${long}`,
    '121': `${quick}, ${long}, ${quick}`,
    '31': `dotted ${long} and ${quick}`,
    '13': `${quick} and dotted ${long}`,
    t21: `triplet, long and short`,
    t12: `triplet, short and long`,
  };
  const name = names[form] ?? form;
  return capital(name);
};

/** What each drill is called among those of its method, by the code of its title. */
export const DRILL_TITLES: Record<string, Sentence> = {
  'straight-title': () => 'As written',
  'around-title': (values) => `Notes ${values.number('from')} to ${values.number('to')}`,
  'chunks-title': (values) => {
    const size = values.text('size');
    const what = size === 'beat' ? 'One beat' : size === 'bar' ? 'One bar' : capital(size);
    return `${what}: piece ${values.number('number')} of ${values.number('of')}`;
  },
  'from-the-end-title': (values) =>
    values.number('pieces') === 1 ? 'The last piece' : `The last ${values.number('pieces')} pieces, ${values.text('joined')}`,
  'add-a-note-title': (values) => `${values.number('count')} notes`,
  'hands-title': (values) =>
    values.text('which') === 'together' ? 'Both hands' : `${values.text('which') === 'right' ? 'Right' : 'Left'} hand`,
  'outline-title': (values) => ['', 'Notes on the beats', 'Every other note', 'All notes'][values.number('stage')] ?? '',
  'long-short-title': (values) => `Groups of ${values.number('size')}, the ${ordinal(values.number('place'))} long`,
  'mixed-forms-title': formName,
  'quick-groups-title': (values) => `Groups of ${values.number('size')} from the ${ordinal(values.number('first'))} note`,
  'burst-title': (values) => `Burst ${values.number('number')} of ${values.number('of')}`,
  'repeat-each-title': (values) =>
    `Each note ${['', 'once', 'twice', 'three times', 'four times'][values.number('times')] ?? 'again'}`,
  'doublings-title': (values) => `Doubled: ${values.text('places')} of ${values.number('of')}`,
  'blocks-title': (values) => `Blocks of ${values.number('size')}`,
  'hold-one-title': (values) => `The ${ordinal(values.number('finger'))} of ${values.number('of')} held`,
  'two-voices-title': (values) => values.text('hands'),
  'subdivisions-title': (values) => `From ${values.number('from')} to ${values.number('to')} to the beat`,
  'pulses-title': (values) => `${values.number('perBeat')} ${values.number('perBeat') === 1 ? 'wave' : 'waves'} to the beat`,
  'pattern-chain-title': (values) => `${values.number('patterns')} patterns, ${values.number('times')} times each`,
  'accents-title': (values) => {
    const on = values.text('on');
    if (on === 'beats') return 'Accents on the beats';
    if (on === 'off') return 'Accents off the beats';
    if (on === 'spot') return `Accent on note ${values.number('place')}`;
    return `Accent on the ${ordinal(values.number('place'))} of ${values.number('size')}`;
  },
  'touch-title': (values) => (values.text('how') === 'short' ? 'Short' : 'Connected'),
  'slur-then-articulate-title': (values) => (values.text('step') === 'slurred' ? 'Slurred' : 'Articulated'),
  'loud-soft-title': (values) => {
    return capital(DYNAMICS[values.text('dynamic')] ?? '');
  },
  'clap-first-title': (values) => CLAPPED[values.text('how')] ?? '',
  'slow-quick-title': (values) => `At ${values.number('percent')} % of the tempo`,
  'arc-title': (values) => `Arc from ${values.number('percent')} % and back`,
  'sweep-title': (values) => `Sweep from ${values.number('percent')} %`,
  'sweep-down-title': (values) => `Sweep down to ${values.number('percent')} %`,
  'gaps-title': (values) => `${values.number('clicked')} bars with click, ${values.number('silent')} without`,
  'long-run-title': (values) => `${values.number('rounds')} times round, ${values.text('mind')}`,
};
