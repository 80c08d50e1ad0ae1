/** A pedal is down from the middle of its travel on, and up again a good way before it: between them it trembles under a foot. */
const DOWN = 64;
const UP = 40;

/**
 * Reads the messages of one MIDI instrument in the order in which they come: a key that begins or a pedal that goes down, as it stands
 * among the player's own keys; null for all else. A pedal that sends every place of its travel goes down once.
 */
export const createCodeReader = (): ((bytes: Uint8Array) => string | null) => {
  const down = new Set<number>();
  return (bytes) => {
    const [status = 0, first = 0, second = 0] = bytes;
    if ((status & 0xf0) === 0x90 && second > 0) return `midi ${first}`;
    if ((status & 0xf0) !== 0xb0) return null;
    // Pedals of two channels are two pedals.
    const pedal = ((status & 0x0f) << 7) | first;
    if (second < UP) down.delete(pedal);
    if (second < DOWN || down.has(pedal)) return null;
    down.add(pedal);
    return `pedal ${first}`;
  };
};

/** Listens to every MIDI instrument for keys and pedals that mean something; gives back what ends it. Silent where there is no MIDI. */
export const listenForCodes = (onCode: (code: string) => void): (() => void) => {
  let inputs: MIDIInput[] = [];
  let isOver = false;
  const readers = new Map<EventTarget | null, ReturnType<typeof createCodeReader>>();
  const hear = ({ data, currentTarget }: MIDIMessageEvent) => {
    const read = readers.get(currentTarget) ?? createCodeReader();
    readers.set(currentTarget, read);
    const code = data && read(data);
    if (code) onCode(code);
  };
  void navigator.requestMIDIAccess?.({ sysex: false }).then(
    (access) => {
      if (isOver) return;
      inputs = [...access.inputs.values()];
      for (const input of inputs) input.addEventListener('midimessage', hear);
    },
    () => {},
  );
  return () => {
    isOver = true;
    for (const input of inputs) input.removeEventListener('midimessage', hear);
  };
};
