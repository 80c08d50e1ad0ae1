import { drumPartOf } from '@isochron/core/material';
import type { Grid, Pitch } from '@isochron/core/schema';

/** What a screen reader says of a grid's notes from one event up to another. */
export const notationWords = ({ events, staves }: Grid, from: number, to: number): string => {
  const drum = (staff: number, pitch: Pitch) =>
    staves[staff - 1]?.clef === 'percussion' ? drumPartOf(pitch)?.name : undefined;
  const named = events
    .slice(from, Math.min(to, from + 16))
    .map((event) =>
      event.notes.map(({ staff, pitch }) => (pitch ? (drum(staff, pitch) ?? spoken(pitch)) : 'note')).join(' and '),
    );
  return `notes ${from + 1} to ${to}: ${named.join(', ')}${to - from > 16 ? ' …' : ''}`;
};

const ALTER_WORDS: Record<number, string> = { [-2]: ' double flat', [-1]: ' flat', 0: '', 1: ' sharp', 2: ' double sharp' };
const spoken = ({ step, alter, octave }: Pitch): string => `${step}${ALTER_WORDS[alter] ?? ''} ${octave}`;
