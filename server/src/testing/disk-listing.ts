import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join, relative } from 'node:path';

/** Every file under a folder with the checksum of its content, as lines; `except` leaves out what may change. */
export const diskListing = async (folder: string, except: RegExp = /$^/): Promise<string[]> => {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  const lines: string[] = [];
  for (const entry of entries) {
    const path = join(entry.parentPath, entry.name);
    const name = relative(folder, path);
    if (except.test(name)) continue;
    const content = entry.isFile()
      ? createHash('sha256')
          .update(await readFile(path))
          .digest('hex')
      : 'folder';
    lines.push(`${name} ${content}`);
  }
  return lines.sort();
};
