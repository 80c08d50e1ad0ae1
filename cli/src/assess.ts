import { acrossRepetitions, analyseRepetition, evenGridNotes, findingOf, profileOf } from '@isochron/core/analysis';
import { constantTempo, expectedNotes, headlineBpm, shortestIntervalMs } from '@isochron/core/material';
import { nextStart, passageGrid } from '@isochron/core/planning';
import {
  type Ease,
  EaseSchema,
  type Grid,
  type GridEvent,
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
import { readPassage } from './read-passage';
import { USAGE, UsageError } from './usage';

const READER = { noteNaming: 'american' } as const;
const OPTIONS = {
  ...EVEN_RUN,
  goal: { type: 'string' },
  strategy: { type: 'string' },
  tolerance: { type: 'string' },
  ease: { type: 'string' },
  labels: { type: 'string' },
  score: { type: 'string' },
  json: { type: 'boolean' },
} as const;

/** The rows of a CSV file whose first line names at least these columns. */
const readTable = async <Column extends string>(file: string, columns: readonly Column[]) => {
  const text = (await readBytes(file)).toString('utf8');
  const { data, meta } = Papa.parse<Record<Column, string>>(text.trim(), { header: true, skipEmptyLines: true });
  if (!columns.every((column) => meta.fields?.includes(column)))
    throw new UsageError(`${file} needs a first line that names the columns: ${columns.join(',')}`, 1);
  return data;
};

/** Onset times (s) by repetition, from a CSV file with the columns `repetition` and `timeS`. */
const readRepetitions = async (file: string): Promise<number[][]> => {
  const data = await readTable(file, ['repetition', 'timeS']);
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

/** What was answered of each repetition: one answer for all, or one for each in turn, the last one for the rest. */
const easesOf = (text = 'working'): Ease[] =>
  text.split(',').map((word) => {
    const ease = EaseSchema.safeParse(word.trim());
    if (!ease.success) throw new UsageError(`--ease must be of ${EaseSchema.options.join(', ')}; it is ${word}.`, 2);
    return ease.data;
  });

/** What stands beside each note, from a CSV file with the columns `note` (counted from 1) and `label`. */
const readLabels = async (file: string | undefined): Promise<Map<number, string>> => {
  if (file === undefined) return new Map();
  const rows = await readTable(file, ['note', 'label']);
  return new Map(rows.map(({ note, label }) => [Number(note), label.trim()]));
};

/** The events of an even run: places without pitches, hands or chords. */
const evenEvents = (count: number, perBeat: number): GridEvent[] =>
  Array.from({ length: count }, (_, k) => {
    const length = `1/${perBeat}`;
    const note = { from: `n${k + 1}`, pitch: null, length, staff: 1 as const, voice: 1, marks: {} };
    return { at: `${k}/${perBeat}`, length, accent: false, notes: [note] };
  });

/** What is to be played: the notes of a score at the tempo, or an even run. */
const askedFor = async (values: { score?: string; labels?: string; bpm?: string; 'per-beat'?: string; beats?: string }) => {
  const labels = await readLabels(values.labels);
  const withLabels = (events: readonly GridEvent[]): GridEvent[] =>
    events.map((event, k) => {
      const sign = labels.get(k + 1);
      return sign ? { ...event, notes: event.notes.map((note) => ({ ...note, marks: { ...note.marks, sign } })) } : event;
    });
  if (values.score !== undefined) {
    const grid = passageGrid((await readPassage(values.score)).passage);
    const tempoBpm = tempo('bpm', values.bpm);
    return {
      tempoBpm,
      notes: expectedNotes(grid, constantTempo(tempoBpm), 0),
      grid: { ...grid, events: withLabels(grid.events) },
    };
  }
  const run = evenRun(values);
  const notes = evenGridNotes({ ...run, startS: 0 });
  const grid: Grid = {
    beatUnit: '1/4',
    pickup: '0',
    meters: [{ at: '0', count: Math.ceil(run.beats), unit: 4 }],
    keys: [{ at: '0', fifths: 0 }],
    staves: [{ clef: 'treble' }],
    bars: 1,
    events: withLabels(evenEvents(notes.length, run.notesPerBeat)),
  };
  return { tempoBpm: run.tempoBpm, notes, grid };
};

/** `isochron assess`: measures, verdicts, what repetitions say together, and the decisions that follow, from onset times alone. */
export const assess = async (args: string[]): Promise<string> => {
  const { values, positionals } = parseCall(args, OPTIONS);
  const [file] = positionals;
  if (!file) throw new UsageError(`Name a CSV file.\n\n${USAGE}`, 2);
  const { tempoBpm, notes, grid } = await askedFor(values);
  const eases = easesOf(values.ease);
  const goalBpm = values.goal === undefined ? tempoBpm : tempo('goal', values.goal);
  const tolerance = presetOf(values.tolerance);
  const intervalS = shortestIntervalMs(notes) / 1000;
  const target = { goalBpm: Math.max(goalBpm, tempoBpm), startBpm: tempoBpm };
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
        offset: { nearS: timesS[0] ?? 0, reachS: 0.45 * intervalS, farS: 60 / tempoBpm },
        ownOnsets: true,
        gap: false,
      },
    );
    repetitions.push({
      index,
      measures,
      verdict,
      ease: null,
      tempo: constantTempo(tempoBpm),
      ...figures,
    } as unknown as Repetition);
    const played = {
      tempo: constantTempo(tempoBpm),
      bpm: tempoBpm,
      verdict,
      toleranceUsage: measures.toleranceUsage ?? null,
    };
    const next = decide(decisions, { ...played, ease: eases[Math.min(index, eases.length - 1)] as Ease }, target);
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
    return `${JSON.stringify({
      repetitions: assessed,
      finding,
      explained: across.explained,
      scattering: across.scattering,
      labels: across.labels,
      steps: across.links,
      components: across.components,
      next,
    })}\n`;
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
