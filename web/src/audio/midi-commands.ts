/** A key or controller of a MIDI instrument, as it stands among the player's own keys; null for what is none. */
export const midiCode = (bytes: Uint8Array): string | null => {
  const [status = 0, first = 0, second = 0] = bytes;
  if ((status & 0xf0) === 0x90 && second > 0) return `midi ${first}`;
  // A pedal is down from the middle on.
  if ((status & 0xf0) === 0xb0 && second >= 64) return `pedal ${first}`;
  return null;
};

/** Listens to every MIDI instrument for keys and pedals that mean something; gives back what ends it. Silent where there is no MIDI. */
export const listenForCodes = (onCode: (code: string) => void): (() => void) => {
  let inputs: MIDIInput[] = [];
  let isOver = false;
  const hear = ({ data }: MIDIMessageEvent) => {
    const code = data && midiCode(data);
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
