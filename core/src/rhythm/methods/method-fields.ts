import { z } from 'zod';
import type { Grid } from '../../schema/grid';
import type { OptionField } from '../../schema/options';
import { lineAlone, voiceOf } from '../line';
import { wordField } from './fields';
import type { Method } from './method';
import { isMet, type PlayedOn } from './method-suits';

/** What the other voices do while a method works on the one that moves most. */
const OtherVoicesSchema = z.object({ others: z.enum(['written', 'silent']) }).catch({ others: 'written' });

const FIELD = wordField('others', 'The other voices', { written: 'as written', silent: 'silent' });

const hasSeveralVoices = ({ events }: Pick<Grid, 'events'>): boolean =>
  new Set(events.flatMap(({ notes }) => notes.map(voiceOf))).size > 1;

/** The fields of a method for what is played: where it has several voices, also what the others do. */
export const methodFields = (
  method: Pick<Method, 'fields' | 'fieldNeeds' | 'keepsOthers'>,
  played: PlayedOn,
): readonly OptionField[] => {
  const own = method.fields.filter(({ key }) => isMet(method.fieldNeeds?.[key], played));
  return method.keepsOthers && hasSeveralVoices(played.grid) ? [...own, FIELD] : own;
};

/** A method's parameters as they are chosen, those that cannot be read at their defaults. */
export const methodParameters = (
  method: Pick<Method, 'parameters' | 'keepsOthers'>,
  chosen: unknown,
): Record<string, unknown> => {
  const read = method.parameters.safeParse(chosen);
  const own = read.success ? read.data : method.parameters.parse({});
  const { others } = OtherVoicesSchema.parse(chosen);
  return method.keepsOthers ? { ...own, others } : own;
};

/** The grid that a method works on, by what the other voices do. */
export const gridForMethod = (grid: Grid, others: unknown): Grid =>
  others === 'silent' && hasSeveralVoices(grid) ? lineAlone(grid) : grid;
