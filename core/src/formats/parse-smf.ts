import { type MidiData, parseMidi } from 'midi-file';

/** The longest variable-length quantity, in bytes (Standard MIDI Files 1.0). */
const LONGEST_QUANTITY = 4;
const HEAD_BYTES = 8;
/** Bytes after the status of a channel message, by its upper half: one for program changes and channel pressure. */
const parametersOf = (status: number): number => (status >> 4 === 0xc || status >> 4 === 0xd ? 1 : 2);

/** A variable-length quantity and where it ends; null where it is longer than any. What the file ends in the middle of ends there. */
const quantityAt = (bytes: Uint8Array, at: number, end: number): { value: number; at: number } | null => {
  let value = 0;
  for (let k = 0; k < LONGEST_QUANTITY; k += 1) {
    if (at + k >= end) return { value, at: end };
    const byte = bytes[at + k] as number;
    value = value * 128 + (byte & 0x7f);
    if (byte < 0x80) return { value, at: at + k + 1 };
  }
  return null;
};

/** Whether every length in a track leads on: the package that reads it follows one that is too long backwards, and never ends. */
const leadsOn = (bytes: Uint8Array, from: number, end: number): boolean => {
  let status = 0;
  for (let at = from; at < end; ) {
    const delta = quantityAt(bytes, at, end);
    if (!delta) return false;
    at = delta.at;
    const first = bytes[at] ?? 0;
    if (first >= 0xf0) {
      const length = quantityAt(bytes, at + (first === 0xff ? 2 : 1), end);
      if (!length) return false;
      at = length.at + length.value;
      continue;
    }
    // A byte that is no status is the first parameter of a message like the one before.
    const isRunning = first < 0x80;
    if (!isRunning) status = first;
    at += parametersOf(status) + (isRunning ? 0 : 1);
  }
  return true;
};

/** Where each chunk of a file begins and ends, as its own length says. */
const chunksOf = function* (bytes: Uint8Array): Generator<{ at: number; end: number }> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 0; at + HEAD_BYTES <= bytes.length; ) {
    const end = at + HEAD_BYTES + view.getUint32(at + 4);
    yield { at, end };
    at = end;
  }
};

/** Whether a file ends before its last chunk does, or has fewer tracks than it says. */
export const isCutOff = (bytes: Uint8Array): boolean => {
  const chunks = [...chunksOf(bytes)];
  const tracks = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint16(HEAD_BYTES + 2);
  return (chunks.at(-1)?.end ?? 0) > bytes.length || chunks.length <= tracks;
};

/** Reads the events of a Standard MIDI File. Throws where it is none, or damaged. */
export const parseSmf = (bytes: Uint8Array): MidiData => {
  for (const { at, end } of chunksOf(bytes))
    if (end - at - HEAD_BYTES > 0x7fffffff || (at > 0 && !leadsOn(bytes, at + HEAD_BYTES, Math.min(bytes.length, end))))
      throw new Error('A length in this MIDI file leads nowhere.');
  return parseMidi(bytes);
};
