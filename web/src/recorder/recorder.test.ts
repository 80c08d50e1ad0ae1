import 'fake-indexeddb/auto';
import { builtInPassage, readWav } from '@isochron/core/material';
import { firstDrill, newPracticeConfig } from '@isochron/core/planning';
import { DEFAULT_SETTINGS, type Passage, type Take } from '@isochron/core/schema';
import { makeTake } from '@isochron/core/strategy';
import { IDBObjectStore } from 'fake-indexeddb';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { createChunkWriter } from './chunk-writer';
import { keptRecording } from './kept-recording';
import {
  beginTake,
  discardInterrupted,
  endTake,
  keepForSending,
  saveInterrupted,
  sendUnsent,
  tryAgain,
  useOutbox,
} from './outbox';
import { type Chunk, keepChunk, keepTake } from './safe-store';
import { forgetTake, holdChunks, holdsSomething, unsentTakes as unsentNow } from './unsent';
import type { UnsentTake } from './unsent-take';

const RATE = 100;
const AT = '2026-03-01T18:00:00.000Z';
const PRACTICE_SESSION = { id: '1b4e28ba-2fa1-4d2e-883f-0016d3cca427', startedAt: AT, lastAt: AT, blocks: [] };

const unsentTakes = async () => (await unsentNow()).takes;
/** A kept recording whole: what it is stored as. */
const samplesOf = async (takeId: string): Promise<number[]> => {
  const kept = await keptRecording(takeId);
  return kept ? [...(await kept.read(0, kept.seconds))].map((value) => value / 32_767) : [];
};

const passage = builtInPassage('five-steps') as Passage;

/** A take as the Bench leaves it, without repetitions. */
const unsentTake = (complete: boolean, id = crypto.randomUUID()): UnsentTake => ({
  session: PRACTICE_SESSION,
  take: makeTake({
    id,
    sessionId: PRACTICE_SESSION.id,
    passage,
    config: newPracticeConfig(passage, DEFAULT_SETTINGS),
    startedAt: new Date(PRACTICE_SESSION.startedAt),
    endedAt: complete ? new Date('2026-03-01T18:05:00.000Z') : null,
    input: 'microphone',
    goalBpm: 120,
    startBpm: 60,
    strategy: null,
    tolerance: DEFAULT_SETTINGS.tolerance,
    latencyS: null,
    profileId: 'any',
    drills: [firstDrill(passage)],
    repetitions: [],
  }),
  complete,
  refused: '',
});

/** A server that answers as told, and remembers what it was sent. */
const serverThat = (answer: (path: string, init: RequestInit) => Response | Error) => {
  const sent: { path: string; query: URLSearchParams; body: unknown }[] = [];
  vi.stubGlobal('fetch', async (address: string, init: RequestInit = {}) => {
    const { pathname: path, searchParams: query } = new URL(address, 'http://localhost');
    const said = answer(path, init);
    if (said instanceof Error) throw said;
    if (init.method === 'PUT') sent.push({ path, query, body: init.body });
    return said;
  });
  return sent;
};
const welcoming = (path: string) =>
  Response.json(path.endsWith('/recording') ? { bytes: 1, done: true } : { revision: 1, takes: [], total: 0 });
/** The recording that was sent, put together again from its pieces. */
const wavSent = (sent: ReturnType<typeof serverThat>) => {
  const pieces = sent.filter(({ path }) => path.endsWith('/recording'));
  const bytes = Buffer.concat(pieces.map(({ body }) => Buffer.from(body as Uint8Array)));
  pieces.forEach(({ query }) => {
    expect(Number(query.get('of'))).toBe(bytes.length);
  });
  return readWav(new Uint8Array(bytes));
};
const ramp = (from: number, count: number) => Float32Array.from({ length: count }, (_, n) => (from + n) / 1000);

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
});

afterEach(async () => {
  vi.restoreAllMocks();
  for (const { take } of await unsentTakes()) await forgetTake(take.id);
  useOutbox.setState({ waiting: 0, interrupted: [], refused: [], sentIds: [], message: '', notKept: '' });
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('the chunk writer', () => {
  it('keeps a recording a second at a time, whatever the blocks, and gives it back whole', async () => {
    const id = crypto.randomUUID();
    const trouble = vi.fn();
    const writer = createChunkWriter(id, RATE, trouble);
    for (let at = 0; at < 250; at += 33) writer.push(ramp(at, Math.min(33, 250 - at)), at);
    await writer.close();
    expect(await keptRecording(id)).toMatchObject({ sampleRateHz: RATE, frames: 250, gaps: [] });
    const samples = await samplesOf(id);
    expect(samples).toHaveLength(250);
    samples.forEach((value, n) => {
      expect(Math.abs(value - n / 1000)).toBeLessThan(1 / 32_767);
    });
    expect(trouble).not.toHaveBeenCalled();
    await forgetTake(id);
    expect(await keptRecording(id)).toBeNull();
  });

  it('has silence, and a mark, where frames never came, so that later times stay true', async () => {
    const id = crypto.randomUUID();
    const writer = createChunkWriter(id, RATE, vi.fn());
    writer.push(ramp(500, 10), 40);
    writer.push(ramp(700, 10), 170);
    await writer.close();
    const samples = await samplesOf(id);
    expect((await keptRecording(id))?.gaps).toEqual([{ fromS: 0.1, toS: 1.3 }]);
    // The first block begins the recording; what is missing lies between the blocks.
    expect(samples).toHaveLength(140);
    expect(samples.slice(10, 130).every((value) => value === 0)).toBe(true);
    expect(samples[130]).toBeCloseTo(0.7, 3);
    await forgetTake(id);
  });

  it('keeps sound that is too loud at full scale', async () => {
    const id = crypto.randomUUID();
    const writer = createChunkWriter(id, RATE, vi.fn());
    writer.push(Float32Array.of(2, -3), 0);
    await writer.close();
    expect(await samplesOf(id)).toEqual([1, -1]);
    await forgetTake(id);
  });

  it('marks a second that could not be kept, and leaves all others at their time', async () => {
    const id = crypto.randomUUID();
    const writer = createChunkWriter(id, RATE, vi.fn());
    const { put } = IDBObjectStore.prototype;
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(function (this: IDBObjectStore, value, key) {
      if ((value as Chunk).number === 1) throw new DOMException('no room', 'QuotaExceededError');
      return put.call(this, value, key);
    });
    writer.push(ramp(0, 350), 0);
    await writer.close();
    expect((await keptRecording(id))?.gaps).toEqual([{ fromS: 1, toS: 2 }]);
    const samples = await samplesOf(id);
    expect(samples.slice(100, 200).every((value) => value === 0)).toBe(true);
    expect(samples[240]).toBeCloseTo(0.24, 3);
    expect(samples).toHaveLength(350);
    await forgetTake(id);
  });

  it('marks sound that its input lost', async () => {
    const id = crypto.randomUUID();
    const writer = createChunkWriter(id, RATE, vi.fn());
    writer.push(ramp(0, 300), 1000);
    writer.lost(1120, 1135);
    await writer.close();
    expect((await keptRecording(id))?.gaps).toEqual([{ fromS: 1.2, toS: 1.35 }]);
    await forgetTake(id);
  });

  it('leaves out what comes while it is paused, and everything after stands where it belongs', async () => {
    const id = crypto.randomUUID();
    const writer = createChunkWriter(id, RATE, vi.fn());
    const valueAt = (frame: number) => (((7 * frame) % 199) - 99) / 100;
    for (let at = 0; at < 3000; at += 30) {
      // Both are said before their moment, as the loop says them; the moments lie within blocks.
      if (at === 90) writer.pause(1145);
      if (at === 2670) writer.resume(3745);
      writer.push(
        Float32Array.from({ length: 30 }, (_, n) => valueAt(at + n)),
        1000 + at,
      );
    }
    writer.lost(3800, 3810);
    await writer.close();
    const samples = await samplesOf(id);
    expect(samples).toHaveLength(3000 - 2600);
    for (const [place, frame] of [
      [0, 0],
      [144, 144],
      [145, 2745],
      [399, 2999],
    ] as const)
      expect(samples[place]).toBeCloseTo(valueAt(frame), 3);
    expect((await keptRecording(id))?.gaps).toEqual([{ fromS: 2, toS: 2.1 }]);
    await forgetTake(id);
  });

  it('stays in time where it hears of a pause too late', async () => {
    const id = crypto.randomUUID();
    const writer = createChunkWriter(id, RATE, vi.fn());
    writer.push(ramp(0, 200), 0);
    writer.pause(150);
    writer.push(ramp(200, 100), 200);
    writer.resume(400);
    writer.push(ramp(400, 200), 400);
    await writer.close();
    const samples = await samplesOf(id);
    expect(samples).toHaveLength(350);
    expect(samples[199]).toBeCloseTo(0.199, 3);
    expect(samples[200]).toBeCloseTo(0.45, 3);
    expect((await keptRecording(id))?.gaps).toEqual([]);
    await forgetTake(id);
  });

  it('says once, in words, that the browser keeps nothing, and gives back all of it', async () => {
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('no room', 'QuotaExceededError');
    });
    const trouble = vi.fn();
    const id = crypto.randomUUID();
    const writer = createChunkWriter(id, RATE, trouble);
    writer.push(ramp(0, 350), 0);
    holdChunks(await writer.close());
    expect(trouble).toHaveBeenCalledTimes(1);
    expect(trouble.mock.calls[0]?.[0]).toContain('The browser does not keep this recording');
    expect(await samplesOf(id)).toHaveLength(350);
    expect(holdsSomething()).toBe(true);
    await forgetTake(id);
    expect(holdsSomething()).toBe(false);
  });
});

describe('the safe store', () => {
  it('leaves out, and leaves alone, a take that it cannot read', async () => {
    const good = unsentTake(true);
    const bad = unsentTake(true);
    await keepTake(good);
    await keepTake({ ...bad, take: { ...bad.take, goalBpm: -1 } });
    expect((await unsentTakes()).map(({ take }) => take.id)).toEqual([good.take.id]);
    await forgetTake(bad.take.id);
  });

  it('tells the recordings of two takes apart', async () => {
    const [one, other] = [crypto.randomUUID(), crypto.randomUUID()];
    await keepChunk({ takeId: one, number: 1, sampleRateHz: 1, samples: Int16Array.of(2) });
    await keepChunk({ takeId: other, number: 0, sampleRateHz: RATE, samples: Int16Array.of(9) });
    await keepChunk({ takeId: one, number: 0, sampleRateHz: 1, samples: Int16Array.of(1) });
    expect((await samplesOf(one)).map((value) => Math.round(value * 32_767))).toEqual([1, 2]);
    await forgetTake(one);
    expect(await samplesOf(other)).toHaveLength(1);
    await forgetTake(other);
  });
});

describe('the outbox', () => {
  it('asks the browser once to keep what it keeps, and plays on whatever it says', () => {
    const persist = vi.fn(async () => Promise.reject(new Error('not here')));
    vi.stubGlobal('navigator', { storage: { persist } });
    for (const id of [crypto.randomUUID(), crypto.randomUUID()]) {
      beginTake(id);
      endTake(id);
    }
    expect(persist).toHaveBeenCalledTimes(1);
  });

  it('sends a complete take with its session and its recording, then forgets it', async () => {
    const sent = serverThat(welcoming);
    const unsent = unsentTake(true);
    await keepTake(unsent);
    await keepChunk({ takeId: unsent.take.id, number: 0, sampleRateHz: 8000, samples: Int16Array.of(0, 16_384, -16_384) });
    await sendUnsent();
    const { id } = unsent.take;
    expect(sent.map(({ path }) => path)).toEqual([
      `/api/sessions/${PRACTICE_SESSION.id}`,
      `/api/takes/${id}`,
      `/api/takes/${id}/recording`,
    ]);
    const wav = wavSent(sent);
    expect(wav.sampleRateHz).toBe(8000);
    expect([...wav.samples].map((value) => value.toFixed(2))).toEqual(['0.00', '0.50', '-0.50']);
    expect(await unsentTakes()).toEqual([]);
    expect(useOutbox.getState()).toMatchObject({ waiting: 0, sentIds: [id], message: '' });
  });

  it('sends a long recording by the minute, gaps and all', async () => {
    const sent = serverThat(welcoming);
    const unsent = unsentTake(true);
    await keepTake(unsent);
    for (let number = 0; number < 150; number += 1)
      if (number !== 70)
        await keepChunk({
          takeId: unsent.take.id,
          number,
          sampleRateHz: 8000,
          samples: new Int16Array(8000).fill(100 * number),
        });
    await sendUnsent();
    expect(sent.filter(({ path }) => path.endsWith('/recording'))).toHaveLength(3);
    const { samples } = wavSent(sent);
    expect(samples).toHaveLength(150 * 8000);
    for (const second of [0, 59, 60, 70, 119, 120, 149])
      expect(samples[second * 8000 + 5]).toBeCloseTo(second === 70 ? 0 : (100 * second) / 32_768, 6);
    const { gaps } = JSON.parse(String(sent.find(({ path }) => path === `/api/takes/${unsent.take.id}`)?.body)) as Take;
    expect(gaps).toEqual([{ fromS: 70, toS: 71 }]);
  });

  it('begins a recording anew whose beginning the server does not have any more', async () => {
    let asked = 0;
    const sent = serverThat((path) => {
      if (!path.endsWith('/recording')) return welcoming(path);
      asked += 1;
      return asked === 2 ? Response.json({ message: 'The beginning is not here.' }, { status: 409 }) : welcoming(path);
    });
    const unsent = unsentTake(true);
    await keepTake(unsent);
    for (let number = 0; number < 70; number += 1)
      await keepChunk({ takeId: unsent.take.id, number, sampleRateHz: 8000, samples: new Int16Array(8000) });
    await sendUnsent();
    const froms = sent.filter(({ path }) => path.endsWith('/recording')).map(({ query }) => Number(query.get('from')) > 0);
    expect(froms).toEqual([false, true, false, true]);
    expect(useOutbox.getState().sentIds).toEqual([unsent.take.id]);
  });

  it('puts a take together with what was done to the stored one meanwhile', async () => {
    const unsent = unsentTake(true);
    await keepTake(unsent);
    const stored: Take = { ...unsent.take, revision: 3, engine: '9' };
    const sent = serverThat((path, { method, body }) => {
      if (path !== `/api/takes/${unsent.take.id}`) return welcoming(path);
      if (method !== 'PUT') return Response.json(stored);
      const { revision } = JSON.parse(String(body)) as Take;
      return revision === 3 ? welcoming(path) : Response.json({ message: 'It was changed.' }, { status: 412 });
    });
    await sendUnsent();
    expect(useOutbox.getState()).toMatchObject({ sentIds: [unsent.take.id], refused: [] });
    expect(JSON.parse(String(sent.at(-1)?.body))).toMatchObject({ revision: 3, engine: '9' });
  });

  it('sends straight to the server what the browser does not keep, says so, and keeps saying it', async () => {
    const failing = () => {
      throw new DOMException('no room', 'QuotaExceededError');
    };
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(failing);
    const unsent = unsentTake(true);
    const writer = createChunkWriter(unsent.take.id, 8000, vi.fn());
    writer.push(ramp(0, 100), 0);
    holdChunks(await writer.close());
    expect(await keepForSending(unsent)).toBe('held');
    // While the server is away as well, it stays in memory and is tried again.
    serverThat(() => new TypeError('refused'));
    await sendUnsent();
    expect(useOutbox.getState()).toMatchObject({ waiting: 1, sentIds: [] });
    const sent = serverThat(welcoming);
    await sendUnsent();
    expect(wavSent(sent).samples).toHaveLength(100);
    expect(useOutbox.getState()).toMatchObject({ waiting: 0, sentIds: [unsent.take.id] });
    expect(useOutbox.getState().notKept).toContain('The browser did not keep the last take');
    expect(holdsSomething()).toBe(false);
  });

  it('says it as well where the browser kept the take and refused parts of its sound', async () => {
    serverThat(() => new TypeError('refused'));
    const unsent = unsentTake(true);
    expect(await keepForSending(unsent)).toBe('kept');
    expect(useOutbox.getState().notKept).toBe('');
    holdChunks([{ takeId: unsent.take.id, number: 3, sampleRateHz: 8000, samples: new Float32Array(10), frame: 0 } as never]);
    await keepForSending(unsent);
    expect(useOutbox.getState().notKept).not.toBe('');
    await forgetTake(unsent.take.id);
  });

  it('keeps a take while the server is away, says so, and sends it by itself when it is back', async () => {
    serverThat(() => new TypeError('refused'));
    const unsent = unsentTake(true);
    await keepTake(unsent);
    await sendUnsent();
    expect(useOutbox.getState().message).toContain('kept here and sent when it is back');
    expect(await unsentTakes()).toHaveLength(1);
    serverThat(welcoming);
    await vi.advanceTimersByTimeAsync(2000);
    await vi.waitFor(() => expect(useOutbox.getState().sentIds).toEqual([unsent.take.id]));
    expect(useOutbox.getState().message).toBe('');
  });

  it('waits longer after every failure, up to half a minute', async () => {
    let asked = 0;
    serverThat(() => {
      asked += 1;
      return new TypeError('refused');
    });
    await keepTake(unsentTake(true));
    await sendUnsent();
    for (let seconds = 0; seconds < 300; seconds += 1) {
      await vi.advanceTimersByTimeAsync(1000);
      await new Promise((resolve) => setImmediate(resolve));
    }
    // Every 30 s at last: in five minutes far fewer than every 2 s, and never given up.
    expect(asked).toBeGreaterThanOrEqual(8);
    expect(asked).toBeLessThanOrEqual(16);
    serverThat(welcoming);
    await sendUnsent();
  });

  it('passes on the reason of a server that refuses', async () => {
    serverThat((path) =>
      path.startsWith('/api/takes/')
        ? Response.json({ message: 'The disk of the server is full.' }, { status: 507 })
        : welcoming(path),
    );
    await keepTake(unsentTake(true));
    await sendUnsent();
    expect(useOutbox.getState().message).toBe('The disk of the server is full.');
    expect(await unsentTakes()).toHaveLength(1);
  });

  it('sets aside a take that is refused, with its reason, and the hundred after it go on', async () => {
    const refused = unsentTake(true);
    const good = Array.from({ length: 100 }, () => unsentTake(true));
    for (const one of [refused, ...good]) await keepTake(one);
    serverThat((path) =>
      path === `/api/takes/${refused.take.id}`
        ? Response.json({ message: 'It refers to something that is not stored here.' }, { status: 409 })
        : welcoming(path),
    );
    await sendUnsent();
    expect(new Set(useOutbox.getState().sentIds)).toEqual(new Set(good.map(({ take }) => take.id)));
    expect(useOutbox.getState()).toMatchObject({ waiting: 0, message: '' });
    expect(useOutbox.getState().refused.map((one) => one.refused)).toEqual(['It refers to something that is not stored here.']);
    // It is still known after a reload, not sent by itself, and may be tried again.
    useOutbox.setState({ refused: [], sentIds: [] });
    const sent = serverThat(welcoming);
    await sendUnsent();
    expect(sent).toEqual([]);
    const [aside] = useOutbox.getState().refused;
    await tryAgain(aside as UnsentTake);
    expect(useOutbox.getState()).toMatchObject({ refused: [], sentIds: [refused.take.id] });
    expect(await unsentTakes()).toEqual([]);
  });

  it('leaves alone the take that is being played, and offers one that was interrupted', async () => {
    const sent = serverThat(welcoming);
    const [playing, interrupted] = [unsentTake(false), unsentTake(false)];
    await keepTake(playing);
    await keepTake(interrupted);
    beginTake(playing.take.id);
    await sendUnsent();
    endTake(playing.take.id);
    expect(sent).toEqual([]);
    expect(useOutbox.getState().interrupted.map(({ take }) => take.id)).toEqual([interrupted.take.id]);
  });

  it('completes and sends an interrupted take, or throws it away', async () => {
    const sent = serverThat(welcoming);
    const [saved, thrown] = [unsentTake(false), unsentTake(false)];
    await keepTake(saved);
    await keepTake(thrown);
    await saveInterrupted(saved);
    const stored = JSON.parse(String(sent.find(({ path }) => path === `/api/takes/${saved.take.id}`)?.body)) as Take;
    expect(stored.endedAt).not.toBeNull();
    await discardInterrupted(thrown);
    expect(await unsentTakes()).toEqual([]);
    expect(sent.some(({ path }) => path.includes(thrown.take.id))).toBe(false);
  });
});
