import { createWriteStream } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import { counted } from '../counted';
import { Refusal } from '../refusal';
import { storageTroubleOf } from '../storage-trouble';
import { DATABASE_NAME, MANIFEST_NAME, type Manifest, ManifestSchema, type OnProgress } from './manifest';
import { openZip, type ReadableZip } from './read-zip';

const NONE = 'This is not a backup of Isochron. Choose the ZIP file that “Back up everything” made.';
const damaged = (what: string) =>
  new Refusal(400, `This backup is damaged: ${what}. Nothing was changed. Take another copy of it.`);

const manifestOf = async (zip: ReadableZip): Promise<Manifest> => {
  if (!zip.names.includes(MANIFEST_NAME)) throw new Refusal(400, NONE);
  const parsed = ManifestSchema.safeParse(JSON.parse((await buffer(await zip.stream(MANIFEST_NAME))).toString()));
  if (!parsed.success || !parsed.data.files.some(({ name }) => name === DATABASE_NAME)) throw new Refusal(400, NONE);
  return parsed.data;
};

/**
 * Unpacks a backup into an empty folder, and makes sure that every file in it is what the manifest says, by length and checksum.
 * Throws a Refusal that says what is wrong.
 */
export const unpackBackup = async (zipPath: string, into: string, onProgress: OnProgress): Promise<Manifest> => {
  let zip: ReadableZip | null = null;
  try {
    zip = await openZip(zipPath).catch((error: unknown) => {
      throw storageTroubleOf(error) ? error : new Refusal(400, NONE);
    });
    const manifest = await manifestOf(zip);
    await mkdir(join(into, 'recordings'), { recursive: true });
    const ofBytes = manifest.files.reduce((sum, { bytes }) => sum + bytes, 0);
    let doneBytes = 0;
    for (const { name, bytes, sha256 } of manifest.files) {
      if (!zip.names.includes(name)) throw damaged(`${name} is missing`);
      const { stream, result } = counted((more) => {
        doneBytes += more;
        onProgress(doneBytes, ofBytes);
      });
      const content = await zip.stream(name);
      await pipeline(content, stream, createWriteStream(join(into, name), { flags: 'wx', flush: true })).catch(
        (error: unknown) => {
          // The packed bytes themselves may be broken; a full disk and a stop by the player are something else.
          const isPacking = error instanceof Error && error.name !== 'AbortError' && !storageTroubleOf(error);
          throw isPacking && !(error instanceof Refusal) ? damaged(`${name} cannot be unpacked`) : error;
        },
      );
      const is = result();
      if (is.bytes !== bytes || is.sha256 !== sha256) throw damaged(`${name} is not what it was`);
    }
    return manifest;
  } finally {
    zip?.close();
  }
};
