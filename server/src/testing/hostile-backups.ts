import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { copyFile, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import { type Chance, chance } from '@isochron/core/analysis';
import sqlite3 from 'sqlite3';
import { ZipFile } from 'yazl';
import type { Manifest } from '../backup/manifest';
import { openZip } from '../backup/read-zip';

/** A backup taken apart: its files by name, without the manifest. */
export type Parts = Map<string, Buffer>;

/** Takes a backup apart. */
export const takeApart = async (archive: string): Promise<Parts> => {
  const zip = await openZip(archive);
  const parts: Parts = new Map();
  for (const name of zip.names) if (name !== 'manifest.json') parts.set(name, await buffer(await zip.stream(name)));
  zip.close();
  return parts;
};

const manifestOf = (parts: Parts): Manifest => ({
  isochronBackup: 1,
  madeAt: '2026-11-01T12:00:00.000Z',
  files: [...parts].map(([name, content]) => ({
    name,
    bytes: content.length,
    sha256: createHash('sha256').update(content).digest('hex'),
  })),
  missing: [],
  damaged: [],
});

/** Puts a backup together, with a manifest that agrees with it, unless another is given. */
export const putTogether = async (
  parts: Parts,
  archive: string,
  manifest: Buffer = Buffer.from(JSON.stringify(manifestOf(parts))),
): Promise<void> => {
  const zip = new ZipFile();
  for (const [name, content] of parts) zip.addBuffer(content, name);
  zip.addBuffer(manifest, 'manifest.json');
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(archive));
};

/** Where a hostile backup is made, and from what. */
interface Making {
  parts: Parts;
  archive: string;
  /** For files in between. */
  folder: string;
  /** A file outside of the data folder that it would like to have. */
  secret: string;
  chance: Chance;
}

const run = (file: string, statements: readonly string[]): Promise<void> =>
  new Promise((resolve, reject) => {
    const database = new sqlite3.Database(file, (opened) => {
      if (opened) return reject(opened);
      database.exec(`PRAGMA foreign_keys = OFF; ${statements.join(';')};`, (error) =>
        database.close(() => (error ? reject(error) : resolve())),
      );
    });
  });

/** A backup whose database was changed by SQL; its manifest agrees with it. */
const bySql =
  (...statements: ((making: Making) => string)[]) =>
  async (making: Making): Promise<void> => {
    const file = join(making.folder, 'altered.db');
    await writeFile(file, making.parts.get('isochron.db') as Buffer);
    await run(
      file,
      statements.map((statement) => statement(making)),
    );
    await putTogether(new Map([...making.parts, ['isochron.db', await readFile(file)]]), making.archive);
    await rm(file);
  };

/** A backup whose manifest was changed. */
const byManifest =
  (change: (manifest: Manifest, making: Making) => unknown) =>
  async (making: Making): Promise<void> => {
    const document = change(manifestOf(making.parts), making);
    await putTogether(
      making.parts,
      making.archive,
      Buffer.isBuffer(document) ? document : Buffer.from(JSON.stringify(document)),
    );
  };

/** A backup of which bytes of the ZIP file itself were replaced, where they stand. */
const byBytes =
  (find: string, put: (making: Making) => string) =>
  async (making: Making): Promise<void> => {
    await putTogether(making.parts, making.archive);
    const bytes = await readFile(making.archive);
    const with_ = Buffer.from(put(making).padEnd(find.length).slice(0, find.length));
    for (let at = bytes.indexOf(find); at >= 0; at = bytes.indexOf(find, at + 1)) with_.copy(bytes, at);
    await writeFile(making.archive, bytes);
  };

const ENDLESS = 'WITH RECURSIVE n(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM n) SELECT x FROM n';
const up = ({ chance: { uniform } }: Making): string => '../'.repeat(1 + Math.floor(6 * uniform()));
const one = <Value>({ chance: { uniform } }: Making, list: readonly Value[]): Value =>
  list[Math.floor(uniform() * list.length)] as Value;
const A_TABLE = ['takes', 'settings', 'passages', 'repetitions', 'recordings', 'SequelizeMeta'];
const named = (file: string) => `UPDATE recordings SET file = '${file}'`;

/** What a backup can try, by what it is after. */
export const HOSTILE: Record<string, (making: Making) => Promise<void>> = {
  'a recording named outside of the folder': bySql((making) => named(`${up(making)}secret.txt`)),
  'a recording named by its whole path': bySql(({ secret }) => named(secret)),
  'a recording that is the database': bySql((making) => named(one(making, ['isochron.db', '../isochron.db', './isochron.db']))),
  'a recording to play along with outside of the folder': bySql(
    (making) =>
      `INSERT INTO accompaniments (id, title, revision, file, bytes, document) VALUES ('a1b2c3d4-0000-4000-8000-000000000000', 'x', 1, '${up(making)}secret.txt', 1, '{}')`,
  ),
  'a recording that did not come with it': bySql(() => named('c9bf9e57-1685-4c89-bafb-ff5af830be8a.wav')),
  'one recording for two takes': bySql(() => 'UPDATE recordings SET file = (SELECT file FROM recordings LIMIT 1)'),
  'a view in the place of a table': async (making) => {
    const table = one(making, A_TABLE);
    await bySql(
      () => `ALTER TABLE ${table} RENAME TO was`,
      () => `CREATE VIEW ${table} AS ${ENDLESS}`,
    )(making);
  },
  'an endless view': bySql(() => `CREATE VIEW everything AS ${ENDLESS}`),
  'a trigger that empties': bySql(
    (making) =>
      `CREATE TRIGGER gone ${one(making, ['AFTER INSERT', 'AFTER UPDATE', 'AFTER DELETE', 'BEFORE INSERT', 'BEFORE DELETE'])} ON ${one(making, A_TABLE)} BEGIN DELETE FROM takes; END`,
  ),
  'a column that computes': bySql(
    (making) => `ALTER TABLE ${one(making, A_TABLE)} ADD COLUMN evil AS (zeroblob(1000000000)) VIRTUAL`,
  ),
  'an index that computes': bySql((making) => `CREATE INDEX slow ON ${one(making, A_TABLE)} (abs(1) || 'x')`),
  'a table too many': bySql(
    (making) =>
      `CREATE TABLE ${one(
        making,
        ['extra', 'Takes2', 'x y'].map((name) => `"${name}"`),
      )} (x)`,
  ),
  'a column too many': bySql((making) => `ALTER TABLE ${one(making, A_TABLE)} ADD COLUMN extra TEXT DEFAULT 'x'`),
  'a virtual table': bySql(
    (making) => `CREATE VIRTUAL TABLE words USING ${one(making, ['fts5(x)', 'fts4(x)', 'rtree(a,b,c)'])}`,
  ),
  'a table that is missing': bySql((making) => `DROP TABLE ${one(making, A_TABLE)}`),
  'values of the wrong kind': bySql((making) =>
    one(making, [
      "UPDATE recordings SET bytes = 'many'",
      "UPDATE takes SET revision = 'x'",
      'UPDATE takes SET title = 7.5',
      "UPDATE repetitions SET notes = x'00ff'",
      "UPDATE takes SET goalBpm = 'fast'",
    ]),
  ),
  'names that are none': bySql((making) =>
    one(making, [
      "UPDATE takes SET variantId = '../..'",
      "INSERT INTO sessions (id, startedAt, document) VALUES ('<script>', 'x', '{}')",
      "INSERT INTO passages (id, title, document) VALUES ('../x', 'x', '{}')",
      "UPDATE takes SET sectionId = 'a b'",
    ]),
  ),
  'references that lead nowhere': bySql((making) => one(making, ['DELETE FROM passages', 'DELETE FROM sessions'])),
  'what the server would remember': bySql(
    ({ secret }) =>
      `INSERT INTO settings (key, document) VALUES ('restore', '{"folder":"restore-00000000-0000-4000-8000-000000000000","before":"before-restore-x","files":["../../secret.txt","${secret}"]}')`,
  ),
  'another version': bySql((making) =>
    one(making, [
      "DELETE FROM SequelizeMeta WHERE name >= '0008'",
      "DELETE FROM SequelizeMeta WHERE name LIKE '0003%'",
      'DELETE FROM SequelizeMeta',
      "INSERT INTO SequelizeMeta VALUES ('9999-later')",
      "UPDATE SequelizeMeta SET name = '../x' WHERE name LIKE '0001%'",
    ]),
  ),
  'a list of tables that lies': bySql(
    () => 'PRAGMA writable_schema = ON',
    (making) =>
      one(making, [
        "UPDATE sqlite_schema SET sql = 'CREATE TABLE takes (' WHERE name = 'takes'",
        "UPDATE sqlite_schema SET rootpage = 2 WHERE type = 'table'",
        "UPDATE sqlite_schema SET type = 'view' WHERE name = 'settings'",
        "DELETE FROM sqlite_schema WHERE type = 'index'",
        "UPDATE sqlite_schema SET rootpage = 999999 WHERE name = 'takes'",
      ]),
  ),
  'a document longer than any': bySql(
    () => "UPDATE passages SET document = printf('%.*c', 70000000, 'x') WHERE id = 'five-steps'",
  ),
  'a file named outside of the folder in its list': byManifest((manifest, making) => ({
    ...manifest,
    files: [
      ...manifest.files,
      {
        name: one(making, [
          `${up(making)}x.wav`,
          `recordings/${up(making)}x.wav`,
          '/tmp/x.wav',
          'recordings/a/b.wav',
          'recordings/..wav',
          'recordings\\x.wav',
          'recordings/x.wav\0',
        ]),
        bytes: 1,
        sha256: '0'.repeat(64),
      },
    ],
  })),
  'a list that is none': byManifest((_manifest, making) =>
    Buffer.from(one(making, ['', '{', 'null', '[]', '"x"', '[['.repeat(50_000), '{"isochronBackup":2}', '\ufeff{}', '7'])),
  ),
  'a list with a file twice': byManifest(({ files, ...manifest }) => ({ ...manifest, files: [...files, files[0]] })),
  'lengths that lie': byManifest(({ files, ...manifest }, making) => ({
    ...manifest,
    files: files.map((file) => ({ ...file, bytes: one(making, [0, 1, -1, 1e300, file.bytes + 1, file.bytes - 1, 1e15]) })),
  })),
  'checksums that lie': byManifest(({ files, ...manifest }) => ({
    ...manifest,
    files: files.map((file) => ({ ...file, sha256: 'f'.repeat(64) })),
  })),
  'a list that takes no end': byManifest((manifest) =>
    Buffer.from(JSON.stringify({ ...manifest, missing: Array.from({ length: 900_000 }, (_, k) => `${k}-0123456789.wav`) })),
  ),
  'an entry named outside of the folder': byBytes('recordings/', (making) => `${up(making)}xxxxxxxxxxx`),
  'an entry of another kind': byBytes('PK\x01\x02', (making) => one(making, ['PK\x01\x03', 'PK\x05\x06', 'XX\x01\x02'])),
  'what unpacks to far more than it says': async (making) => {
    const bomb = Buffer.alloc(200_000_000 + Math.floor(1e6 * making.chance.uniform()));
    const parts = new Map([...making.parts, ['isochron.db', bomb]]);
    await putTogether(parts, making.archive, Buffer.from(JSON.stringify(manifestOf(making.parts))));
  },
  'a file twice': async (making) => {
    const name = [...making.parts.keys()].find((one) => one.startsWith('recordings/')) ?? '';
    // Of another name with the same number of letters, which is then written over.
    const other = name.replace(/.\.wav$/, '_.wav');
    await putTogether(
      new Map([...making.parts, [other, Buffer.from('RIFF')]]),
      making.archive,
      Buffer.from(JSON.stringify(manifestOf(making.parts))),
    );
    const bytes = await readFile(making.archive);
    for (let at = bytes.indexOf(other); at >= 0; at = bytes.indexOf(other, at + 1)) bytes.write(name, at, 'latin1');
    await writeFile(making.archive, bytes);
  },
};

/** Makes one of the hostile backups, in one of its forms. */
export const makeHostile = async (
  kind: string,
  seed: number,
  parts: Parts,
  at: { archive: string; folder: string; secret: string },
): Promise<void> => {
  await (HOSTILE[kind] as (making: Making) => Promise<void>)({ parts, ...at, chance: chance(seed) });
};

/** Makes a backup in which bytes were changed, cut or put in by chance: of the ZIP file, or of the database with a list that agrees. */
export const makeMutated = async (seed: number, parts: Parts, whole: string, archive: string): Promise<void> => {
  const { uniform } = chance(seed);
  const below = (limit: number) => Math.floor(uniform() * limit);
  const mutated = (bytes: Buffer): Buffer => {
    let changed = Buffer.from(bytes);
    for (let left = 1 + below(40); left > 0; left -= 1) {
      const at = below(changed.length);
      const form = below(8);
      if (form < 6) changed[at] = below(256);
      else if (form === 6) changed = Buffer.concat([changed.subarray(0, at), changed.subarray(at + below(3000))]);
      else changed = Buffer.concat([changed.subarray(0, at), Buffer.alloc(below(600), below(256)), changed.subarray(at)]);
    }
    return changed;
  };
  if (seed % 2 === 0) {
    await copyFile(whole, archive);
    await writeFile(archive, mutated(await readFile(archive)));
    return;
  }
  await putTogether(new Map([...parts, ['isochron.db', mutated(parts.get('isochron.db') as Buffer)]]), archive);
};
