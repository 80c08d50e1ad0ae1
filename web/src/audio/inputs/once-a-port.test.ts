import { describe, expect, it } from 'vitest';
import { onceAPort } from './once-a-port';

/** Plays messages like "a on 60 1.000"; what is heard of them comes back. */
const heard = (messages: readonly string[]): string[] => {
  const isHeard = onceAPort();
  return messages.filter((one) => {
    const [port = '', kind, pitch, timeS] = one.split(' ');
    return isHeard({ kind: kind === 'on' ? 'on' : 'off', pitch: Number(pitch), velocity: 80 }, port, Number(timeS));
  });
};

describe('notes of several MIDI ports', () => {
  it('are heard once where an instrument sends them over two, whichever comes first', () => {
    expect(
      heard([
        'a on 60 1',
        'b on 60 1.001',
        'a off 60 1.2',
        'b off 60 1.201',
        'b on 62 2',
        'a on 62 2.003',
        'b off 62 2.01',
        'a off 62 2.1',
      ]),
    ).toEqual(['a on 60 1', 'a off 60 1.2', 'b on 62 2', 'b off 62 2.01']);
  });

  it('are all heard from one port, however quick, and from two instruments that play in turn or together', () => {
    const trill = ['a on 60 1', 'a off 60 1.008', 'a on 60 1.015', 'a off 60 1.02'];
    expect(heard(trill)).toEqual(trill);
    const duet = ['a on 60 1', 'b on 64 1.002', 'a off 60 1.5', 'b off 64 1.5', 'b on 60 1.6', 'b off 60 1.8', 'a on 60 2'];
    expect(heard(duet)).toEqual(duet);
  });
});
