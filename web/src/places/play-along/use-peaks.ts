import { useEffect, useState } from 'react';
import { playerMessage } from '../../app/report-error';
import { accompanimentSound } from '../../audio/accompaniment-sound';

const RATE_HZ = 48_000;
export const PEAKS_PER_S = 100;

const peaksOf = (sound: AudioBuffer): Float32Array => {
  const every = sound.sampleRate / PEAKS_PER_S;
  const peaks = new Float32Array(Math.ceil(sound.length / every));
  for (let channel = 0; channel < sound.numberOfChannels; channel += 1)
    sound.getChannelData(channel).forEach((value, n) => {
      const piece = Math.floor(n / every);
      if (Math.abs(value) > (peaks[piece] as number)) peaks[piece] = Math.abs(value);
    });
  return peaks;
};

/** The greatest sample of each hundredth of a second of a recording; null while it is fetched; and what went wrong. */
export const usePeaks = (id: string): { peaks: Float32Array | null; trouble: string } => {
  const [peaks, setPeaks] = useState<Float32Array | null>(null);
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    let isOver = false;
    setPeaks(null);
    accompanimentSound(id, RATE_HZ).then(
      (sound) => {
        if (!isOver) setPeaks(peaksOf(sound));
      },
      (error: Error) => {
        if (!isOver) setTrouble(playerMessage(error));
      },
    );
    return () => {
      isOver = true;
    };
  }, [id]);
  return { peaks, trouble };
};
