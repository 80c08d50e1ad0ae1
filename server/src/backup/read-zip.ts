import type { Readable } from 'node:stream';
import { type Entry, open, type ZipFile } from 'yauzl';

/** A ZIP file that is open to be read, by the names in it. */
export interface ReadableZip {
  names: string[];
  /** The content of a file in it; throws where there is none of that name. */
  stream(name: string): Promise<Readable>;
  close(): void;
}

const opened = (path: string): Promise<ZipFile> =>
  new Promise((resolve, reject) => {
    open(path, { lazyEntries: true, autoClose: false }, (error, zip) => (error ? reject(error) : resolve(zip)));
  });

/** More names than years of recordings come to. */
const MAX_ENTRIES = 500_000;

const entriesOf = (zip: ZipFile): Promise<Map<string, Entry>> =>
  new Promise((resolve, reject) => {
    const entries = new Map<string, Entry>();
    zip.on('entry', (entry: Entry) => {
      // Two of one name are not what any writer makes.
      if (entries.has(entry.fileName) || entries.size >= MAX_ENTRIES) {
        reject(new Error(`The list of files in it is not to be trusted (${entry.fileName}).`));
        return;
      }
      entries.set(entry.fileName, entry);
      zip.readEntry();
    });
    zip.on('end', () => resolve(entries));
    zip.on('error', reject);
    zip.readEntry();
  });

/** Opens a ZIP file; throws where it is none, or damaged. */
export const openZip = async (path: string): Promise<ReadableZip> => {
  const zip = await opened(path);
  try {
    const entries = await entriesOf(zip);
    return {
      names: [...entries.keys()],
      stream: (name) =>
        new Promise((resolve, reject) => {
          const entry = entries.get(name);
          if (!entry) reject(new Error(`There is no ${name} in it.`));
          else zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream)));
        }),
      close: () => zip.close(),
    };
  } catch (error) {
    zip.close();
    throw error;
  }
};
