import type { Passage } from '../../schema/passage';
import { writeAbc } from './abc-write';
import { readMusicXml } from './musicxml-read';
import { writeMusicXml } from './musicxml-write';
import { MAX_SCORE_BYTES, packMxl, scoreText, unpackMxl, wideEncoding } from './mxl';
import { type Score, UnreadableScore } from './score';
import { passageOfScore, type ReadPassage } from './score-passage';
import { readSmfScore } from './smf-read';
import { writeSmfScore } from './smf-write';
import { readText } from './text-read';
import { writeText } from './text-write';

/** One kind of file that holds a passage: told by its endings, read and written. */
export interface PassageFormat {
  id: string;
  name: string;
  endings: readonly string[];
  mime: string;
  /** Whether a file's first bytes are of this kind, whatever it is called. */
  begins(bytes: Uint8Array): boolean;
  /** @param part what is taken of it, by its id; the first where nothing is said */
  read(bytes: Uint8Array, part?: string): Score | Promise<Score>;
  write(passage: Passage): Uint8Array;
}

const starts = (bytes: Uint8Array, text: string): boolean => [...text].every((letter, k) => bytes[k] === letter.charCodeAt(0));
const encoded = (text: string): Uint8Array => new TextEncoder().encode(text);
const head = (bytes: Uint8Array): string =>
  new TextDecoder(wideEncoding(bytes) ?? 'utf-8')
    .decode(bytes.subarray(0, 400))
    .replace(/^\uFEFF/, '')
    .trimStart();

/** Every kind of file that holds a passage. To add one, write its reader and writer and add it here. */
export const PASSAGE_FORMATS: readonly PassageFormat[] = [
  {
    id: 'musicxml',
    name: 'MusicXML',
    endings: ['.musicxml', '.xml'],
    mime: 'application/vnd.recordare.musicxml+xml',
    begins: (bytes) => head(bytes).startsWith('<'),
    read: (bytes, part) => readMusicXml(scoreText(bytes), part),
    write: (passage) => encoded(writeMusicXml(passage)),
  },
  {
    id: 'mxl',
    name: 'MusicXML, compressed',
    endings: ['.mxl'],
    mime: 'application/vnd.recordare.musicxml',
    begins: (bytes) => starts(bytes, 'PK'),
    read: (bytes, part) => readMusicXml(unpackMxl(bytes), part),
    write: (passage) => packMxl(writeMusicXml(passage)),
  },
  {
    id: 'midi',
    name: 'Standard MIDI File',
    endings: ['.mid', '.midi'],
    mime: 'audio/midi',
    begins: (bytes) => starts(bytes, 'MThd'),
    read: readSmfScore,
    write: writeSmfScore,
  },
  {
    id: 'abc',
    name: 'ABC',
    endings: ['.abc'],
    mime: 'text/vnd.abc',
    begins: (bytes) => /^X:\s*\d/.test(head(bytes).replace(/^%.*$/gm, '').trimStart()),
    // The package that reads it is large: it is loaded where it is needed.
    read: async (bytes, part) => (await import('./abc-read')).readAbc(scoreText(bytes), part),
    write: (passage) => encoded(writeAbc(passage)),
  },
  {
    id: 'text',
    name: 'Text notation',
    endings: ['.txt'],
    mime: 'text/plain',
    begins: (bytes) => /^(title|meter|key|beat|tempo|clef|staff|voice)\b.*:/i.test(head(bytes)),
    read: (bytes) => readText(scoreText(bytes)),
    write: (passage) => encoded(writeText(passage)),
  },
];

/** The format of a file by its name's ending; undefined where none has it. */
export const formatOf = (name: string): PassageFormat | undefined =>
  PASSAGE_FORMATS.find(({ endings }) => endings.some((ending) => name.toLowerCase().endsWith(ending)));

/**
 * Reads a passage from a file of any known kind: by what it begins with, else by its name. Throws {@link UnreadableScore} with a message
 * that says what is wrong and what to do.
 *
 * @param part what is taken of a file that holds several, by its id; the first where nothing is said
 */
export const readPassageFile = async (name: string, bytes: Uint8Array, id: string, part?: string): Promise<ReadPassage> => {
  if (bytes.length === 0) throw new UnreadableScore('This file is empty. Choose another one.');
  if (bytes.length > MAX_SCORE_BYTES)
    throw new UnreadableScore('This is far larger than a score. Export the passage alone and try once more.');
  const format = PASSAGE_FORMATS.find((one) => one.begins(bytes)) ?? formatOf(name);
  if (!format)
    throw new UnreadableScore(
      'This kind of file is not known. Choose MusicXML (.musicxml, .mxl), MIDI (.mid), ABC (.abc) or text notation (.txt).',
    );
  let score: Score;
  try {
    score = await format.read(bytes, part);
  } catch (error) {
    if (error instanceof UnreadableScore) throw error;
    throw new UnreadableScore(`This file cannot be read as ${format.name}: it is damaged. Export it again and try once more.`);
  }
  const bare = name.replace(/^.*[/\\]/, '').replace(/\.[^.]+$/, '');
  return passageOfScore({ ...score, title: score.title.trim() || bare }, id);
};
