import { afterEach, describe, expect, it } from 'vitest';
import { now, nowMs, setClock } from './clock';

const SET = new Date('2028-02-29T23:59:00.000Z');

afterEach(() => setClock(process.env.ISOCHRON_NOW ? new Date(process.env.ISOCHRON_NOW) : null));

describe('the clock', () => {
  it('is the machine’s, unless it was set; then it runs on from there', async () => {
    setClock(null);
    expect(Math.abs(now().getTime() - Date.now())).toBeLessThan(1000);
    setClock(SET);
    const first = nowMs();
    expect(first).toBeGreaterThanOrEqual(SET.getTime());
    expect(now().getUTCFullYear()).toBe(2028);
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect(nowMs()).toBeGreaterThan(first);
    setClock(null);
    expect(now().getUTCFullYear()).toBe(new Date().getUTCFullYear());
  });
});
