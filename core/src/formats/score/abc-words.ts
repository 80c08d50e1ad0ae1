/** What in a line of music is no note: words in quotes, signs, grace notes, changes. */
const NO_NOTE = /"[^"]*"|![^!]*!|\+[^+\s]+\+|\{[^}]*\}|\[[A-Za-z]:[^\]]*\]/g;
const CHORD = /\[[^\]|]*\]/g;

/** How many syllables a line of music has place for: one for each note or chord (standard, 5.1). */
const places = (music: string): number =>
  music
    .replace(NO_NOTE, '')
    .replace(CHORD, 'C')
    .match(/[A-Ga-g]/g)?.length ?? 0;

/** What takes a place in a line of words: a syllable, one that is held, one that is left out. */
const SLOT = /[_*]|(?:\\-|[^\s\-_*|])+/g;

/** The words of a line of music, blank where it has more notes than they have syllables; all blank where it has none. */
export const filledWords = (music: string, words: string): string => {
  const said = words.replace(/^w:/, '').trim();
  // Words by bars are counted by the package: they are left as they stand, for as far as they go.
  const missing = places(music) - (said.match(SLOT)?.length ?? 0);
  return [said, ...Array.from({ length: Math.max(0, missing) }, () => '~')].filter(Boolean).join(' ');
};

/** A note without a syllable as a blank one: the package takes the sign for it at rests as well. */
export const blankWords = (line: string): string => (/^w:/.test(line) ? line.replace(/(?<!\\)\*/g, ' ~ ') : line);
