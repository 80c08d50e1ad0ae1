import { strToU8, Unzip, UnzipInflate, zipSync } from 'fflate';
import { UnreadableScore } from './score';
import { childOf, childrenOf, parseXml } from './xml-tree';

/** More than this no score comes to, in bytes; what unpacks to more is not unpacked to its end. */
export const MAX_SCORE_BYTES = 24_000_000;
const TOO_LARGE = 'This is far larger than a score. Export the passage alone and try once more.';
const DAMAGED = 'This compressed MusicXML file is damaged. Export it again and try once more.';
const CONTAINER = 'META-INF/container.xml';
const MIME = 'application/vnd.recordare.musicxml';

/** The files of a zip archive by name, as long as all together stay under the limit. */
const unzipped = (bytes: Uint8Array): Map<string, Uint8Array> => {
  const files = new Map<string, Uint8Array[]>();
  let total = 0;
  const unzip = new Unzip((file) => {
    const isText = /\.(xml|musicxml)$/i.test(file.name);
    if (!isText) return;
    const pieces: Uint8Array[] = [];
    files.set(file.name, pieces);
    file.ondata = (error, piece) => {
      // What is thrown here comes back as the archive's own error.
      if (error)
        throw error instanceof UnreadableScore ? error : new UnreadableScore(total > MAX_SCORE_BYTES ? TOO_LARGE : DAMAGED);
      total += piece.length;
      if (total > MAX_SCORE_BYTES) throw new UnreadableScore(TOO_LARGE);
      pieces.push(piece);
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    // By parts, so that one that unpacks without end is stopped on the way.
    for (let at = 0; at < bytes.length; at += 65_536) unzip.push(bytes.subarray(at, at + 65_536), at + 65_536 >= bytes.length);
  } catch (error) {
    throw error instanceof UnreadableScore ? error : new UnreadableScore(DAMAGED);
  }
  return new Map(
    [...files].map(([name, pieces]) => {
      const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
      let at = 0;
      for (const piece of pieces) {
        whole.set(piece, at);
        at += piece.length;
      }
      return [name, whole];
    }),
  );
};

/** The encoding of a file with two bytes a letter, told by its byte order mark or by a first sign of ASCII; null for any other. */
export const wideEncoding = (bytes: Uint8Array): 'utf-16le' | 'utf-16be' | null => {
  const [first, second] = bytes;
  if ((first === 0xff && second === 0xfe) || (first === 0x3c && second === 0)) return 'utf-16le';
  return (first === 0xfe && second === 0xff) || (first === 0 && second === 0x3c) ? 'utf-16be' : null;
};

/** The text of bytes: as its mark or its XML declaration says, else as UTF-8, and where it is not that as Western European. */
export const scoreText = (bytes: Uint8Array): string => {
  if (bytes.length > MAX_SCORE_BYTES) throw new UnreadableScore(TOO_LARGE);
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 200));
  const declared = /^(?:\xef\xbb\xbf)?<\?xml[^>]*\bencoding=["']([\w.-]+)["']/.exec(head)?.[1];
  const encodings = [wideEncoding(bytes), declared?.toLowerCase().startsWith('utf-16') ? null : declared, 'utf-8'];
  for (const encoding of encodings)
    try {
      if (encoding) return new TextDecoder(encoding, { fatal: true }).decode(bytes);
    } catch {
      // Not known, or not what it says.
    }
  return new TextDecoder('windows-1252').decode(bytes);
};

/** The MusicXML text within a compressed file, found by its container. Throws {@link UnreadableScore}. */
export const unpackMxl = (bytes: Uint8Array): string => {
  const files = unzipped(bytes);
  const container = files.get(CONTAINER);
  const named = container
    ? childrenOf(childOf(parseXml(scoreText(container)), 'rootfiles'), 'rootfile').map(
        (file) => file.attributes['full-path'] ?? '',
      )
    : [];
  const name = named.find((one) => files.has(one)) ?? [...files.keys()].find((one) => !one.startsWith('META-INF/'));
  const file = name === undefined ? undefined : files.get(name);
  if (!file?.length) throw new UnreadableScore(DAMAGED);
  return scoreText(file);
};

/** Packs a MusicXML text as a compressed file. */
export const packMxl = (text: string): Uint8Array =>
  zipSync({
    mimetype: [strToU8(MIME), { level: 0 }],
    [CONTAINER]: strToU8(
      `<?xml version="1.0" encoding="UTF-8"?>\n<container><rootfiles><rootfile full-path="score.musicxml" media-type="${MIME}+xml"/></rootfiles></container>\n`,
    ),
    'score.musicxml': strToU8(text),
  });
