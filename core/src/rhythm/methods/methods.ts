import type { Drill, Grid, MethodUse } from '../../schema/grid';
import { ACCENTS } from './accents';
import { ADD_A_NOTE } from './add-a-note';
import { ARC } from './arc';
import { AROUND } from './around';
import { BLOCKS } from './blocks';
import { BURST } from './burst';
import { CHUNKS } from './chunks';
import { CLAP_FIRST } from './clap-first';
import { DOUBLINGS } from './doublings';
import { FROM_THE_END } from './from-the-end';
import { GAPS } from './gaps';
import { HANDS } from './hands';
import { HOLD_ONE } from './hold-one';
import { LONG_RUN } from './long-run';
import { LONG_SHORT } from './long-short';
import { LOUD_SOFT } from './loud-soft';
import type { Method } from './method';
import { gridForMethod, methodParameters } from './method-fields';
import { MIXED_FORMS } from './mixed-forms';
import { OUTLINE } from './outline';
import { PATTERN_CHAIN } from './pattern-chain';
import { PLAIN_CLICK } from './plain-click';
import { PULSES } from './pulses';
import { QUICK_GROUPS } from './quick-groups';
import { REPEAT_EACH } from './repeat-each';
import { SLOW_QUICK } from './slow-quick';
import { SLUR_THEN_ARTICULATE } from './slur-then-articulate';
import { STRAIGHT } from './straight';
import { SUBDIVISIONS } from './subdivisions';
import { SWEEP } from './sweep';
import { SWEEP_DOWN } from './sweep-down';
import { TOUCH } from './touch';
import { TWO_VOICES } from './two-voices';

/**
 * Every practice method, in the order in which combined ones are applied: first which notes, then in what rhythm, then how they are
 * touched, last where the tempo and the click go. To add one: write its file, add it here; the Bench then offers it.
 */
// biome-ignore lint/suspicious/noExplicitAny: each method reads its own parameters.
export const METHODS: readonly Method<any>[] = [
  STRAIGHT,
  AROUND,
  CHUNKS,
  FROM_THE_END,
  ADD_A_NOTE,
  HANDS,
  OUTLINE,
  LONG_SHORT,
  MIXED_FORMS,
  QUICK_GROUPS,
  BURST,
  REPEAT_EACH,
  DOUBLINGS,
  BLOCKS,
  HOLD_ONE,
  TWO_VOICES,
  SUBDIVISIONS,
  PULSES,
  PATTERN_CHAIN,
  ACCENTS,
  TOUCH,
  SLUR_THEN_ARTICULATE,
  LOUD_SOFT,
  CLAP_FIRST,
  SLOW_QUICK,
  ARC,
  SWEEP,
  SWEEP_DOWN,
  GAPS,
  LONG_RUN,
];

const rank = (id: string): number => METHODS.findIndex((method) => method.id === id);

/** A method by its id; straight where the id is unknown. */
export const methodOf = (id: string): Method => METHODS.find((method) => method.id === id) ?? (STRAIGHT as unknown as Method);

/** The drills that a method makes of a grid. Parameters that cannot be read take their defaults. */
export const drillsOf = (grid: Grid, methodId: string, parameters: unknown = {}): Drill[] => {
  const method = methodOf(methodId);
  const { others, ...chosen } = methodParameters(method, parameters);
  const own = gridForMethod(grid, others);
  const drills = method.drills(own, chosen);
  // A drill that is played again from its take is made as it was.
  return own === grid
    ? drills
    : drills.map((drill) => ({
        ...drill,
        method: { ...drill.method, parameters: { ...drill.method.parameters, others: 'silent' } },
      }));
};

const askedOf = ({ articulation, dynamic }: Drill['judging']) => ({
  ...(articulation ? { articulation } : {}),
  ...(dynamic ? { dynamic } : {}),
});

/** A method used on a drill that others made: what it asks for goes before what they did, what they left out stays left out. */
const usedOn = (drill: Drill, { id, parameters }: MethodUse): Drill[] =>
  drillsOf(drill.grid, id, parameters).map((made) => ({
    ...drill,
    ...made,
    method: drill.method,
    also: [...(drill.also ?? []), made.method],
    titles: [...(drill.titles ?? []), ...(made.titles ?? [])],
    purpose: drill.purpose,
    click: made.click === PLAIN_CLICK ? drill.click : made.click,
    judging: {
      leftOut: [...new Set([...drill.judging.leftOut, ...made.judging.leftOut])],
      ...(drill.judging.ownTempo || made.judging.ownTempo ? { ownTempo: true } : {}),
      ...askedOf({ ...drill.judging, ...made.judging }),
    },
  }));

/** The drills of several methods on one grid: each is used on what those before it in {@link METHODS} made. */
export const combinedDrills = (grid: Grid, uses: readonly MethodUse[]): Drill[] => {
  const [first, ...others] = [...uses].filter(({ id }) => rank(id) >= 0).sort((a, b) => rank(a.id) - rank(b.id));
  if (!first) return drillsOf(grid, 'straight');
  return others.reduce<Drill[]>(
    (drills, use) => drills.flatMap((drill) => usedOn(drill, use)),
    drillsOf(grid, first.id, first.parameters),
  );
};

/** Drills in the order of a day: variety is part of the practice, so that each day begins one further on. */
export const rotatedDrills = (drills: readonly Drill[], day: number): Drill[] => {
  const from = ((day % drills.length) + drills.length) % drills.length;
  return [...drills.slice(from), ...drills.slice(0, from)];
};
