import type { Accompaniment } from '../schema/accompaniment';
import { barStarts } from '../schema/frame';
import type { Drill } from '../schema/grid';
import { beatEvenness } from './unevenness';

/** Without an own click the recording gives the time. */
const NO_CLICK = 'none';

/** The beats of a recording from one on, as far as something of so many beats needs them; as they are, level beyond the last. */
const beatsFrom = (timesS: readonly number[], fromBeat: number, count: number): number[] =>
  timesS.slice(fromBeat, fromBeat + Math.ceil(count) + 1);

/** How many beats a drill is long. */
export const beatsOf = ({ grid }: Pick<Drill, 'grid'>): number => barStarts(grid).at(-1)?.valueOf() ?? 0;

/** How many beats a recording has for something that begins on one of them. */
export const beatsLeft = ({ beats }: Pick<Accompaniment, 'beats'>, fromBeat: number): number =>
  Math.max(0, (beats?.timesS.length ?? 0) - 1 - fromBeat);

/**
 * A drill played along with a recording, its first downbeat on one of the recording's beats: they are its grid from there on. It clicks
 * only where the player has chosen a click. Null where the recording has no two beats from there on.
 */
export const alongside = (
  drill: Drill,
  { id, title, beats }: Pick<Accompaniment, 'id' | 'title' | 'beats'>,
  fromBeat: number,
  hasOwnClick: boolean,
): Drill | null => {
  const timesS = beatsFrom(beats?.timesS ?? [], fromBeat, beatsOf(drill));
  if (timesS.length < 2) return null;
  const wobbleMs = beatEvenness(timesS)?.wobbleMs ?? 0;
  return {
    ...drill,
    click: hasOwnClick ? drill.click : { ...drill.click, kind: NO_CLICK },
    along: { accompanimentId: id, title, fromBeat, timesS, wobbleMs },
  };
};
