import { type Estimate, evenGridNotes, type MeasuredRecording, measureRecording } from '@isochron/core/analysis';
import { constantTempo, type ExpectedNote, expectedNotes, pitchSequence } from '@isochron/core/material';
import { passageGrid } from '@isochron/core/planning';
import { type Grid, type Onset, TOLERANCE_PRESETS } from '@isochron/core/schema';
import { describeReason } from '@isochron/core/words';
import { EVEN_RUN, evenRun, number, numberInRange, tempo } from './even-options';
import { parseCall } from './parse-call';
import { familyOf, readOnsets } from './read-input';
import { readPassage } from './read-passage';
import { USAGE, UsageError } from './usage';

const OPTIONS = {
  ...EVEN_RUN,
  start: { type: 'string' },
  score: { type: 'string' },
  clicks: { type: 'string' },
  instrument: { type: 'string' },
  json: { type: 'boolean' },
} as const;

/** `isochron measure`: the measures of one even run, or of what a score says, in a recording, as text or JSON. */
export const measure = async (args: string[]): Promise<string> => {
  const { values, positionals } = parseCall(args, OPTIONS);
  const [file] = positionals;
  if (!file) throw new UsageError(`Name a WAV file.\n\n${USAGE}`, 2);
  const startS = numberInRange('start', number('start', values.start), -1, 36_000);
  const score = values.score === undefined ? null : passageGrid((await readPassage(values.score)).passage);
  const notes = score ? writtenNotes(score, values, startS) : evenGridNotes({ ...evenRun(values), startS });
  const options = { family: familyOf(values.instrument), score: score ? pitchSequence(score) : undefined };
  const onsets = await readOnsets(file, values.clicks, options, startS);
  const measured = measureRecording(onsets, notes, TOLERANCE_PRESETS.secure);
  return values.json ? asJson(onsets, measured) : asText(measured);
};

/**
 * The notes of a score, the first at `startS`; where an even run of as many notes is asked for, its times and the score's pitches.
 */
const writtenNotes = (score: Grid, values: Parameters<typeof evenRun>[0], startS: number): ExpectedNote[] => {
  if (values['per-beat'] !== undefined && values.beats !== undefined) {
    const even = evenGridNotes({ ...evenRun(values), startS });
    if (even.length === score.events.length) return even;
    console.error(
      `isochron: The score has ${score.events.length} onsets, not ${even.length}: its own rhythm is measured against, not the even run.`,
    );
  }
  const notes = expectedNotes(score, constantTempo(tempo('bpm', values.bpm)), 0);
  const firstS = notes[0]?.timeS ?? 0;
  return notes.map((note) => ({ ...note, timeS: note.timeS - firstS + startS }));
};

const figureOf = (figure: Estimate | null): number | null => figure?.value ?? null;

const asJson = (onsets: readonly Onset[], { notes, extras, measures, verdict }: MeasuredRecording): string => {
  const { driftPct, npvi, accuracyPct, missed, extra, unsure = 0 } = measures;
  return `${JSON.stringify({
    onsets: onsets.map(({ timeS, levelDb, confidence, errorMs }) => ({ timeS, levelDb, confidence, errorMs })),
    notes: notes.map(({ index, expectedS, onsetS, deviationMs, confidence, errorMs, doubleAttackMs }) => ({
      index,
      expectedS,
      onsetS,
      deviationMs,
      confidence,
      errorMs,
      doubleAttackMs,
    })),
    extra: extras.map((onset) => onset.timeS),
    measures: {
      placementMs: figureOf(measures.placementMs),
      spreadMs: figureOf(measures.spreadMs),
      driftPct,
      unevennessPct: figureOf(measures.unevennessPct),
      unevennessMs: figureOf(measures.unevennessMs),
      npvi,
      accuracyPct,
      missed,
      extra,
      unsure,
    },
    verdict: { outcome: verdict.outcome, reason: verdict.reason },
  })}\n`;
};

const figure = (value: number | null, unit: string): string => (value === null ? 'no value' : `${value.toFixed(1)} ${unit}`);

const withInterval = (estimate: Estimate | null, unit: string): string =>
  estimate?.low == null || estimate.high == null
    ? figure(figureOf(estimate), unit)
    : `${figure(estimate.value, unit)}  (95 %: ${estimate.low.toFixed(1)} to ${estimate.high.toFixed(1)})`;

const asText = ({ measures, verdict }: MeasuredRecording): string =>
  [
    `placement   ${withInterval(measures.placementMs, 'ms')}`,
    `spread      ${withInterval(measures.spreadMs, 'ms')}`,
    `unevenness  ${withInterval(measures.unevennessPct, '%')}`,
    `            ${withInterval(measures.unevennessMs, 'ms')}`,
    `drift       ${figure(measures.driftPct, '%')}`,
    `nPVI        ${figure(measures.npvi, '')}`,
    `accuracy    ${figure(measures.accuracyPct, '%')}`,
    `missed      ${measures.missed}`,
    `extra       ${measures.extra}`,
    `unsure      ${measures.unsure ?? 0}`,
    `verdict     ${verdict.outcome}: ${describeReason(verdict.why, { noteNaming: 'american' })}`,
    '',
  ].join('\n');
