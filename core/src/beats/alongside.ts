import type { Accompaniment } from '../schema/accompaniment';
import { barStarts } from '../schema/frame';
import type { Drill } from '../schema/grid';
import { beatEvenness } from './unevenness';

/** Without an own click the recording gives the time. */
const NO_CLICK = 'none';

/** So many beats on either side tell how uneven those are that are played with: of a few, chance would say more than they do. */
const AROUND = 8;

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
  const all = beats?.timesS ?? [];
  const last = fromBeat + Math.ceil(beatsOf(drill)) + 1;
  const timesS = all.slice(fromBeat, last);
  if (timesS.length < 2) return null;
  const unsteadinessMs = beatEvenness(all.slice(Math.max(0, fromBeat - AROUND), last + AROUND))?.unsteadinessMs ?? 0;
  return {
    ...drill,
    click: hasOwnClick ? drill.click : { ...drill.click, kind: NO_CLICK },
    playAlong: { accompanimentId: id, title, fromBeat, timesS, unsteadinessMs },
  };
};
