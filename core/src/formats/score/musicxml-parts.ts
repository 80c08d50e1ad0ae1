import { isDrumKey } from '../../rhythm/drum-kit';
import { childOf, childrenOf, type Element, numberOf } from './xml-tree';

/** The parts of a score by their id, each with its measures in order, whichever way the file is written. */
export const partsOf = (root: Element): Map<string, Element[]> => {
  const parts = new Map<string, Element[]>();
  if (root.name === 'score-partwise')
    for (const part of childrenOf(root, 'part'))
      parts.set(part.attributes.id ?? String(parts.size + 1), childrenOf(part, 'measure'));
  else
    for (const measure of childrenOf(root, 'measure'))
      for (const part of childrenOf(measure, 'part')) {
        const id = part.attributes.id ?? '1';
        parts.set(id, [...(parts.get(id) ?? []), { ...part, attributes: measure.attributes }]);
      }
  return parts;
};

/** Notes that are there for playing back alone: nobody reads them. */
export const isHiddenNote = (note: Element): boolean => note.attributes['print-object'] === 'no' && !childOf(note, 'rest');

/** How many notes are written in a part; rests, cues and hidden ones are none. */
export const notesIn = (measures: readonly Element[]): number =>
  measures.reduce(
    (sum, measure) =>
      sum +
      childrenOf(measure, 'note').filter((note) => !childOf(note, 'rest') && !childOf(note, 'cue') && !isHiddenNote(note))
        .length,
    0,
  );

/** What each unpitched instrument of a part sounds as. The standard counts keys from 1, General MIDI from 0. */
export const drumsOf = (root: Element, partId: string): Map<string, number> => {
  const part = childrenOf(childOf(root, 'part-list'), 'score-part').find(({ attributes }) => attributes.id === partId);
  return new Map(
    childrenOf(part ?? null, 'midi-instrument').flatMap((one) => {
      const key = (numberOf(one, 'midi-unpitched') ?? 0) - 1;
      return one.attributes.id && isDrumKey(key) ? [[one.attributes.id, key]] : [];
    }),
  );
};
