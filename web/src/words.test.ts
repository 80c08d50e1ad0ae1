import { constantTempo } from '@isochron/core/material';
import type { Repetition } from '@isochron/core/schema';
import { describe, expect, it } from 'vitest';
import { bpm, deviationWords, figure, signed, strokeWords } from './words';

describe('words on the strip', () => {
  it('say deviations as a musician would', () => {
    expect(deviationWords(12.04)).toBe('12.0 ms late');
    expect(deviationWords(-3.26)).toBe('3.3 ms early');
    expect(deviationWords(null)).toBe('missed');
  });

  it('write tempos without needless decimals and figures with their unit', () => {
    expect(bpm(96)).toBe('96');
    expect(bpm(76.54)).toBe('76.5');
    expect(figure(7.14, 'ms')).toBe('7.1\u00a0ms');
    expect(figure(93.75, '%', 0)).toBe('94\u00a0%');
    expect(figure(null, 'ms')).toBe('–');
  });

  it('give signs as signs, not hyphens', () => {
    expect(signed(-1.5)).toBe('−1.5');
    expect(signed(2)).toBe('+2.0');
    expect(signed(0)).toBe('0.0');
    expect(signed(undefined)).toBe('–');
  });

  it('tell a stroke by number, tempo, deviation and level', () => {
    const repetition = { tempo: constantTempo(88), notes: [{ levelDb: -17.6 }, { levelDb: null }] } as unknown as Repetition;
    const stroke = { gridX: 0, x: 0, side: 'late', faults: [], isUnsure: false } as const;
    expect(strokeWords(repetition, { ...stroke, index: 0, shownMs: 9 })).toBe('Note 1 at 88: 9.0 ms late, -18 dB');
    expect(strokeWords(repetition, { ...stroke, index: 1, shownMs: null })).toBe('Note 2 at 88: missed');
    const faults = [{ index: 0, kind: 'doubled' as const, size: 18.4 }];
    expect(strokeWords(repetition, { ...stroke, index: 0, shownMs: 9, faults, isUnsure: true })).toBe(
      'Note 1 at 88: 9.0 ms late, -18 dB, spoke twice, 18 ms apart, not heard for certain',
    );
  });
});
