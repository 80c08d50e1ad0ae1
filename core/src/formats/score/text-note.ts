/** A note, a chord or a rest as it is typed: pitches with their marks, a value, signs. */
export const NOTE =
  /^((?:r|x|[A-G](?:##|#|bb|b)?-?\d?)(?:@(?:!|[^@+/~>'_^()!]+))*(?:~?\+(?:x|[A-G](?:##|#|bb|b)?-?\d?)(?:@(?:!|[^@+/~>'_^()!]+))*)*)(?:\/(\d+)(\.{0,2}))?([~>'_^()!]*)$/;

/** The values that can be typed: parts of a whole note. */
export const VALUES = new Set([1, 2, 4, 8, 16, 32, 64]);

/** Rewrites what is often typed otherwise: each a pattern, and how it is written right. */
const REWRITINGS: readonly (readonly [RegExp, (...parts: string[]) => string])[] = [
  // A small letter.
  [/^([a-g])(.*)$/, (_, letter = '', rest = '') => letter.toUpperCase() + rest],
  // A rest by another name.
  [/^[zZRpP](\/.*)?$/, (_, rest = '') => `r${rest}`],
  // The accidental after the octave.
  [
    /^([A-Ga-g])(-?\d)(##|#|bb|b)(.*)$/,
    (_, letter = '', octave, accidental, rest) => `${letter.toUpperCase()}${accidental}${octave}${rest}`,
  ],
  // The mark after the value, the sign before it.
  [/^(.+?)(\/\d+\.{0,2})((?:@[^@+/~>'_^()!]+)+)(.*)$/, (_, note, value, marks, signs) => `${note}${marks}${value}${signs}`],
  [/^([^/]+?)([~>'_^()!]+)(\/\d+\.{0,2})(.*)$/, (_, note, signs, value, rest) => `${note}${value}${signs}${rest}`],
  // The value first, or behind another sign.
  [/^(\d+)([A-Grx].*)$/, (_, value, note) => `${note}/${value}`],
  [/^([A-Gxr](?:##|#|bb|b)?\d?)[:*,=](\d+\.{0,2})$/, (_, note, value) => `${note}/${value}`],
];

/** What is wrong with a piece of text that is no note, and how it may have been meant. */
export const adviceOn = (text: string): string => {
  if (/^H/.test(text)) return 'this is not understood. The note under C is B here, and half a tone lower Bb.';
  if (/^[[(]\d?$/.test(text)) return 'this is not understood. Three in the time of two are 3:2[C4/8 D E].';
  for (const [pattern, rewritten] of REWRITINGS) {
    const found = pattern.exec(text);
    const meant = found && rewritten(...found);
    if (meant && NOTE.test(meant)) return `this is not understood. Perhaps ${meant}?`;
  }
  return 'this is not understood. A note is written like C4/8, a rest like r/4.';
};

/** What to write for a value that is none: so many in the time of so many, where it is a part of that. */
export const adviceOnValue = (value: number, note: string): string => {
  const known = 'a value is 1, 2, 4, 8, 16, 32 or 64.';
  let odd = value;
  while (odd > 0 && odd % 2 === 0) odd /= 2;
  if (odd < 3) return known;
  const normal = 2 ** Math.floor(Math.log2(odd));
  const base = (value / odd) * normal;
  return VALUES.has(base)
    ? `${known} ${odd} in the time of ${normal} begin with ${odd}:${normal}[${note}/${base} and end with ].`
    : known;
};
