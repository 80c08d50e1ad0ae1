import { type Estimate, type MeasuredRecording, measureRecording, type Onset, say, TOLERANCE_PRESETS } from '@isochron/core';
import { EVEN_RUN, evenRun, inRange, number } from './even-options';
import { parseCall } from './parse-call';
import { familyOf, readOnsets } from './read-input';
import { Trouble, USAGE } from './usage';

const OPTIONS = {
  ...EVEN_RUN,
  start: { type: 'string' },
  clicks: { type: 'string' },
  instrument: { type: 'string' },
  json: { type: 'boolean' },
} as const;

/** `isochron measure`: the measures of one even run in a recording, as text or JSON. */
export const measure = async (args: string[]): Promise<string> => {
  const { values, positionals } = parseCall(args, OPTIONS);
  const [file] = positionals;
  if (!file) throw new Trouble(`Name a WAV file.\n\n${USAGE}`, 2);
  const grid = {
    ...evenRun(values),
    startS: inRange('start', number('start', values.start), -1, 36_000),
  };
  const onsets = await readOnsets(file, values.clicks, { family: familyOf(values.instrument) }, grid.startS);
  const measured = measureRecording(onsets, grid, TOLERANCE_PRESETS.secure);
  return values.json ? asJson(onsets, measured) : asText(measured);
};

const figureOf = (figure: Estimate | null): number | null => figure?.value ?? null;

const asJson = (onsets: readonly Onset[], { notes, extras, measures, verdict }: MeasuredRecording): string => {
  const { driftPct, npvi, accuracyPct, missed, extra } = measures;
  return `${JSON.stringify({
    onsets,
    notes: notes.map(({ index, expectedS, onsetS, deviationMs }) => ({ index, expectedS, onsetS, deviationMs })),
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
    `verdict     ${verdict.outcome}: ${say(verdict.why, { noteNaming: 'american' })}`,
    '',
  ].join('\n');
