import { Text } from '@chakra-ui/react';
import { deviationsFromOthersMs, toleranceWindowMs } from '@isochron/core/analysis';
import { expectedNotes, headlineBpm, shortestIntervalMs } from '@isochron/core/material';
import type { Grid, Take } from '@isochron/core/schema';
import { Part } from '../../../app/Page';
import { DeviationHistogram } from '../../../charts/DeviationHistogram';
import { PositionProfile } from '../../../charts/PositionProfile';
import { signed, tempoWords } from '../../../words';
import type { Across } from './use-across';

const LISTED_LINKS = 3;

const between = (low: number | null, high: number | null) =>
  low === null || high === null ? '' : ` (${signed(low)} to ${signed(high)})`;

interface Props {
  take: Take;
  grid: Grid;
  found: Across;
  /** Whether the page's contents list names its parts. */
  isListed: boolean;
}

/** The usable repetitions of one grid note by note, and all notes together. */
export const NotesParts = ({ take, grid, found, isListed }: Props) => {
  const { across, pooled, usable } = found;
  const { components, profile } = across;
  const { links, labels, clockMotor } = pooled;
  const deviations = usable.flatMap(({ notes }) => deviationsFromOthersMs(notes));
  const slowest = usable.reduce<(typeof usable)[number] | null>(
    (least, one) => (least && headlineBpm(least.tempo) <= headlineBpm(one.tempo) ? least : one),
    null,
  );
  return (
    <>
      {usable.length > 0 && (
        <Part title="Note by note" id={isListed ? 'notes' : undefined}>
          <PositionProfile grid={grid} profile={profile} />
          <Text color="quiet" fontSize="16px" maxWidth="90ch">
            Short stroke: the note’s mean over {usable.length} repetitions, against each one’s own placement. Dark line: the
            range it is known to (95 %). Pale bar: how far it scatters.
          </Text>
          {components && (
            <Text marginTop="8px" maxWidth="90ch">
              The same every time: {components.systematicSdMs.toFixed(1)} ms ({Math.round(100 * components.systematicShare)} %
              of the unsteadiness). Different every time: {components.randomSdMs.toFixed(1)} ms.
            </Text>
          )}
          {links.length > 0 && (
            <Text maxWidth="90ch">
              Steps that lie farthest from their length:{' '}
              {links
                .slice(0, LISTED_LINKS)
                .map(
                  ({ from, biasMs, standsOut }) =>
                    `${from + 1} to ${from + 2} ${signed(biasMs.value)} ms${between(biasMs.low, biasMs.high)}${standsOut ? '' : ', may be chance'}`,
                )
                .join('; ')}
              .
            </Text>
          )}
          {labels.slice(0, 4).map(({ kind, first, second, biasMs, levelDb }) => (
            <Text key={`${kind}/${first.label}/${second.label}`} maxWidth="90ch">
              By {kind}, {first.label} against {second.label}: {signed(biasMs.value)} ms{between(biasMs.low, biasMs.high)},
              level {signed(levelDb.value)} dB{between(levelDb.low, levelDb.high)}.
            </Text>
          ))}
          {clockMotor && (
            <Text maxWidth="90ch">
              Without a click: the inner clock varies by {clockMotor.clockSdMs.toFixed(1)} ms, the hands by{' '}
              {clockMotor.motorSdMs.toFixed(1)} ms, from {clockMotor.intervals} even steps
              {clockMotor.fits ? '' : '; only a rough guess here'}.
            </Text>
          )}
        </Part>
      )}
      {deviations.length > 0 && slowest && (
        <Part title="All notes together" id={isListed ? 'together' : undefined} onScreen>
          <DeviationHistogram
            deviationsMs={deviations}
            windowMs={toleranceWindowMs(take.tolerance, shortestIntervalMs(expectedNotes(grid, slowest.tempo, 0)))}
          />
          <Text color="quiet" fontSize="16px">
            Number of notes by deviation from their repetition’s placement; early left, late right. Band: the tolerance at{' '}
            {tempoWords(slowest.tempo)}.
          </Text>
        </Part>
      )}
    </>
  );
};
