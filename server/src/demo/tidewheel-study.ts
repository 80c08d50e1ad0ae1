import type { Passage } from '@isochron/core/schema';
import { passageOfScore, readText } from '@isochron/core/score';

/** Roots of the 32 bars, two to a bar, as steps above C; the first eight come back with another close. */
const ROOTS = [
  [0, 3],
  [4, 1],
  [5, 2],
  [1, 4],
  [0, 3],
  [4, 1],
  [5, 6],
  [0, 0],
  [3, 6],
  [2, 5],
  [1, 4],
  [0, 3],
  [6, 2],
  [5, 1],
  [3, 4],
  [4, 4],
  [0, 3],
  [4, 1],
  [5, 2],
  [1, 4],
  [0, 3],
  [4, 1],
  [5, 6],
  [0, 0],
  [5, 2],
  [3, 0],
  [1, 5],
  [6, 4],
  [0, 3],
  [4, 1],
  [3, 4],
] as const;
/** Steps above the root of each of eight notes: a wave that turns over itself. */
const WAVE = [0, 4, 7, 5, 8, 5, 7, 4] as const;
const RIPPLE = [0, 2, 4, 7, 9, 7, 4, 2] as const;
const LETTERS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const;

const note = (step: number, k: number) => `${LETTERS[step % 7]}${3 + Math.floor(step / 7)}@${k % 2 === 0 ? 'R' : 'L'}`;

/** The whole of "Tidewheel", an invented study for marimba: thirty-two bars, most of them semiquavers. */
export const tidewheelStudy = (): Passage => {
  const bars = ROOTS.map((roots, bar) =>
    roots
      .flatMap((root, half) =>
        (Math.floor(bar / 8) % 2 === 0 ? WAVE : RIPPLE).map(
          (step, k) => `${note(root + step, 8 * half + k)}${half === 0 && k === 0 ? '/16' : ''}`,
        ),
      )
      .join(' '),
  );
  const text = `title: Tidewheel, the whole study\nmeter: 4/4\nkey: C\ntempo: 104\n\n${bars.join(' |\n')} |\nC3@R/1 |\n`;
  const { passage } = passageOfScore(readText(text), 'tidewheel');
  return {
    ...passage,
    about: 'Thirty-two bars of waves and ripples, hand to hand. The opening comes back in bar 17.',
    instrumentId: 'marimba',
    text,
    variants: passage.variants.map((variant) => ({ ...variant, name: 'hand to hand, right first' })),
    sections: [
      { id: 'opening', name: 'Opening', fromBar: 1, toBar: 8 },
      { id: 'ripples', name: 'Ripples', fromBar: 9, toBar: 16 },
      { id: 'close', name: 'Close', fromBar: 25, toBar: 32 },
    ],
  };
};
