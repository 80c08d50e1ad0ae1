import { afterEach, describe, expect, it, vi } from 'vitest';
import { createCodeReader, listenForCodes } from './midi-commands';

/** A MIDI instrument that sends what it is told. */
const createInput = () => {
  const input = new EventTarget();
  const send = (...bytes: number[]) =>
    input.dispatchEvent(Object.assign(new Event('midimessage'), { data: Uint8Array.from(bytes) }));
  return { input, send };
};
const withMidi = (requestMIDIAccess: unknown) => vi.stubGlobal('navigator', { requestMIDIAccess });
const settled = () => new Promise((resolve) => setTimeout(resolve, 0));

afterEach(() => vi.unstubAllGlobals());

describe('a message as a key of the player’s own', () => {
  it('is a note that begins, or a pedal that goes down, on any channel', () => {
    const read = createCodeReader();
    expect(read(Uint8Array.of(0x90, 36, 100))).toBe('midi 36');
    expect(read(Uint8Array.of(0x9f, 36, 1))).toBe('midi 36');
    expect(read(Uint8Array.of(0xb3, 64, 127))).toBe('pedal 64');
    expect(read(Uint8Array.of(0xb4, 64, 64))).toBe('pedal 64');
  });

  it('is not a note that ends, a pedal that comes up, or anything else', () => {
    for (const bytes of [[0x80, 36, 64], [0x90, 36, 0], [0xb0, 64, 63], [0xe0, 0, 64], [0xf8], []])
      expect(createCodeReader()(Uint8Array.from(bytes))).toBeNull();
  });

  it('is one press of a pedal that sends every place of its travel, however it trembles', () => {
    const read = createCodeReader();
    const pressed = (...places: number[]) => places.filter((place) => read(Uint8Array.of(0xb0, 64, place)) !== null).length;
    expect(pressed(0, 9, 31, 52, 63, 64, 66, 71, 90, 127, 127, 120, 80, 66, 63, 66, 61, 65, 58, 70)).toBe(1);
    expect(pressed(52, 45, 39, 12, 0, 33, 64, 90)).toBe(1);
    // Held half of the way down, it never was up.
    expect(pressed(60, 64, 60, 64, 60, 64)).toBe(0);
  });

  it('is two presses of a pedal that only says up and down', () => {
    const read = createCodeReader();
    const codes = [127, 0, 127, 0].map((place) => read(Uint8Array.of(0xb0, 66, place)));
    expect(codes).toEqual(['pedal 66', null, 'pedal 66', null]);
  });
});

describe('listening for them', () => {
  it('hears every instrument until it is ended', async () => {
    const [one, other] = [createInput(), createInput()];
    withMidi(async () => ({
      inputs: new Map([
        ['a', one.input],
        ['b', other.input],
      ]),
    }));
    const heard: string[] = [];
    const end = listenForCodes((code) => heard.push(code));
    await settled();
    one.send(0x90, 40, 90);
    one.send(0x80, 40, 0);
    other.send(0xb0, 67, 127);
    expect(heard).toEqual(['midi 40', 'pedal 67']);
    end();
    one.send(0x90, 41, 90);
    expect(heard).toHaveLength(2);
  });

  it('is ended even where the browser answers later', async () => {
    const { input, send } = createInput();
    let answer: (access: unknown) => void = () => {};
    withMidi(
      () =>
        new Promise((resolve) => {
          answer = resolve;
        }),
    );
    const heard: string[] = [];
    listenForCodes((code) => heard.push(code))();
    answer({ inputs: new Map([['a', input]]) });
    await settled();
    send(0x90, 40, 90);
    expect(heard).toEqual([]);
  });

  it('is silent where there is no MIDI, or it is refused', async () => {
    withMidi(undefined);
    listenForCodes(() => {})();
    withMidi(() => Promise.reject(new DOMException('no', 'SecurityError')));
    listenForCodes(() => {});
    await settled();
  });
});
