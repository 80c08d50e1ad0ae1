/**
 * Whether a recording that is played slower or faster keeps its beats and its pitch: `npm run bench:stretch`. Strokes at known times,
 * over a held note of known pitch, go through the package that the product plays by, in a stand-in for the audio thread; the ear says
 * where they come out. Prints a table.
 */
import { detectOnsets, mixInto, sampleSd } from '@isochron/core/analysis';
import { median } from 'd3-array';

const RATE = 48_000;
const LENGTH_S = 20;
const BLOCK = 128;
const HELD_HZ = 220;
const FIRST_S = 1;
const STEP_S = 0.5;

type Processor = {
  port: { postMessage(message: unknown): void; onmessage: ((event: { data: unknown[] }) => void) | null };
  process(inputs: Float32Array[][], outputs: Float32Array[][], parameters: object): boolean;
};
/** As much of an audio thread as the package asks for. */
const thread = globalThis as unknown as Record<string, unknown>;
let clockS = 0;
let Made: (new (options: object) => Processor) | null = null;
thread.sampleRate = RATE;
Object.defineProperty(thread, 'currentTime', { get: () => clockS });
thread.AudioWorkletProcessor = class {
  port = { postMessage() {}, onmessage: null };
};
thread.registerProcessor = (_name: string, processor: typeof Made) => {
  Made = processor;
};
// It ships no types, and none are needed: it registers itself.
await import('signalsmith-stretch' as string);

const openProcessor = async (): Promise<Processor> => {
  if (!Made) throw new Error('The package registered nothing.');
  const processor = new Made({ numberOfOutputs: 1, outputChannelCount: [1] });
  await new Promise<void>((resolve) => {
    processor.port.postMessage = (message) => {
      if ((message as unknown[])[0] === 'ready') resolve();
    };
  });
  processor.port.postMessage = () => {};
  return processor;
};

/** Strokes on a held note, or either alone. */
const strokes: number[] = [];
for (let timeS = FIRST_S; timeS < LENGTH_S - 1; timeS += STEP_S) strokes.push(timeS);
const made = (withStrokes: boolean, heldGain: number): Float32Array => {
  const sound = Float32Array.from(
    { length: LENGTH_S * RATE },
    (_, n) => heldGain * Math.sin((2 * Math.PI * HELD_HZ * n) / RATE),
  );
  const stroke = Float32Array.from({ length: RATE / 4 }, (_, n) => {
    const t = n / RATE;
    return 0.5 * Math.sin(2 * Math.PI * 1900 * t) * Math.min(1, t / 0.001) * Math.exp(-t / 0.03);
  });
  if (withStrokes) for (const timeS of strokes) mixInto(sound, 0, { frame: Math.round(timeS * RATE), samples: stroke });
  return sound;
};

/** What comes out of the package from the clock's zero on, when the sound is to begin at `atS` at a speed. */
const stretched = async (sound: Float32Array, rate: number, atS: number): Promise<Float32Array> => {
  const processor = await openProcessor();
  clockS = 0;
  const ask = (method: string, ...values: unknown[]) => processor.port.onmessage?.({ data: [0, method, ...values] });
  ask('addBuffers', [sound]);
  ask('schedule', { output: atS, outputTime: atS, input: 0, rate, active: true });
  const out = new Float32Array(Math.ceil((atS + LENGTH_S / rate) * RATE));
  for (let at = 0; at + BLOCK <= out.length; at += BLOCK) {
    clockS = at / RATE;
    processor.process([[]], [[out.subarray(at, at + BLOCK)]], {});
  }
  return out;
};

/** Frequency of a held sound by its zero crossings upward. */
const hzOf = (sound: Float32Array): number => {
  const crossings: number[] = [];
  for (let n = 1; n < sound.length; n += 1) {
    const [a, b] = [sound[n - 1] as number, sound[n] as number];
    if (a < 0 && b >= 0) crossings.push(n - 1 + a / (a - b));
  }
  return (RATE * (crossings.length - 1)) / ((crossings.at(-1) as number) - (crossings[0] as number));
};

const AT_S = 0.5;
const plain = median(
  detectOnsets(made(true, 0), RATE).map(({ timeS }) => {
    const nearest = strokes.reduce((best, one) => (Math.abs(one - timeS) < Math.abs(best - timeS) ? one : best));
    return 1000 * (timeS - nearest);
  }),
);
console.log(`Strokes as they are: median ${plain?.toFixed(2)} ms from where they were put.\n`);
console.log('| speed | strokes heard | median offset | standard deviation | worst | pitch off |\n|---|---|---|---|---|---|');
for (const rate of [0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1, 1.1, 1.25, 1.5]) {
  const heard = detectOnsets(await stretched(made(true, 0.02), rate, AT_S), RATE);
  const off = strokes.flatMap((strokeS) => {
    const wantedS = AT_S + strokeS / rate;
    const near = heard.filter(({ timeS }) => Math.abs(timeS - wantedS) < 0.06).sort((a, b) => b.levelDb - a.levelDb)[0];
    return near ? [1000 * (near.timeS - wantedS)] : [];
  });
  const held = (await stretched(made(false, 0.3), rate, AT_S)).subarray(2 * RATE, 10 * RATE);
  const cents = 1200 * Math.log2(hzOf(held) / HELD_HZ);
  const worst = Math.max(...off.map((ms) => Math.abs(ms - (median(off) ?? 0))));
  console.log(
    `| ${Math.round(100 * rate)} % | ${off.length} of ${strokes.length} | ${median(off)?.toFixed(1)} ms | ${sampleSd(off).toFixed(1)} ms | ${worst.toFixed(1)} ms | ${cents.toFixed(1)} cents |`,
  );
}
