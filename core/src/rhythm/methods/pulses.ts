import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import { meterBeats } from '../../schema/frame';
import type { GridEvent } from '../../schema/grid';
import { fillBars, plainFrame } from '../reshape/fill-bars';
import { numberField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  perBeat: z.number().int().min(0).max(8).default(0),
  bars: z.number().int().min(1).max(4).default(2),
});

/** A rhythm played as waves of pitch on one held note, 1, 2, 3, 4 … to the beat: read from the pitch, not from attacks. */
export const PULSES: Method<z.infer<typeof Parameters>> = {
  id: 'pulses',
  name: 'Pulses on one note',
  about: 'One held note whose pitch swings in time, one, two, three, four waves to the beat: a vibrato under command.',
  category: 'even',
  stage: 'anew',
  needs: 'held-note',
  parameters: Parameters,
  fields: [
    numberField('perBeat', 'Waves to the beat', [0, 1, 2, 3, 4, 6, 8], (n) => (n === 0 ? '1, 2, 3, 4 in turn' : String(n))),
    numberField('bars', 'Bars', [1, 2, 4]),
  ],
  drills: (grid, parameters) => {
    const [meter] = grid.meters;
    const span = (meter ? meterBeats(meter, grid.beatUnit) : beats(4)).mul(parameters.bars);
    const source = grid.events.find(({ notes }) => notes.some(({ pitch }) => pitch !== null)) ?? (grid.events[0] as GridEvent);
    const { role: _, ...plain } = source;
    const rates = parameters.perBeat === 0 ? [1, 2, 3, 4] : [parameters.perBeat];
    return rates.map((perBeat) => {
      const each = beats(`1/${perBeat}`);
      const events = Array.from({ length: span.mul(perBeat).floor().valueOf() }, (_one, k): GridEvent => {
        const length = writeBeats(each);
        return {
          ...plain,
          at: writeBeats(each.mul(k)),
          length,
          accent: false,
          notes: source.notes.slice(0, 1).map((note) => ({ ...note, length })),
        };
      });
      const whole = fillBars(plainFrame(grid), events);
      return makeDrill(
        'pulses',
        { ...parameters, perBeat },
        whole,
        { perBeat },
        { listen: 'pulses', judging: { leftOut: ['accents'] } },
      );
    });
  },
};
