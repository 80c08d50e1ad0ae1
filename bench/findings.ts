/**
 * `npm run bench:findings`: how often the findings are told to players without what they tell of, and to players with it; simulated, and
 * from every take of the demo. Prints the tables of docs/figures.md.
 */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import {
  acrossRepetitions,
  byGrid,
  chance,
  evenGridNotes,
  findingOf,
  labelDifferences,
  measureRepetition,
  weakLinks,
} from '@isochron/core/analysis';
import { BUILT_IN_PASSAGES, builtInPassage } from '@isochron/core/material';
import { firstDrill } from '@isochron/core/planning';
import {
  type GridEvent,
  type NoteResult,
  type Passage,
  type Repetition,
  TakeQuerySchema,
  TOLERANCE_PRESETS,
} from '@isochron/core/schema';
import { handsInTurn, type MadePlayer, madeResults } from '@isochron/core/simulation';
import { openStore } from '../server/src/database/open';
import { seedDemo } from '../server/src/demo/seed';
import { storeMissingPassages } from '../server/src/passages';
import { listTakes } from '../server/src/take-lists';
import { getTake } from '../server/src/takes';

const TAKES = 1000;

const share = (takes: number, isSo: (seed: number) => boolean): string => {
  let found = 0;
  for (let seed = 1; seed <= takes; seed += 1) if (isSo(seed)) found += 1;
  return `${((100 * found) / takes).toFixed(1)} %`;
};

const named = (player: MadePlayer) => weakLinks(madeResults(player)).filter((link) => link.standsOut);

const weakSteps = () => {
  const notes = [8, 16, 32, 64];
  console.log(
    `\n| repetitions | ${notes.map((count) => `${count} notes`).join(' | ')} |\n|---|${notes.map(() => '---|').join('')}`,
  );
  for (const repetitions of [3, 4, 5, 8, 12, 20, 40]) {
    const cells = notes.map((count) =>
      share(TAKES, (seed) => named({ repetitions, notes: count, unsteadinessMs: 8, seed: seed + 10_000 * count }).length > 0),
    );
    console.log(`| ${repetitions} | ${cells.join(' | ')} |`);
  }
  console.log('\n| a note 15 ms late against 8 ms of scatter, 16 notes | named | the step that leads to it |\n|---|---|---|');
  const habitMs = Array.from({ length: 16 }, (_, k) => (k === 6 ? 15 : 0));
  for (const repetitions of [5, 8, 10, 15, 20]) {
    let all = 0;
    let leading = 0;
    const power = share(TAKES, (seed) => {
      const links = named({ repetitions, notes: 16, unsteadinessMs: 8, seed: seed + 90_000, habitMs });
      all += links.length;
      leading += links.filter(({ from }) => from === 5).length;
      return links.some(({ from }) => from === 5);
    });
    console.log(`| ${repetitions} repetitions | ${power} | ${((100 * leading) / Math.max(1, all)).toFixed(0)} % |`);
  }
};

const labels = () => {
  const { events } = firstDrill(builtInPassage('five-steps') as Passage).grid;
  const alternating = handsInTurn(events);
  const told = (player: Omit<MadePlayer, 'notes'>, of: readonly GridEvent[]) =>
    labelDifferences(madeResults({ ...player, notes: of.length }), of).some((one) => one.biasStandsOut);
  console.log(
    '\n| notes’ own habits | neighbours | fingers, none late | hands in turn, none late | hands in turn, one 8 ms late |\n|---|---|---|---|---|',
  );
  for (const habit of [0, 4, 8])
    for (const autocorrelation of [0, -0.3]) {
      const player = (seed: number, extra = 0) => {
        const { normal } = chance(seed + 31_000);
        const habitMs = events.map((_, k) => habit * normal() + (k % 2 ? extra : 0));
        return { repetitions: 10, unsteadinessMs: 6, seed, habitMs, autocorrelation };
      };
      const cells = [
        share(TAKES, (seed) => told(player(seed), events)),
        share(TAKES, (seed) => told(player(seed), alternating)),
        share(TAKES, (seed) => told(player(seed, 8), alternating)),
      ];
      console.log(`| ${habit} ms | ${autocorrelation} | ${cells.join(' | ')} |`);
    }
};

const coverage = () => {
  console.log('\n| notes | neighbours | placement | spread | unevenness |\n|---|---|---|---|---|');
  const [sd, placed] = [6, 20];
  for (const autocorrelation of [0, -0.3, 0.5])
    for (const count of [8, 16, 32, 60]) {
      const notes = evenGridNotes({ tempoBpm: 120, notesPerBeat: 4, beats: count / 4, startS: 0 });
      const truth = {
        placementMs: placed,
        spreadMs: sd,
        unevennessPct: (100 * Math.SQRT2 * sd * Math.sqrt(1 - autocorrelation)) / 125,
      };
      const held = { placementMs: 0, spreadMs: 0, unevennessPct: 0 };
      const rows = madeResults({ repetitions: 2000, notes: count, unsteadinessMs: sd, seed: count, autocorrelation });
      for (const results of rows) {
        const measures = measureRepetition({ notes, results, extra: 0, tolerance: TOLERANCE_PRESETS.secure });
        for (const key of ['placementMs', 'spreadMs', 'unevennessPct'] as const) {
          const { low, high } = measures[key] ?? { low: null, high: null };
          if (low !== null && high !== null && low <= truth[key] && truth[key] <= high) held[key] += 1;
        }
      }
      const cells = Object.values(held).map((one) => `${((100 * one) / rows.length).toFixed(1)} %`);
      console.log(`| ${count} | ${autocorrelation} | ${cells.join(' | ')} |`);
    }
};

/** The same repetition with its deviations dealt out anew: the unsteadiness is the player's, what is the same every time is gone. */
const dealt = (repetition: Repetition, seed: number): Repetition => {
  const { uniform } = chance(seed);
  const pool = repetition.notes.filter((note) => note.deviationMs !== null).map((note) => note.deviationMs as number);
  for (let k = pool.length - 1; k > 0; k -= 1) {
    const other = Math.floor(uniform() * (k + 1));
    [pool[k], pool[other]] = [pool[other] as number, pool[k] as number];
  }
  let next = 0;
  const notes = repetition.notes.map((note): NoteResult => {
    if (note.deviationMs === null || note.onsetS === null) return note;
    const deviationMs = pool[next++] as number;
    return { ...note, deviationMs, onsetS: note.onsetS + (deviationMs - note.deviationMs) / 1000 };
  });
  return { ...repetition, notes };
};

const demo = async () => {
  const folder = mkdtempSync(join(tmpdir(), 'isochron-findings-'));
  const store = await openStore(folder);
  await storeMissingPassages(store, BUILT_IN_PASSAGES);
  await seedDemo(store, () => {});
  const { takes } = await listTakes(store, TakeQuerySchema.parse({ limit: 200 }));
  const counts = new Map<string, number>();
  let alarms = 0;
  let groups = 0;
  for (const { id } of takes) {
    const take = await getTake(store, id);
    for (const group of take ? byGrid([take]) : []) {
      const { code } = findingOf(acrossRepetitions(group, false));
      counts.set(code, (counts.get(code) ?? 0) + 1);
      if (code === 'finding-too-few') continue;
      for (let deal = 0; deal < 10; deal += 1) {
        const repetitions = group.repetitions.map((one, k) => dealt(one, deal * 1000 + k + 1));
        const { links, labels: differences } = acrossRepetitions({ ...group, repetitions }, false);
        groups += 1;
        if (links.some((link) => link.standsOut) || differences.some((one) => one.biasStandsOut)) alarms += 1;
      }
    }
  }
  await store.close();
  rmSync(folder, { recursive: true });
  console.log(
    `\nThe demo, ${takes.length} takes: ${[...counts].map(([code, count]) => `${code.replace('finding-', '')} ${count}`).join(', ')}.`,
  );
  console.log(
    `The same repetitions with their deviations dealt out anew: ${alarms} of ${groups} with a spot or a hand (${((100 * alarms) / groups).toFixed(1)} %).`,
  );
};

const { values: only } = parseArgs({ options: { demo: { type: 'boolean' } } });
if (!only.demo) {
  weakSteps();
  labels();
  coverage();
}
await demo();
