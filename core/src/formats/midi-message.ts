/** A note message of a MIDI instrument. */
export interface MidiNoteMessage {
  kind: 'on' | 'off';
  /** MIDI note number, 60 = middle C. */
  pitch: number;
  /** 0 to 127. */
  velocity: number;
}

const NOTE_OFF = 0x80;
const NOTE_ON = 0x90;

/**
 * Reads one channel message; null for anything but a note. A note-on of velocity 0 is a note-off.
 * Source: MIDI 1.0 Detailed Specification, channel voice messages.
 */
export const readMidiMessage = (bytes: Uint8Array): MidiNoteMessage | null => {
  const [status = 0, pitch = 0, velocity = 0] = bytes;
  const command = status & 0xf0;
  if (bytes.length < 3 || pitch > 127 || velocity > 127) return null;
  if (command === NOTE_OFF || (command === NOTE_ON && velocity === 0)) return { kind: 'off', pitch, velocity };
  return command === NOTE_ON ? { kind: 'on', pitch, velocity } : null;
};

/** Level of a velocity in dB: 40·log10(v/127), as synthesisers commonly scale it (common practice, no source). */
export const velocityDb = (velocity: number): number => 40 * Math.log10(Math.max(1, velocity) / 127);

/** The velocity of a level, 1 to 127: the inverse of {@link velocityDb}. */
export const dbVelocity = (levelDb: number): number => Math.min(127, Math.max(1, Math.round(127 * 10 ** (levelDb / 40))));
