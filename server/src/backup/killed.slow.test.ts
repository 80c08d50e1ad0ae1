import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createKilledCommands } from '../testing/killed-commands';

// Every step is tried by `npm run bench:faults`; here some of them, spread over the whole way and close together at its end, where it is decided.
let run: Awaited<ReturnType<typeof createKilledCommands>>;
beforeAll(async () => {
  run = await createKilledCommands();
});
afterAll(() => run.close());

const spread = (steps: number, count: number): number[] =>
  Array.from({ length: count }, (_, k) => 1 + Math.floor(((steps - 1) * k) / (count - 1)));

describe('a restore that is killed', () => {
  it('leaves everything as it was, or as the backup has it, at whatever step', async () => {
    const steps = await run.steps('restore');
    expect(steps).toBeGreaterThan(50);
    const seen = new Set<string>();
    for (const step of [...spread(steps, 7), ...[60, 45, 30, 20, 12].map((back) => steps - back)])
      seen.add(await run.kill('restore', step));
    expect([...seen].sort()).toEqual(['as before', 'as in the backup']);
  });
});

describe('a backup that is killed', () => {
  it('changes nothing, and leaves no file that is taken for a whole one', async () => {
    const steps = await run.steps('backup');
    const seen = new Set<string>();
    for (const step of spread(steps, 4)) seen.add(await run.kill('backup', step));
    expect([...seen]).toEqual(['as before']);
  });
});
