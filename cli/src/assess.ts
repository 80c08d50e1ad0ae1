import { acrossRepetitions, analyseRepetition, evenGridNotes, findingOf, profileOf } from '@isochron/core/analysis';
import { constantTempo, headlineBpm } from '@isochron/core/material';
import { nextStart } from '@isochron/core/planning';
import {
  type Grid,
  type Measures,
  type Repetition,
  TOLERANCE_PRESETS,
  type TolerancePreset,
  type Verdict,
} from '@isochron/core/schema';
import { beginDecisions, beginStrategy, decide, STRATEGIES, strategyOf } from '@isochron/core/strategy';
import { describeReason } from '@isochron/core/words';
import Papa from 'papaparse';
import { EVEN_RUN, evenRun, tempo } from './even-options';
import { parseCall, readBytes } from './parse-call';
import { USAGE, UsageError } from './usage';

const READER = { noteNaming: 'american' } as const;
const OPTIONS = {
  ...EVEN_RUN,
  goal: { type: 'string' },
  strategy: { type: 'string' },
  tolerance: { type: 'string' },
  json: { type: 'boolean' },
} as const;

/** Onset times (s) by repetition, from a CSV file with the columns `repetition` and `timeS`. */
const readRepetitions = async (file: string): Promise<number[][]> => {
  const text = (await readBytes(file)).toString('utf8');
  const { data, meta } = Papa.parse<Record<string, string>>(text.trim(), { header: true, skipEmptyLines: true });
  if (!meta.fields?.includes('repetition') || !meta.fields.includes('timeS'))
    throw new UsageError(`${file} needs a first line that names the columns: repetition,timeS`, 1);
  const rows = new Map<string, number[]>();
  for (const [k, { repetition = '', timeS = '' }] of data.entries()) {
    const time = Number(timeS);
    if (timeS.trim() === '' || !Number.isFinite(time))
      throw new UsageError(`Line ${k + 2} of ${file} has no time in seconds: ${timeS}`, 1);
    rows.set(repetition, [...(rows.get(repetition) ?? []), time]);
  }
  if (rows.size === 0) throw new UsageError(`There are no onsets in ${file}.`, 1);
  return [...rows.values()].map((times) => times.sort((a, b) => a - b));
};

/** What one repetition came to, and what follows from it. */
interface Assessed {
  measures: Measures;
  verdict: Verdict;
  sentence: string;
  decision: { action: string; bpm: number; sentence: string };
}

const presetOf = (name = 'secure') => {
  const preset = TOLERANCE_PRESETS[name as TolerancePreset];
  if (!preset)
    throw new UsageError(`--tolerance must be one of ${Object.keys(TOLERANCE_PRESETS).join(', ')}; it is ${name}.`, 2);
  return preset;
};

const strategyIdOf = (name = 'half-speed-climb') => {
  if (!STRATEGIES.some(({ id }) => id === name))
    throw new UsageError(`--strategy must be one of ${STRATEGIES.map(({ id }) => id).join(', ')}; it is ${name}.`, 2);
  return strategyOf(name).id;
};

/** `isochron assess`: measures, verdicts, what repetitions say together, and the decisions that follow, from onset times alone. */
export const assess = async (args: string[]): Promise<string> => {
  const { values, positionals } = parseCall(args, OPTIONS);
  const [file] = positionals;
  if (!file) throw new UsageError(`Name a CSV file.\n\n${USAGE}`, 2);
  const run = evenRun(values);
  const goalBpm = values.goal === undefined ? run.tempoBpm : tempo('goal', values.goal);
  const tolerance = presetOf(values.tolerance);
  const notes = evenGridNotes({ ...run, startS: 0 });
  const intervalS = notes[0]?.intervalS ?? 1;
  const target = { goalBpm: Math.max(goalBpm, run.tempoBpm), startBpm: run.tempoBpm };
  // Times alone: there are no pitches, hands or chords to look at.
  const grid = { events: [] } as unknown as Grid;
  let decisions = beginDecisions(beginStrategy(strategyIdOf(values.strategy), null));
  const repetitions: Repetition[] = [];
  const assessed = (await readRepetitions(file)).map((timesS, index): Assessed => {
    const { measures, verdict, ...figures } = analyseRepetition(
      timesS.map((timeS) => ({ timeS, levelDb: -20 })),
      {
        drill: { grid, judging: { leftOut: [] } },
        plan: { notes },
        profile: profileOf('tap'),
        tolerance,
        latencyS: null,
        // Where a repetition begins is not known: its first onset is taken for its first note, and looked around.
        offset: { nearS: timesS[0] ?? 0, reachS: 0.45 * intervalS, farS: 60 / run.tempoBpm },
        ownOnsets: true,
        gap: false,
      },
    );
    repetitions.push({
      index,
      measures,
      verdict,
      ease: null,
      tempo: constantTempo(run.tempoBpm),
      ...figures,
    } as unknown as Repetition);
    const played = {
      tempo: constantTempo(run.tempoBpm),
      bpm: run.tempoBpm,
      verdict,
      toleranceUsage: measures.toleranceUsage ?? null,
    };
    const next = decide(decisions, { ...played, ease: 'working' }, target);
    decisions = next.decisions;
    const { action, tempo: to, why } = next.decision;
    return {
      measures,
      verdict,
      sentence: describeReason(verdict.why, READER),
      decision: { action, bpm: headlineBpm(to), sentence: describeReason(why, READER) },
    };
  });
  const across = acrossRepetitions({ grid, repetitions }, false);
  const finding = describeReason(findingOf(across), READER);
  const start = nextStart(repetitions, target.goalBpm, target.startBpm);
  const next = { bpm: start.bpm, sentence: describeReason(start.why, READER) };
  if (values.json)
    return `${JSON.stringify({ repetitions: assessed, finding, steps: across.links, components: across.components, next })}\n`;
  return [
    ...assessed.map(
      ({ measures, verdict, sentence, decision }, k) =>
        `${k + 1}  ${verdict.outcome}: ${sentence}\n` +
        `   spread ${measures.spreadMs?.value.toFixed(1) ?? '–'} ms, unevenness ${measures.unevennessPct?.value.toFixed(1) ?? '–'} %, ` +
        `drift ${measures.driftPct?.toFixed(1) ?? '–'} %, missed ${measures.missed}, extra ${measures.extra}\n` +
        `   ${decision.action}: ${decision.sentence}`,
    ),
    finding,
    `Next time ${next.bpm}: ${next.sentence}`,
    '',
  ].join('\n');
};
