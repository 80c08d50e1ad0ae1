import type { Method, MethodStage } from './method';

/** Stages that undo each other though they change something else (common practice). */
const CLASHES: readonly (readonly [MethodStage, MethodStage])[] = [
  // What makes its own rhythm asks for none, and keeps none.
  ['anew', 'rhythm'],
  ['anew', 'groups'],
  ['anew', 'doubling'],
  // A long note that is struck twice is none.
  ['rhythm', 'doubling'],
];

/** Methods whose click or tempo is their own, and so is what they are listened to for. */
const OWN_TEMPO = ['burst', 'long-run'];
const OWN_SOUND = ['pulses', 'clap-first'];

/** Whether two methods make sense together: neither takes away what the other one does. */
export const methodsCombine = (one: Method, other: Method): boolean => {
  if (one.id === other.id || one.stage === 'all' || other.stage === 'all' || one.stage === other.stage) return false;
  if (CLASHES.some((clash) => clash.includes(one.stage) && clash.includes(other.stage))) return false;
  const isEither = (ids: readonly string[], stages: readonly MethodStage[]) =>
    [
      [one, other],
      [other, one],
    ].some(([a, b]) => a && b && ids.includes(a.id) && stages.includes(b.stage));
  return !isEither(OWN_TEMPO, ['tempo', 'click']) && !isEither(OWN_SOUND, ['touch', 'dynamic', 'accents']);
};
