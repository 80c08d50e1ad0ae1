import type { Writable } from 'node:stream';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { onsetsCsv } from '@isochron/core/material';
import { TakeQuerySchema } from '@isochron/core/schema';
import { ZipFile } from 'yazl';
import { listAccompaniments } from '../accompaniments';
import type { Store } from '../database/open';
import { listPassages } from '../passages';
import { listPracticeConfigs } from '../practice-configs';
import { getPlayerSettings } from '../settings';
import { listSolutions } from '../solutions';
import { listTakes } from '../take-lists';
import { getTake } from '../takes';

const PAGE = 100;

/** All stored takes, oldest first, one at a time: years of them fit into no memory. */
const everyTake = async function* (store: Store) {
  for (let offset = 0; ; offset += PAGE) {
    const query = TakeQuerySchema.parse({ order: 'asc', limit: PAGE, offset });
    const { takes, total } = await listTakes(store, query);
    for (const { id } of takes) {
      const take = await getTake(store, id).catch(() => null);
      if (take) yield take;
    }
    if (offset + PAGE >= total) return;
  }
};

/** A JSON list of all takes, and every note of every take as CSV lines under one head. */
const takesJson = async function* (store: Store) {
  let separator = '[\n';
  for await (const take of everyTake(store)) {
    yield separator + JSON.stringify(take);
    separator = ',\n';
  }
  yield separator === '[\n' ? '[]\n' : '\n]\n';
};

const notesCsv = async function* (store: Store) {
  let isFirst = true;
  for await (const take of everyTake(store)) {
    const [head, ...lines] = onsetsCsv(take.repetitions).trimEnd().split('\r\n');
    // A take without notes has no heads either.
    if (!head) continue;
    if (isFirst) yield `takeId,startedAt,passageId,${head}\r\n`;
    isFirst = false;
    for (const line of lines) yield `${take.id},${take.startedAt},${take.passageId},${line}\r\n`;
  }
};

/** Writes everything that is stored but sound as one ZIP file of JSON and CSV, for other programs. */
export const exportAll = async (store: Store, out: Writable): Promise<void> => {
  const zip = new ZipFile();
  const written = pipeline(zip.outputStream, out);
  const json = (name: string, document: unknown) => zip.addBuffer(Buffer.from(JSON.stringify(document, null, 2)), name);
  json('passages.json', await listPassages(store));
  json('notebook.json', await listSolutions(store));
  json('practice-configs.json', await listPracticeConfigs(store));
  json('accompaniments.json', await listAccompaniments(store));
  json('settings.json', await getPlayerSettings(store));
  json(
    'sessions.json',
    (await store.models.sessions.findAll()).map((row) => row.get('document')),
  );
  const streams = { 'takes.json': takesJson, 'notes.csv': notesCsv };
  for (const [name, lines] of Object.entries(streams))
    zip.addReadStreamLazy(name, {}, (take) => take(null, Readable.from(lines(store))));
  zip.end();
  await written;
};
