import { MAX_OFFSET_S } from '@isochron/core';
import { type InputSource, InputTrouble } from './input';

const LOST = 'The microphone is gone. What you played is kept; plug it in again, or choose another in Setup, and begin anew.';

/** What the browser's refusals mean, by their names. */
const REFUSALS: Record<string, string> = {
  NotAllowedError:
    'The browser may not use the microphone. Allow it beside the address bar (or in the system settings), then begin again.',
  NotFoundError: 'No microphone was found. Plug one in, or choose the tap pad or the simulated player in Setup.',
  NotReadableError: 'Another program holds the microphone. Close it there, then begin again.',
  OverconstrainedError: 'The microphone chosen in Setup is not connected. Plug it in, or choose another.',
};

/** A microphone, without any of the processing that telephony adds. */
export const MICROPHONE: InputSource = {
  kind: 'microphone',
  name: 'Microphone',
  about: 'Your instrument, heard. Headphones for the click give the best figures.',
  async open({ engine, settings, onLost }) {
    if (!navigator.mediaDevices) {
      throw new InputTrouble('This page may not use a microphone. Open it at http://localhost instead of another address.');
    }
    let stream: MediaStream;
    try {
      stream = await navigator.mediaDevices.getUserMedia({
        audio: {
          deviceId: settings.microphoneId ? { exact: settings.microphoneId } : undefined,
          channelCount: { ideal: 1 },
          echoCancellation: false,
          noiseSuppression: false,
          autoGainControl: false,
        },
      });
    } catch (error) {
      const { name, message } = error as DOMException;
      throw new InputTrouble(REFUSALS[name] ?? `The microphone cannot be opened (${message}). Check it in Setup.`);
    }
    const source = engine.context.createMediaStreamSource(stream);
    source.connect(engine.capture);
    for (const track of stream.getTracks()) track.addEventListener('ended', () => onLost(LOST));
    return {
      hearsClicks: true,
      offset: { nearS: engine.guessedLatencyS(), reachS: MAX_OFFSET_S },
      records: true,
      prepare: () => {},
      forget: () => {},
      close() {
        source.disconnect();
        for (const track of stream.getTracks()) track.stop();
      },
    };
  },
};
