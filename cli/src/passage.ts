import { writeFile } from 'node:fs/promises';
import { combinedDrills, METHODS, methodOf } from '@isochron/core/material';
import { passageGrid } from '@isochron/core/planning';
import type { Passage } from '@isochron/core/schema';
import { formatOf, PASSAGE_FORMATS, passageFigures } from '@isochron/core/score';
import { describeReason, drillName } from '@isochron/core/words';
import { parseCall } from './parse-call';
import { readPassage } from './read-passage';
import { USAGE, UsageError } from './usage';

const READER = { noteNaming: 'american' } as const;

const asJson = (value: unknown): string => `${JSON.stringify(value, null, 1)}\n`;

/** `isochron passage`: the notes of a file, as JSON or in the text notation; or what parts it has. */
export const passage = async (args: string[]): Promise<string> => {
  const { values, positionals } = parseCall(args, {
    json: { type: 'boolean' },
    part: { type: 'string' },
    parts: { type: 'boolean' },
  });
  const read = await readPassage(positionals[0], values.part);
  if (values.parts)
    return values.json ? asJson(read.parts) : read.parts.map(({ name, notes }) => `${name}\t${notes}\n`).join('');
  return values.json ? asJson({ ...passageFigures(read.passage), simplified: read.simplified }) : textOf(read.passage);
};

const textOf = (read: Passage): string => {
  const format = PASSAGE_FORMATS.find(({ id }) => id === 'text');
  return new TextDecoder().decode(format?.write(read));
};

/** `isochron convert`: from one kind of file to another, by their endings. */
export const convert = async (args: string[]): Promise<string> => {
  const { values, positionals } = parseCall(args, { part: { type: 'string' } });
  const [from, to] = positionals;
  if (!to) throw new UsageError(`Name the file to read and the file to write.\n\n${USAGE}`, 2);
  const format = formatOf(to);
  const known = PASSAGE_FORMATS.flatMap(({ endings }) => endings).join(', ');
  if (!format) throw new UsageError(`${to}: the ending says nothing that can be written. Use one of ${known}.`, 2);
  const read = await readPassage(from, values.part);
  try {
    await writeFile(to, format.write(read.passage));
  } catch {
    throw new UsageError(`The file ${to} cannot be written. Check its place and the room on the disk.`, 1);
  }
  return '';
};

/** `isochron methods`: every practice method with its parameters and their defaults. */
export const methods = async (args: string[]): Promise<string> => {
  const { values } = parseCall(args, { json: { type: 'boolean' } });
  const list = METHODS.map(({ id, name, about, fields, parameters }) => ({
    id,
    name,
    about,
    parameters: fields.map(({ key, label, choices }) => ({ key, label, choices: choices.map(({ value }) => value) })),
    defaults: parameters.parse({}) as Record<string, unknown>,
  }));
  return values.json ? asJson(list) : `${list.map(({ id, about }) => `${id.padEnd(22)}${about}`).join('\n')}\n`;
};

/** A value as it is typed: a number, yes or no, or a word. */
const typed = (text: string): unknown => {
  if (text === 'true' || text === 'false') return text === 'true';
  return text.trim() !== '' && Number.isFinite(Number(text)) ? Number(text) : text;
};

/** `isochron drills`: what one method, or several together, make of a file's passage. */
export const drills = async (args: string[]): Promise<string> => {
  const { values, positionals } = parseCall(args, {
    method: { type: 'string', multiple: true },
    set: { type: 'string', multiple: true },
    json: { type: 'boolean' },
  });
  const ids = values.method ?? [];
  if (ids.length === 0) throw new UsageError(`Name a method with --method.\n\n${USAGE}`, 2);
  const unknown = ids.find((id) => methodOf(id).id !== id);
  if (unknown)
    throw new UsageError(`There is no method ${unknown}. Those there are: ${METHODS.map(({ id }) => id).join(', ')}.`, 2);
  const settings = (values.set ?? []).map((text) => {
    const [, name = '', value = ''] = /^([^=]+)=(.*)$/.exec(text) ?? [];
    if (!name) throw new UsageError(`--set takes name=value; it was given ${text}.`, 2);
    const [owner, key] = name.includes('.') ? name.split('.') : [ids[0], name];
    return { owner, key: key as string, value: typed(value) };
  });
  const uses = ids.map((id) => {
    const method = methodOf(id);
    const known = Object.keys(method.parameters.parse({}) as object);
    const own = settings.filter(({ owner }) => owner === id);
    const strange = own.find(({ key }) => !known.includes(key));
    if (strange) throw new UsageError(`${id} has no parameter ${strange.key}. It has: ${known.join(', ') || 'none'}.`, 2);
    const parameters = Object.fromEntries(own.map(({ key, value }) => [key, value]));
    const read = method.parameters.safeParse(parameters);
    if (!read.success) {
      const [issue] = read.error.issues;
      throw new UsageError(`${id}: ${String(issue?.path[0])} cannot be that: ${issue?.message}`, 2);
    }
    return { id, parameters: read.data as never };
  });
  const { passage: read } = await readPassage(positionals[0]);
  const made = combinedDrills(passageGrid(read), uses);
  if (values.json)
    return asJson(
      made.map(({ titles: _, purpose, ...drill }, k) => ({
        title: drillName(made[k] as (typeof made)[number], READER),
        purpose: describeReason(purpose, READER),
        ...drill,
      })),
    );
  return `${made.map((drill) => `${drillName(drill, READER)}: ${drill.grid.events.length} onsets, ${drill.grid.bars} bars`).join('\n')}\n`;
};
