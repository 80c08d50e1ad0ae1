/** Feeds one reader in a thread of its own, so that an input on which it never ends can be told, and the thread ended. */
import { parentPort, workerData } from 'node:worker_threads';

const { target, mutator, corpus, seed, words, longestBytes, shared } = workerData;
const { read, __covered__: counters } = await import(target);
const { createMutator } = await import(mutator);
const current = new Uint8Array(shared, 8);
const length = new Int32Array(shared, 0, 1);
const runs = new Int32Array(shared, 4, 1);

/** Which magnitudes were seen of each counter of a branch or function of the reader's code. */
const seen = new Uint32Array(counters.length);

/** Whether the last input went where none went before, or far more often. Sets the counters back. */
const isNew = () => {
  let found = false;
  for (let k = 0; k < counters.length; k += 1) {
    const count = counters[k];
    if (count === 0) continue;
    const magnitude = 1 << (32 - Math.clz32(count));
    if ((seen[k] & magnitude) === 0) {
      seen[k] |= magnitude;
      found = true;
    }
  }
  counters.fill(0);
  return found;
};

const inputs = [];
const run = async (bytes) => {
  current.set(bytes);
  Atomics.store(length, 0, bytes.length);
  let error = null;
  try {
    await read(bytes.slice());
  } catch (thrown) {
    error = thrown;
  }
  Atomics.add(runs, 0, 1);
  if (error) {
    parentPort.postMessage({ type: 'found', bytes, what: String(error.stack ?? error).slice(0, 1500) });
    return;
  }
  if (isNew()) {
    inputs.push(bytes);
    parentPort.postMessage({
      type: 'kept',
      bytes,
      covered: seen.reduce((sum, one) => sum + (one ? 1 : 0), 0),
      of: seen.length,
    });
  }
};

const mutate = createMutator(seed, words, longestBytes);
// Shortest first, so that what is kept is short.
for (const bytes of corpus.sort((a, b) => a.length - b.length)) await run(bytes);
if (inputs.length === 0) inputs.push(Uint8Array.of(0));
for (let k = 0; ; k += 1) {
  // The newest ones lead on; every fourth time any of them.
  const pick = () =>
    inputs[k % 4 === 0 ? Math.floor(Math.random() * inputs.length) : Math.floor(inputs.length * Math.sqrt(Math.random()))];
  await run(mutate(pick(), pick()));
  // The messages must get out.
  if (k % 200 === 0) await new Promise((resolve) => setImmediate(resolve));
}
