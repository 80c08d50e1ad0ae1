import { describe, expect, it } from 'vitest';
import { intervalMs, inUnit, notesPerMinute } from './tempo';

describe('tempo arithmetic', () => {
  // By definition: 60 000 / 160 / 4.
  it('puts sixteenths at 160 bpm 93.75 ms apart, 640 a minute', () => {
    expect(intervalMs(160, 4)).toBe(93.75);
    expect(notesPerMinute(160, 4)).toBe(640);
  });

  it('says one tempo in several units', () => {
    expect(inUnit(200, 1 / 8, 1 / 4)).toBe(100);
    expect(inUnit(60, 3 / 8, 1 / 8)).toBe(180);
  });
});
