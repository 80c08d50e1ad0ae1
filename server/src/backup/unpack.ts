import { createWriteStream } from 'node:fs';
import { mkdir, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { countingStream } from '../counting-stream';
import { RequestError } from '../request-error';
import { storageErrorOf } from '../storage-error';
import { DATABASE_NAME, MANIFEST_NAME, type Manifest, ManifestSchema, type OnProgress } from './manifest';
import { openZip, type ReadableZip } from './read-zip';

const NONE = 'This is not a backup of Isochron. Choose the ZIP file that “Back up everything” made.';

/** What a backup that cannot be used is answered with. */
export const damagedBackup = (what: string): RequestError =>
  new RequestError(400, `This backup is damaged: ${what}. Nothing was changed. Take another copy of it.`);

/** A manifest names each file in some 150 bytes: this is enough for a hundred thousand. */
const LONGEST_MANIFEST_BYTES = 16_000_000;
/** So much of the disk stays free. */
const MIN_LEFT_BYTES = 200_000_000;

/** The bytes of a stream, as long as they are not more than a limit. */
const boundedBytes = async (stream: Readable, mostBytes: number): Promise<Buffer> => {
  const pieces: Buffer[] = [];
  let bytes = 0;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    bytes += piece.length;
    if (bytes > mostBytes) throw new RequestError(400, NONE);
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
};

const manifestOf = async (zip: ReadableZip): Promise<Manifest> => {
  const none = new RequestError(400, NONE);
  if (!zip.names.includes(MANIFEST_NAME)) throw none;
  let document: unknown;
  try {
    document = JSON.parse((await boundedBytes(await zip.stream(MANIFEST_NAME), LONGEST_MANIFEST_BYTES)).toString());
  } catch {
    throw none;
  }
  const parsed = ManifestSchema.safeParse(document);
  if (!parsed.success || !parsed.data.files.some(({ name }) => name === DATABASE_NAME)) throw none;
  return parsed.data;
};

const checkRoom = async (folder: string, bytes: number): Promise<void> => {
  const { bavail, bsize } = await statfs(folder);
  if (Number(bavail) * Number(bsize) < bytes + MIN_LEFT_BYTES)
    throw new RequestError(
      507,
      `This backup unpacks to ${Math.ceil(bytes / 1e6)} MB, for which the disk has no room. Free some space.`,
    );
};

/**
 * Unpacks a backup into an empty folder: what its manifest names, and nothing else. Makes sure that every file is what the manifest
 * says, by length and checksum. Throws a RequestError that says what is wrong.
 */
export const unpackBackup = async (zipPath: string, into: string, onProgress: OnProgress): Promise<Manifest> => {
  let zip: ReadableZip | null = null;
  try {
    zip = await openZip(zipPath).catch((error: unknown) => {
      throw storageErrorOf(error) ? error : new RequestError(400, NONE);
    });
    const manifest = await manifestOf(zip);
    await mkdir(join(into, 'recordings'), { recursive: true });
    const ofBytes = manifest.files.reduce((sum, { bytes }) => sum + bytes, 0);
    await checkRoom(into, ofBytes);
    let doneBytes = 0;
    for (const { name, bytes, sha256 } of manifest.files) {
      if (!zip.names.includes(name)) throw damagedBackup(`${name} is missing`);
      let left = bytes;
      const { stream, result } = countingStream((more) => {
        left -= more;
        if (left < 0) throw damagedBackup(`${name} is longer than it says`);
        doneBytes += more;
        onProgress(doneBytes, ofBytes);
      });
      try {
        await pipeline(await zip.stream(name), stream, createWriteStream(join(into, name), { flags: 'wx', flush: true }));
      } catch (error) {
        // The packed bytes themselves may be broken; a full disk and a stop by the player are something else.
        const isPacking = error instanceof Error && error.name !== 'AbortError' && !storageErrorOf(error);
        throw isPacking && !(error instanceof RequestError) ? damagedBackup(`${name} cannot be unpacked`) : error;
      }
      const is = result();
      if (is.bytes !== bytes || is.sha256 !== sha256) throw damagedBackup(`${name} is not what it was`);
    }
    return manifest;
  } finally {
    zip?.close();
  }
};
