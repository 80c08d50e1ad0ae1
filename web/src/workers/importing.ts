import { listenToRecording, measureImport, type Onset, profileOf, readSmf, readWav } from '@isochron/core';
import type { FileContent, ImportAnswer, ImportRequest } from './import-messages';

const tell = (message: ImportAnswer, transfer: Transferable[] = []) => self.postMessage(message, { transfer });

interface Sound {
  samples: Float32Array;
  sampleRateHz: number;
  notes: string[];
}

const soundOf = (content: Exclude<FileContent, { kind: 'midi' }>): Sound =>
  content.kind === 'wav' ? readWav(content.bytes) : { ...content, notes: [] };

const measure = ({ content, exercise, tempoBpm, tolerance, profile }: ImportRequest): void => {
  let onsets: Onset[];
  let sound: Sound | null = null;
  if (content.kind === 'midi') onsets = readSmf(content.bytes);
  else {
    sound = soundOf(content);
    onsets = listenToRecording(sound.samples, sound.sampleRateHz, profile, (share) => tell({ type: 'progress', share }));
  }
  const used = content.kind === 'midi' ? profileOf('midi') : profile;
  const repetitions = measureImport(onsets, { exercise, tempoBpm, tolerance, profile: used });
  tell({
    type: 'measured',
    repetitions,
    onsetCount: onsets.length,
    sound: sound && { samples: Float32Array.from(sound.samples), sampleRateHz: sound.sampleRateHz },
    notes: sound?.notes ?? [],
  });
};

/** Measures a file and tells what came of it. */
export const handle = (request: ImportRequest): void => {
  try {
    measure(request);
  } catch (error) {
    tell({ type: 'failed', message: (error as Error).message });
  }
};
