import { blankWords, filledWords } from './abc-words';

/** What the package that reads ABC takes otherwise than the standard, written so that it takes it as it is meant. */

/** `K:D exp ^f` has its own accidentals and no others. */
const explicitKeys = (text: string): string => text.replace(/(K:\s*)[A-G][#b]?\s*exp\b/g, '$1none');

const IS_MUSIC = /^(?![A-Za-z+]:|%|\s*$)/;
/** Words after the tune, and what is said to other programs: they are not kept, and stand between lines of one voice. */
const IS_BESIDE = /^(?:[WsdH]:|%(?!%)|%%MIDI)/;
/** What changes within the music can stand in its line. */
const IS_CHANGE = /^[KLMQ]:/;

/**
 * Voices that are written one after the other may have other numbers of lines, which the package takes for lines of the first voice: the
 * lines of a voice become one.
 */
const oneLineAVoice = (text: string): string => {
  if (!/^V:/m.test(text) || /^\[V:/m.test(text)) return text;
  const out: string[] = [];
  let isInBody = false;
  let isInMusic = false;
  /** The lines of music that became one, and the words under each of them. */
  let sung: { music: string; words: string | null }[] = [];
  const endMusic = () => {
    if (sung.some(({ words }) => words !== null))
      out.push(`w:${sung.map(({ music, words }) => filledWords(music, words ?? '')).join(' ')}`);
    sung = [];
    isInMusic = false;
  };
  for (const line of text.split(/\r?\n/)) {
    if (/^X:/.test(line)) isInBody = false;
    if (isInBody && IS_BESIDE.test(line)) continue;
    if (isInBody && /^w:/.test(line)) {
      const last = sung.at(-1);
      // Of several verses the first one is taken.
      if (last) last.words ??= line;
      continue;
    }
    const isChange: boolean = isInMusic && IS_CHANGE.test(line);
    const isMusic: boolean = isInBody && (isChange || IS_MUSIC.test(line));
    const said = isMusic ? line.replace(/%.*$/, '').replace(/\\\s*$/, '') : line;
    const plain = isChange ? `[${said.trim()}]` : said;
    if (!isMusic) endMusic();
    if (isMusic && isInMusic) out[out.length - 1] += ` ${plain}`;
    else out.push(plain);
    if (isMusic) sung.push({ music: plain, words: null });
    isInMusic = isMusic;
    if (/^K:/.test(line)) isInBody = true;
  }
  endMusic();
  return out.join('\n');
};

/** The package knows the sign to the coda by its words alone. */
const codaInWords = (text: string): string => text.replaceAll('!dacoda!', '"^To Coda"');

/** The text of tunes as the package reads it rightly. */
export const forPackage = (text: string): string =>
  oneLineAVoice(codaInWords(explicitKeys(text)).split(/\r?\n/).map(blankWords).join('\n'));
