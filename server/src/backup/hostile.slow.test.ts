import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createAttackedStore } from '../testing/attacked-store';
import { HOSTILE } from '../testing/hostile-backups';

// Two hundred of these and five hundred of those are tried by `npm run bench:faults`.
let store: Awaited<ReturnType<typeof createAttackedStore>>;
beforeAll(async () => {
  store = await createAttackedStore();
});
afterAll(() => store.close());

/** What carries nothing but a wish, which is left out; the rest of it is a backup like others. */
const HARMLESS = new Set(['what the server would remember']);

describe('a backup that is not to be trusted', () => {
  it.each(Object.keys(HOSTILE).map((kind, k) => [kind, k]))(
    'with %s is refused, and nothing is touched',
    async (kind, k) => {
      const { refused, wrong } = await store.hostile(kind as string, 100 + (k as number));
      expect(wrong).toBe('');
      if (HARMLESS.has(kind as string)) expect(refused).toBeNull();
      else expect(refused).toMatch(/^(This is not a backup|This backup|The database in this backup)/);
    },
    60_000,
  );

  it('in which bytes were changed by chance is refused or restored, and nothing else is touched', async () => {
    for (let seed = 1; seed <= 8; seed += 1) expect((await store.mutated(seed)).wrong).toBe('');
  });
});
