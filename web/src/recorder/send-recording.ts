import { wavHead } from '@isochron/core/material';
import { ApiError, putRecordingPart } from '../api/client';
import type { KeptRecording } from './kept-recording';

/** Seconds of sound sent at a time: some megabytes. */
const PART_SECONDS = 60;
/** A server that was started anew in the middle has forgotten the beginning; it is sent once more. */
const BEGINNINGS = 3;
const BEGIN_ANEW = 409;

const joined = (head: Uint8Array, sound: Uint8Array): Uint8Array<ArrayBuffer> => {
  const whole = new Uint8Array(head.length + sound.length);
  whole.set(head);
  whole.set(sound, head.length);
  return whole;
};

const sendParts = async (takeId: string, recording: KeptRecording): Promise<void> => {
  const { frames, sampleRateHz, seconds, read } = recording;
  const head = wavHead(frames, sampleRateHz);
  const of = head.length + 2 * frames;
  const upload = crypto.randomUUID();
  let from = 0;
  for (let second = 0; second < seconds; second += PART_SECONDS) {
    const samples = await read(second, second + PART_SECONDS);
    const sound = new Uint8Array(samples.buffer);
    const body = second === 0 ? joined(head, sound) : sound;
    await putRecordingPart(takeId, { upload, from, of }, body);
    from += body.length;
  }
};

/** Sends a take's recording as a WAV file, a minute at a time. Throws ApiError. */
export const sendRecording = async (takeId: string, recording: KeptRecording): Promise<void> => {
  for (let attempt = 1; ; attempt += 1) {
    try {
      await sendParts(takeId, recording);
      return;
    } catch (error) {
      if (!(error instanceof ApiError && error.status === BEGIN_ANEW) || attempt === BEGINNINGS) throw error;
    }
  }
};
