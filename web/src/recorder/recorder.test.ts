import 'fake-indexeddb/auto';
import {
  DEFAULT_SETTINGS,
  firstDrill,
  makeTake,
  newCourse,
  type Passage,
  readWav,
  readyPassage,
  type Take,
} from '@isochron/core';
import { IDBObjectStore } from 'fake-indexeddb';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { createChunkWriter } from './chunk-writer';
import { discardInterrupted, saveInterrupted, sendUnsent, setActiveTake, tryAgain, useOutbox } from './outbox';
import { forgetTake, keepChunk, keepTake, keptRecording, unsentTakes } from './safe-store';
import type { UnsentTake } from './unsent-take';

const RATE = 100;
const AT = '2026-03-01T18:00:00.000Z';
const SITTING = { id: '1b4e28ba-2fa1-4d2e-883f-0016d3cca427', startedAt: AT, lastAt: AT, blocks: [] };

const passage = readyPassage('five-steps') as Passage;

/** A take as the Bench leaves it, without repetitions. */
const unsentTake = (complete: boolean, id = crypto.randomUUID()): UnsentTake => ({
  sitting: SITTING,
  take: makeTake({
    id,
    sittingId: SITTING.id,
    passage,
    course: newCourse(passage, DEFAULT_SETTINGS),
    startedAt: new Date(SITTING.startedAt),
    endedAt: complete ? new Date('2026-03-01T18:05:00.000Z') : null,
    input: 'microphone',
    goalBpm: 120,
    startBpm: 60,
    school: null,
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
const serverThat = (answer: (path: string) => Response | Error) => {
  const sent: { path: string; body: unknown }[] = [];
  vi.stubGlobal('fetch', async (path: string, init?: RequestInit) => {
    const said = answer(path);
    if (said instanceof Error) throw said;
    if (init?.method === 'PUT') sent.push({ path, body: init.body });
    return said;
  });
  return sent;
};
const welcoming = (path: string) => Response.json(path === '/api/courses' || path === '/api/takes' ? [] : {});
const ramp = (from: number, count: number) => Float32Array.from({ length: count }, (_, n) => (from + n) / 1000);

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
});

afterEach(async () => {
  for (const { take } of await unsentTakes()) await forgetTake(take.id);
  setActiveTake(null);
  useOutbox.setState({ waiting: 0, interrupted: [], refused: [], sentIds: [], message: '' });
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

describe('the chunk writer', () => {
  it('keeps a recording a second at a time, whatever the blocks, and gives it back whole', async () => {
    const id = crypto.randomUUID();
    const trouble = vi.fn();
    const writer = createChunkWriter(id, RATE, trouble);
    for (let at = 0; at < 250; at += 33) writer.push(ramp(at, Math.min(33, 250 - at)), at);
    await writer.close();
    const kept = await keptRecording(id);
    expect(kept?.sampleRateHz).toBe(RATE);
    expect(kept?.samples).toHaveLength(250);
    kept?.samples.forEach((value, n) => {
      expect(Math.abs(value - n / 1000)).toBeLessThan(1 / 32_767);
    });
    expect(trouble).not.toHaveBeenCalled();
    await forgetTake(id);
    expect(await keptRecording(id)).toBeNull();
  });

  it('fills frames that never came with silence, so that later times stay true', async () => {
    const id = crypto.randomUUID();
    const writer = createChunkWriter(id, RATE, vi.fn());
    writer.push(ramp(500, 10), 40);
    writer.push(ramp(700, 10), 170);
    await writer.close();
    const { samples } = (await keptRecording(id)) ?? { samples: new Float32Array() };
    // The first block begins the recording; what is missing lies between the blocks.
    expect(samples).toHaveLength(140);
    expect([...samples.subarray(10, 130)].every((value) => value === 0)).toBe(true);
    expect(samples[130]).toBeCloseTo(0.7, 3);
    await forgetTake(id);
  });

  it('keeps sound that is too loud at full scale', async () => {
    const id = crypto.randomUUID();
    const writer = createChunkWriter(id, RATE, vi.fn());
    writer.push(Float32Array.of(2, -3), 0);
    await writer.close();
    expect([...((await keptRecording(id))?.samples ?? [])]).toEqual([1, -1]);
    await forgetTake(id);
  });

  it('says once, in words, that the disk is full', async () => {
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('no room', 'QuotaExceededError');
    });
    const trouble = vi.fn();
    const writer = createChunkWriter(crypto.randomUUID(), RATE, trouble);
    writer.push(ramp(0, 350), 0);
    await writer.close();
    expect(trouble).toHaveBeenCalledTimes(1);
    expect(trouble.mock.calls[0]?.[0]).toContain('no room left to keep the recording');
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
    await keepChunk({ takeId: one, number: 1, sampleRateHz: RATE, samples: Int16Array.of(2) });
    await keepChunk({ takeId: other, number: 0, sampleRateHz: RATE, samples: Int16Array.of(9) });
    await keepChunk({ takeId: one, number: 0, sampleRateHz: RATE, samples: Int16Array.of(1) });
    expect([...((await keptRecording(one))?.samples ?? [])].map((value) => Math.round(value * 32_767))).toEqual([1, 2]);
    await forgetTake(one);
    expect((await keptRecording(other))?.samples).toHaveLength(1);
    await forgetTake(other);
  });
});

describe('the outbox', () => {
  it('sends a complete take with its session and its recording, then forgets it', async () => {
    const sent = serverThat(welcoming);
    const unsent = unsentTake(true);
    await keepTake(unsent);
    await keepChunk({ takeId: unsent.take.id, number: 0, sampleRateHz: 8000, samples: Int16Array.of(0, 16_384, -16_384) });
    await sendUnsent();
    const { id } = unsent.take;
    expect(sent.map(({ path }) => path)).toEqual([
      `/api/sittings/${SITTING.id}`,
      `/api/takes/${id}`,
      `/api/takes/${id}/recording`,
    ]);
    const wav = readWav(new Uint8Array(await new Response(sent[2]?.body as BodyInit).arrayBuffer()));
    expect(wav.sampleRateHz).toBe(8000);
    expect([...wav.samples].map((value) => value.toFixed(2))).toEqual(['0.00', '0.50', '-0.50']);
    expect(await unsentTakes()).toEqual([]);
    expect(useOutbox.getState()).toMatchObject({ waiting: 0, sentIds: [id], message: '' });
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
    setActiveTake(playing.take.id);
    await sendUnsent();
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
