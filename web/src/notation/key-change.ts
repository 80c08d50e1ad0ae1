import type { Clef } from '@isochron/core/schema';

/** Lines of a treble staff (0 the highest, halves between them) on which sharps and flats stand, in their order. */
const SHARPS = [0, 1.5, -0.5, 1, 2.5, 0.5, 2];
const FLATS = [2, 0.5, 2.5, 1, 3, 1.5, 3.5];
/** Some C clefs have them lower or higher, so that they stay on the staff. */
const OWN_SHARPS: Partial<Record<Clef, readonly number[]>> = {
  tenor: [3, 1, 2.5, 0.5, 2, 0, 1.5],
  soprano: [2.5, 0.5, 2, 0, 1.5, -0.5, 1],
};
const OWN_FLATS: Partial<Record<Clef, readonly number[]>> = {
  'mezzo-soprano': [0, 2, 0.5, 2.5, 1, 3, 1.5],
  baritone: [0.5, 2.5, 1, 3, 1.5, 3.5, 2],
};
const SHIFT: Record<Clef, number> = {
  treble: 0,
  bass: 1,
  alto: 0.5,
  tenor: -0.5,
  soprano: -1,
  'mezzo-soprano': 1.5,
  baritone: 2,
  percussion: 0,
};

/** Signs of the music font (SMuFL): flat, natural, sharp. */
const GLYPHS = { flat: '\uE260', natural: '\uE261', sharp: '\uE262' } as const;

/** The signs of a change of key within a line: those of the new one, or naturals in place of the old one's where it has none. */
export const keyChangeSigns = (clef: Clef, fifths: number, before: number): { glyph: string; line: number }[] => {
  const shown = fifths === 0 ? before : fifths;
  const own = (shown > 0 ? OWN_SHARPS : OWN_FLATS)[clef];
  const lines = own ?? (shown > 0 ? SHARPS : FLATS).map((line) => line + SHIFT[clef]);
  const glyph = fifths === 0 ? GLYPHS.natural : shown > 0 ? GLYPHS.sharp : GLYPHS.flat;
  return lines.slice(0, Math.abs(shown)).map((line) => ({ glyph, line }));
};

/** The room that such a sign takes, and a time signature behind a bar line, in pixels. */
export const KEY_SIGN_PX = 9;
export const METER_PX = 20;
