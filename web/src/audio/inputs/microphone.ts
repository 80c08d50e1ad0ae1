import { MAX_OFFSET_S } from '@isochron/core/analysis';
import { calibrationOf, inputName, outputName } from '../devices';
import { InputError, type InputSource } from './input';

const LOST = 'The microphone is gone. What you played is kept; plug it in again, or choose another in Setup, and begin again.';

/** What the browser's refusals mean, by their names. */
const REFUSALS: Record<string, string> = {
  NotAllowedError:
    'The browser may not use the microphone. Allow it beside the address bar (or in the system settings), then begin again.',
  NotFoundError: 'No microphone was found. Plug one in, or choose the tap pad or the simulated player in Setup.',
  NotReadableError: 'Another program holds the microphone. Close it there, then begin again.',
  OverconstrainedError: 'The microphone chosen in Setup is not connected. Plug it in, or choose another.',
};

/** Opens a microphone without any of the processing that telephony adds. Throws {@link InputError}. */
export const openMicrophone = async (microphoneId: string): Promise<MediaStream> => {
  if (!navigator.mediaDevices) {
    throw new InputError('This page may not use a microphone. Open it at http://localhost instead of another address.');
  }
  try {
    return await navigator.mediaDevices.getUserMedia({
      audio: {
        deviceId: microphoneId ? { exact: microphoneId } : undefined,
        channelCount: { ideal: 1 },
        echoCancellation: false,
        noiseSuppression: false,
        autoGainControl: false,
      },
    });
  } catch (error) {
    const { name, message } = error as DOMException;
    throw new InputError(REFUSALS[name] ?? `The microphone cannot be opened (${message}). Check it in Setup.`);
  }
};

/** What browsers that count the sound of a track tell of it; not every one does. */
interface TrackStats {
  /** Sound that reached the page so far, in ms. */
  deliveredFramesDuration?: number;
}

const deliveredSecondsOf = (stream: MediaStream): number | null => {
  const [track] = stream.getAudioTracks() as (MediaStreamTrack & { stats?: TrackStats })[];
  const ms = track?.stats?.deliveredFramesDuration;
  return ms === undefined ? null : ms / 1000;
};

/** A microphone: the instrument, heard. */
export const MICROPHONE: InputSource = {
  kind: 'microphone',
  name: 'Microphone',
  about: 'Your instrument, heard. Headphones for the click give the best figures.',
  shows: 'level',
  profileId: (settings) => settings.profileId,
  async open({ engine, settings, onLost }) {
    const stream = await openMicrophone(settings.microphoneId);
    const calibration = calibrationOf(settings, inputName(stream), await outputName());
    const source = engine.context.createMediaStreamSource(stream);
    source.connect(engine.capture);
    for (const track of stream.getTracks()) track.addEventListener('ended', () => onLost(LOST));
    return {
      hearsClicks: true,
      offset: { nearS: engine.guessedLatencyS(), reachS: MAX_OFFSET_S },
      latencyS: calibration?.latencyS ?? null,
      records: true,
      deliveredS: () => deliveredSecondsOf(stream),
      prepare: () => {},
      forget: () => {},
      close() {
        source.disconnect();
        for (const track of stream.getTracks()) track.stop();
      },
    };
  },
};
