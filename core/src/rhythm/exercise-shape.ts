import type { Exercise, NoteEvent } from '../schema/exercise';
import { beats, beatsNumber } from './beats';

/** Events in the order in which they sound. */
export const inOrder = (events: readonly NoteEvent[]): NoteEvent[] =>
  [...events].sort((a, b) => beatsNumber(a.at) - beatsNumber(b.at));

/** Beats in one bar, as an exact fraction of the beat unit: 6/8 in dotted quarters has 2. */
export const barBeats = (exercise: Pick<Exercise, 'meter' | 'beatUnit'>) =>
  beats(`${exercise.meter.count}/${exercise.meter.unit}`).div(beats(exercise.beatUnit));

/** Beats from the first downbeat to the end of the last bar. */
export const lengthBeats = (exercise: Exercise) => barBeats(exercise).mul(exercise.bars);

/** The most notes per beat that the exercise asks for: 1 / its shortest gap between successive notes. */
export const notesPerBeat = (exercise: Exercise): number => {
  const at = exercise.events.map((event) => beats(event.at)).sort((a, b) => a.compare(b));
  const gaps = at
    .slice(1)
    .map((position, k) => position.sub(at[k] as typeof position))
    .filter((gap) => gap.compare(0) > 0);
  const shortest = gaps.reduce<(typeof gaps)[number] | null>(
    (least, gap) => (least && least.compare(gap) <= 0 ? least : gap),
    null,
  );
  return shortest ? shortest.inverse().valueOf() : 1;
};
