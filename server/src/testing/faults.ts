import { createHash, randomUUID } from 'node:crypto';
import { readdir, rm, statfs, writeFile } from 'node:fs/promises';
import { request } from 'node:http';
import { join } from 'node:path';
import { chance } from '@isochron/core/analysis';
import { API, type Ease, RequestErrorSchema, type Take } from '@isochron/core/schema';
import { makeOne, makeWav, PRACTICE_SESSION, sendJson, sendWav } from './made-takes';
import { type SpawnedServer, spawnServer } from './spawn-server';

/** What can go wrong while something is written. */
export const FAULTS = ['kill', 'cut upload', 'clash', 'refused first', 'full disk'] as const;
export type Fault = (typeof FAULTS)[number];

/** What a player was promised: each of these was acknowledged. */
interface Promised {
  take: Take;
  revision: number;
  ease: Ease | null;
  /** Checksum of its recording; null while none was acknowledged. */
  recording: string | null;
}

/** What came of the faults so far. */
export interface FaultCount {
  fault: Fault;
  injected: number;
  /** Writes that were acknowledged while faults of this kind were injected, and looked for afterwards. */
  acknowledged: number;
  lost: number;
  half: number;
  blocked: number;
  /** Answers without a sentence, or of a status that no refusal has. */
  speechless: number;
}

const PIECES = 3;
const CLIENTS = 3;
const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
const digestHeader = (bytes: Uint8Array) => ({
  'Content-Digest': `sha-256=:${createHash('sha256').update(bytes).digest('base64')}:`,
});
const EASES: readonly Ease[] = ['easy', 'working', 'tense'];

/** A player's practice over a server that faults are injected into, with everything that was acknowledged written down. */
export const createFaultRun = async (dataFolder: string, seed: number) => {
  const { uniform } = chance(seed);
  const below = (limit: number) => Math.floor(uniform() * limit);
  let server: SpawnedServer = await spawnServer(dataFolder);
  const promised = new Map<string, Promised>();
  /** Takes whose writing was under way when something went wrong: there whole, or not at all. */
  const uncertain = new Map<string, { take: Take; recording: string }>();
  /** What was acknowledged or under way since the last look. */
  let touched = new Set<string>();
  const counts = new Map(
    FAULTS.map((fault): [Fault, FaultCount] => [
      fault,
      { fault, injected: 0, acknowledged: 0, lost: 0, half: 0, blocked: 0, speechless: 0 },
    ]),
  );

  const take = async (answer: Promise<Response>, count: FaultCount): Promise<Response | null> => {
    const said = await answer.catch(() => null);
    if (said && !said.ok) {
      const sentence = RequestErrorSchema.safeParse(await said.json().catch(() => null));
      if (!sentence.success || sentence.data.message.length < 10 || said.status === 500) count.speechless += 1;
      return null;
    }
    return said;
  };

  /** One take from begin to end: practice session, figures, recording by pieces, an answer about ease. Ends early where something fails. */
  const practise = async (count: FaultCount): Promise<void> => {
    const one = makeOne();
    const wav = makeWav(below(1e6), 4800 + below(20_000));
    const { api } = server;
    uncertain.set(one.id, { take: one, recording: sha256(wav) });
    touched.add(one.id);
    if (!(await take(sendJson(`${api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION), count))) return;
    if (!(await take(sendJson(`${api}/takes/${one.id}`, 'PUT', one), count))) return;
    const promise: Promised = { take: one, revision: 1, ease: one.repetitions[0]?.ease ?? null, recording: null };
    promised.set(one.id, promise);
    count.acknowledged += 1;
    const upload = randomUUID();
    const size = Math.ceil(wav.length / PIECES);
    for (let from = 0; from < wav.length; from += size) {
      const piece = wav.slice(from, from + size);
      const address = `${api}/takes/${one.id}/recording?upload=${upload}&from=${from}&of=${wav.length}`;
      if (!(await take(sendWav(address, piece, digestHeader(piece)), count))) return;
    }
    promise.recording = sha256(wav);
    count.acknowledged += 1;
    const first = one.repetitions[0];
    if (!first) return;
    const ease = EASES[below(EASES.length)] as Ease;
    const correction = { takeRevision: 1, repetition: { ...first, ease } };
    if (!(await take(sendJson(`${api}/takes/${one.id}/repetitions/0`, 'PUT', correction), count))) return;
    promise.ease = ease;
    promise.revision = 2;
    count.acknowledged += 1;
  };

  /** Looks for everything that was touched since the last time: acknowledged and there, or not acknowledged and whole or absent. */
  const look = async (count: FaultCount): Promise<void> => {
    const { api } = server;
    for (const id of touched) {
      const promise = promised.get(id);
      const answer = await fetch(`${api}/takes/${id}`);
      if (answer.status === 404) {
        if (promise) count.lost += 1;
        continue;
      }
      const stored = API.take.safeParse(await answer.json()).data;
      const sent = uncertain.get(id) as { take: Take; recording: string };
      if (!stored || stored.repetitions.length !== sent.take.repetitions.length) {
        count.half += 1;
        continue;
      }
      const isCorrected = promise?.revision === 2;
      if (isCorrected && (stored.revision < 2 || stored.repetitions[0]?.ease !== promise.ease)) count.lost += 1;
      const sound = await fetch(`${api}/takes/${id}/recording`);
      if (sound.status === 404) {
        if (promise?.recording) count.lost += 1;
      } else if (sha256(new Uint8Array(await sound.arrayBuffer())) !== sent.recording) count.half += 1;
    }
    touched = new Set();
  };

  /** Whether a take can be stored now, as after any fault that is over. */
  const goesOn = async (count: FaultCount): Promise<void> => {
    const before = count.acknowledged;
    await practise(count);
    if (count.acknowledged !== before + 3) count.blocked += 1;
  };

  const inject: Record<Fault, (count: FaultCount) => Promise<void>> = {
    async kill(count) {
      const clients = Array.from({ length: CLIENTS }, async () => {
        for (let k = 0; k < 40 && server.process.exitCode === null && !server.process.killed; k += 1) await practise(count);
      });
      await new Promise((resolve) => setTimeout(resolve, 5 + below(400)));
      await server.kill();
      await Promise.all(clients);
      server = await spawnServer(dataFolder);
      const left = (await readdir(join(dataFolder, 'recordings'))).filter((name) => name.endsWith('.part'));
      count.half += left.length;
    },
    async 'cut upload'(count) {
      const one = makeOne();
      const wav = makeWav(below(1e6), 30_000);
      uncertain.set(one.id, { take: one, recording: sha256(wav) });
      touched.add(one.id);
      await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
      if (!(await take(sendJson(`${server.api}/takes/${one.id}`, 'PUT', one), count))) return;
      promised.set(one.id, { take: one, revision: 1, ease: null, recording: null });
      count.acknowledged += 1;
      const headers = { 'Content-Type': 'audio/wav', 'Content-Length': wav.length };
      await new Promise<void>((resolve) => {
        const sending = request(`${server.api}/takes/${one.id}/recording`, { method: 'PUT', headers });
        sending.on('error', () => resolve());
        sending.on('close', () => resolve());
        sending.write(wav.subarray(0, 1 + below(wav.length - 1)), () => setTimeout(() => sending.destroy(), below(4)));
      });
    },
    async clash(count) {
      const one = makeOne();
      uncertain.set(one.id, { take: one, recording: '' });
      touched.add(one.id);
      await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
      const answers = await Promise.all(Array.from({ length: 4 }, () => sendJson(`${server.api}/takes/${one.id}`, 'PUT', one)));
      const won = answers.filter(({ ok }) => ok).length;
      if (won !== 1 || answers.some(({ status }) => status !== 200 && status !== 412)) count.lost += 1;
      promised.set(one.id, { take: one, revision: 1, ease: null, recording: null });
      count.acknowledged += 1;
    },
    async 'refused first'(count) {
      const one = makeOne();
      const refused = await sendJson(`${server.api}/takes/${one.id}`, 'PUT', { ...one, passageId: 'no-such-passage' });
      if (refused.status !== 409) count.speechless += 1;
    },
    async 'full disk'(count) {
      // What is left of the disk goes to a file that has nothing to do with it.
      const filler = join(dataFolder, 'filler');
      const { bavail, bsize } = await statfs(dataFolder);
      await writeFile(filler, Buffer.alloc(Math.max(0, Number(bavail) * Number(bsize) - below(60_000)))).catch(() => {});
      await Promise.all(Array.from({ length: CLIENTS }, () => practise(count)));
      const health = API.health.parse(await (await fetch(`${server.api}/health`)).json());
      if (!health.storage) count.speechless += 1;
      await rm(filler, { force: true });
    },
  };

  return {
    /** Injects a fault, then looks for all that was promised, and whether practice goes on. */
    async injectOne(fault: Fault): Promise<void> {
      const count = counts.get(fault) as FaultCount;
      await inject[fault](count);
      count.injected += 1;
      await goesOn(count);
      await look(count);
    },
    counts: (): FaultCount[] => [...counts.values()].filter(({ injected }) => injected > 0),
    /** The server as it is now. */
    server: () => server,
    close: () => server.kill(),
  };
};
