import { transposed, transpositions } from '@isochron/core/material';
import type { Passage } from '@isochron/core/schema';
import { ChoiceField } from '../../app/fields';
import { useNewNotes } from './use-new-notes';

/** Intervals by their semitones, from one to the octave. */
const INTERVALS = [
  'a semitone',
  'a tone',
  'a minor third',
  'a major third',
  'a fourth',
  'a tritone',
  'a fifth',
  'a minor sixth',
  'a major sixth',
  'a minor seventh',
  'a major seventh',
  'an octave',
];
const WAYS = [1, -1].flatMap((way) =>
  INTERVALS.map((name, k) => ({ semitones: way * (k + 1), name: `${name} ${way > 0 ? 'up' : 'down'}` })),
);

/** Moves all notes of a passage by an interval, where they can be written there. */
export const Transpose = ({ passage }: { passage: Passage }) => {
  const change = useNewNotes();
  const possible = transpositions(passage);
  const move = (semitones: number) => {
    const moved = transposed(passage, semitones);
    if (moved) change(moved);
  };
  return (
    <ChoiceField
      label="Transpose"
      width="200px"
      value="0"
      choices={[
        { value: '0', name: 'by …' },
        ...WAYS.filter(({ semitones }) => possible.includes(semitones)).map(({ semitones, name }) => ({
          value: String(semitones),
          name,
        })),
      ]}
      onChange={(chosen) => move(Number(chosen))}
    />
  );
};
