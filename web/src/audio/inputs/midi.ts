import { MAX_OFFSET_S } from '@isochron/core/analysis';
import { readMidiMessage, velocityDb } from '@isochron/core/material';
import { InputError, type InputSource } from './input';
import { onceAPort } from './once-a-port';
import { VIRTUAL_PORT_ID, virtualMidiPort } from './virtual-midi-port';

const LOST = 'The MIDI instrument is gone. What you played is kept; connect it again and begin again.';
const NO_MIDI = 'This browser has no MIDI. Use a Chromium-based browser or Firefox, or choose the virtual MIDI port in Setup.';
const REFUSED = 'The browser may not use MIDI. Allow it beside the address bar, then begin again.';
const NO_PORT = 'No MIDI instrument is connected. Connect one, or choose the virtual MIDI port in Setup.';
const PORT_GONE = 'The MIDI instrument chosen in Setup is not connected. Connect it, or choose another.';

/** The MIDI ports that bring notes, once the browser allows it. Throws {@link InputError}. */
export const midiPorts = async (): Promise<{ access: MIDIAccess; ports: MIDIInput[] }> => {
  if (!navigator.requestMIDIAccess) throw new InputError(NO_MIDI);
  try {
    // System exclusive messages are never needed here.
    const access = await navigator.requestMIDIAccess({ sysex: false });
    return { access, ports: [...access.inputs.values()] };
  } catch {
    throw new InputError(REFUSED);
  }
};

/** A MIDI instrument: timing, touch, pitch and note-off as it sends them. */
export const MIDI: InputSource = {
  kind: 'midi',
  name: 'MIDI instrument',
  about: 'Timing, touch, pitch and note lengths straight from the keys. No microphone needed.',
  shows: 'notes',
  profileId: () => 'midi',
  async open(options) {
    const { engine, settings, onOnset, onRelease, onLost } = options;
    const commands = new Set(Object.values(settings.keys));
    const isHeard = onceAPort();
    const hear = (bytes: Uint8Array, timeS: number, port = VIRTUAL_PORT_ID) => {
      const message = readMidiMessage(bytes);
      // A key that means something on the Bench is no note.
      if (!message || commands.has(`midi ${message.pitch}`) || !isHeard(message, port, timeS)) return;
      if (message.kind === 'off') onRelease(message.pitch, timeS);
      else onOnset({ timeS, levelDb: velocityDb(message.velocity), pitch: message.pitch });
    };
    const common = {
      hearsClicks: false,
      offset: { nearS: engine.guessedLatencyS(), reachS: MAX_OFFSET_S },
      latencyS: null,
      records: false,
    };
    if (settings.midiPortId === VIRTUAL_PORT_ID) {
      const port = virtualMidiPort(options);
      port.listen(hear);
      return { ...common, prepare: port.prepare, forget: port.forget, close: port.close };
    }
    const { access, ports } = await midiPorts();
    const chosen = settings.midiPortId ? ports.filter((port) => port.id === settings.midiPortId) : ports;
    if (chosen.length === 0) throw new InputError(settings.midiPortId ? PORT_GONE : NO_PORT);
    const onMessage = ({ data, timeStamp, currentTarget }: MIDIMessageEvent) =>
      data && hear(data, engine.clockTimeS(timeStamp), (currentTarget as MIDIInput).id);
    const onState = ({ port }: MIDIConnectionEvent) => {
      if (port?.state === 'disconnected' && chosen.some((one) => one.id === port.id)) onLost(LOST);
    };
    for (const port of chosen) port.addEventListener('midimessage', onMessage);
    await Promise.all(chosen.map((port) => port.open()));
    access.addEventListener('statechange', onState);
    return {
      ...common,
      prepare: () => {},
      forget: () => {},
      close() {
        access.removeEventListener('statechange', onState);
        for (const port of chosen) port.removeEventListener('midimessage', onMessage);
      },
    };
  },
};
