import { type Articulation, ArticulationSchema, type Marks } from '../../schema/notation';
import type { Reading } from './musicxml-reading';
import type { ScoreNote } from './score';
import { childOf, childrenOf, type Element } from './xml-tree';

/** What is written at a note: articulation, fingering, slurs. */
export const readNotations = (note: Element, made: ScoreNote, reading: Reading): void => {
  const marks: Marks = made.marks;
  for (const notations of childrenOf(note, 'notations')) {
    for (const slur of childrenOf(notations, 'slur')) {
      const number = slur.attributes.number ?? '1';
      if (slur.attributes.type === 'start') {
        reading.slurs += 1;
        const name = String(reading.slurs);
        reading.openSlurs.set(number, name);
        made.slurStarts = [...(made.slurStarts ?? []), name];
      }
      const open = reading.openSlurs.get(number);
      if (slur.attributes.type === 'stop' && open) {
        made.slurStops = [...(made.slurStops ?? []), open];
        reading.openSlurs.delete(number);
      }
    }
    for (const sign of childOf(notations, 'articulations')?.children ?? []) {
      if (sign.name === 'accent') made.accent = true;
      else if (sign.name === 'strong-accent') {
        made.accent = true;
        made.articulation = 'marcato';
      } else if (sign.name === 'breath-mark') marks.breath = true;
      else if (ArticulationSchema.safeParse(sign.name).success) made.articulation = sign.name as Articulation;
      else reading.simplified.add('Some articulation signs are left out.');
    }
    for (const sign of childOf(notations, 'technical')?.children ?? []) {
      const text = sign.text.slice(0, 4);
      if (sign.name === 'fingering' && sign.attributes.substitution !== 'yes' && text) marks.finger ??= text;
      else if (sign.name === 'pluck' && text) marks.finger ??= text;
      else if (sign.name === 'string' && text) marks.string = text;
      else if (sign.name === 'up-bow') marks.stroke = 'up';
      else if (sign.name === 'down-bow') marks.stroke = 'down';
      else if (sign.name === 'open-string') marks.finger ??= '0';
    }
    if (childOf(notations, 'glissando') || childOf(notations, 'slide')) reading.simplified.add('Glissandos are left out.');
  }
};
