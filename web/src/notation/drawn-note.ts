import { CLEFS, type DrumPart, drumPartOf, stepsUp } from '@isochron/core/material';
import type { Clef, Pitch } from '@isochron/core/schema';
import { Articulation, Dot, GraceNote, GraceNoteGroup, StaveNote, Stem, Stroke } from 'vexflow/bravura';
import { pitchKey, type ScoreSymbol } from './score';
import type { Side } from './sides';
import { clefCode } from './staff-clefs';
import { LETTERS } from './staff-reach';

/** A symbol with the note that is drawn for it. */
export interface Drawn {
  symbol: ScoreSymbol;
  note: StaveNote;
}

/** Where a note without pitch, or a rest, stands on its staff, in steps over its lowest line; the rests of two voices stand apart. */
const MIDDLE = 4;
const REST_STEPS = [7, 1] as const;

const keyOver = (clef: Clef, steps: number): string => {
  const place = stepsUp(CLEFS[clef].lowest) + steps;
  return `${LETTERS[place % 7]?.toLowerCase()}/${Math.floor(place / 7)}`;
};
/** How the package names heads of a kit. */
const HEAD_CODES: Record<DrumPart['head'], string> = {
  plain: '',
  cross: '/x2',
  'ringed cross': '/x3',
  diamond: '/d2',
  triangle: '/t2',
};
const ARTICULATION_CODES = { staccato: 'a.', tenuto: 'a-', staccatissimo: 'av', marcato: 'a^' } as const;
const ABOVE = 3;
const BELOW = 4;

/** Which way stems go: where a staff has several voices the first one's up and the others' down; of drums alone up. */
export const stemOf = ({ voice, voices }: Side, clef: string): number | null => {
  if (voices < 2) return clef === 'percussion' ? Stem.UP : null;
  return voice === 0 ? Stem.UP : Stem.DOWN;
};

/**
 * Where a pitch stands, as the package writes it: on a percussion staff the parts of a kit have places and heads of their own. What has no
 * pitch stands in the middle.
 */
const keyOn = (pitch: Pitch | null, clef: Clef): string => {
  if (!pitch) return keyOver(clef, MIDDLE);
  const part = clef === 'percussion' ? drumPartOf(pitch) : null;
  return part ? `${pitchKey({ ...part.place, alter: 0 })}${HEAD_CODES[part.head]}` : pitchKey(pitch);
};

/** The note or rest that is drawn for a symbol, with its dots, articulation and grace notes. */
export const toNote = (symbol: ScoreSymbol, clef: Clef, side: Side): StaveNote => {
  const restKey = keyOver(clef, side.voices > 1 ? REST_STEPS[side.voice === 0 ? 0 : 1] : MIDDLE);
  const stem = stemOf(side, clef);
  const head = clef === 'percussion' && symbol.pitches.every((pitch) => pitch === null) ? '/x2' : '';
  const note = new StaveNote({
    keys: symbol.isRest ? [restKey] : symbol.pitches.map((pitch) => `${keyOn(pitch, clef)}${pitch ? '' : head}`),
    duration: `${symbol.value}${symbol.isRest ? 'r' : ''}`,
    dots: symbol.dots,
    clef: clefCode(clef),
    ...(stem === null ? { autoStem: true } : { stemDirection: stem }),
  });
  for (let dot = 0; dot < symbol.dots; dot += 1) Dot.buildAndAttach([note], { all: true });
  const headSide = note.getStemDirection() === Stem.UP ? BELOW : ABOVE;
  if (symbol.articulation) note.addModifier(new Articulation(ARTICULATION_CODES[symbol.articulation]).setPosition(headSide));
  if (symbol.hasAccent && symbol.articulation !== 'marcato') note.addModifier(new Articulation('a>').setPosition(ABOVE));
  if (symbol.printed.arpeggio) note.addStroke(0, new Stroke(Stroke.Type.ARPEGGIO_DIRECTIONLESS, { allVoices: false }));
  if (symbol.graces.length > 0) {
    const isAlone = symbol.graces.length === 1;
    const graces = symbol.graces.map(
      (pitch) =>
        new GraceNote({ keys: [keyOn(pitch, clef)], duration: isAlone ? '8' : '16', slash: isAlone, clef: clefCode(clef) }),
    );
    const group = new GraceNoteGroup(graces, true);
    note.addModifier(isAlone ? group : group.beamNotes(), 0);
  }
  return note;
};
