/** A latency that changes between two repetitions: headphones put on, or taken off. */
import { SETTLED_OFFSET_S } from '@isochron/core/analysis';
import { builtInPassage } from '@isochron/core/material';
import { firstDrill } from '@isochron/core/planning';
import type { Passage } from '@isochron/core/schema';
import { playerOf } from '../players/players';
import { hearTaps, planOf } from './heard';
import { pct, shareOf, type Table } from './table';

const TIMES = 40;
const JUMPS_MS = [-300, -250, -200, -150, -100, 100, 150, 200, 250, 300];
const UNSTEADY_MS = 4;

export const latencyTable = (times = TIMES): Table => {
  const drill = firstDrill(builtInPassage('five-steps') as Passage);
  const rows = [60, 80, 100, 120, 140].map((bpm) => {
    const { notes } = planOf(drill, bpm);
    const cells = JUMPS_MS.map((jumpMs) =>
      shareOf(times, (seed) => {
        const deviations = playerOf('independent').deviationsMs({
          timesS: notes.map(({ timeS }) => timeS),
          sdMs: notes.map(() => UNSTEADY_MS),
          seed: seed * 977 + bpm,
        });
        // A fall begins at a latency that can fall by so much.
        const beforeS = jumpMs < 0 ? -jumpMs / 1000 : 0;
        const nowS = beforeS + jumpMs / 1000;
        const onsetsS = notes.map(({ timeS }, k) => timeS + nowS + (deviations[k] as number) / 1000);
        const { analysed } = hearTaps({ drill, bpm, onsetsS, nearS: beforeS });
        const { missed, extra } = analysed.measures;
        return missed + extra === 0 && Math.abs(analysed.offsetS - nowS) < SETTLED_OFFSET_S / 2;
      }),
    );
    return [`${bpm}`, ...cells.map(pct)];
  });
  return {
    title: 'A latency that changes between two repetitions',
    about: `Share of the next repetitions in which every note is found at its place (17 notes, sixteenths and a half note, unsteady by ${UNSTEADY_MS} ms; ${times} each). Wanted: 99 % and more.`,
    head: ['bpm', ...JUMPS_MS.map((ms) => `${ms > 0 ? '+' : ''}${ms} ms`)],
    rows,
  };
};
