import { getAccompanimentSound } from '../api/client';
import { decodeSound } from './decode-sound';

/** The sound that was fetched last: a take is played along with the recording that was just looked at. */
let last: { id: string; sampleRateHz: number; sound: AudioBuffer } | null = null;

/** The sound of a recording to play along with, decoded for an audio clock. Throws with a sentence for the player. */
export const accompanimentSound = async (id: string, sampleRateHz: number): Promise<AudioBuffer> => {
  if (last?.id === id && last.sampleRateHz === sampleRateHz) return last.sound;
  last = null;
  const sound = await decodeSound(await getAccompanimentSound(id), sampleRateHz);
  last = { id, sampleRateHz, sound };
  return sound;
};
