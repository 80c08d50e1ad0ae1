import { Text } from '@chakra-ui/react';
import {
  acrossRepetitions,
  centredDeviationsMs,
  type Exercise,
  findingOf,
  intervalMs,
  notesPerBeat,
  type Take,
  toleranceWindowMs,
  usableRepetitions,
} from '@isochron/core';
import { useMemo } from 'react';
import { Part } from '../../../app/Page';
import { DeviationHistogram } from '../../../charts/DeviationHistogram';
import { PositionProfile } from '../../../charts/PositionProfile';
import { signed } from '../../../strip/words';

const LISTED_LINKS = 3;

const between = (low: number | null, high: number | null) =>
  low === null || high === null ? '' : ` (${signed(low)} to ${signed(high)})`;

/** What a take's repetitions say together: a finding in one sentence, then what it rests on. */
export const AcrossPart = ({ take, exercise }: { take: Take; exercise: Exercise }) => {
  const across = useMemo(() => acrossRepetitions(exercise, take.repetitions, take.withoutClick), [exercise, take]);
  const usable = usableRepetitions(take.repetitions);
  const deviations = usable.flatMap(({ notes }) => centredDeviationsMs(notes).filter((value) => value !== null));
  const slowestBpm = Math.min(...usable.map((repetition) => repetition.tempoBpm));
  const { components, links, labels, clockMotor, profile } = across;
  return (
    <>
      <Text fontFamily="heading" fontSize="24px" lineHeight="1.3" maxWidth="60ch" marginTop="16px" data-testid="finding">
        {findingOf(across)}
      </Text>
      {usable.length > 0 && (
        <Part title="Note by note">
          <PositionProfile exercise={exercise} profile={profile} />
          <Text color="quiet" fontSize="16px" maxWidth="90ch">
            Short stroke: the note’s mean over {usable.length} repetitions, against each one’s own placement. Dark line: the
            range it is known to (95 %). Pale bar: how far it scatters.
          </Text>
          {components && (
            <Text marginTop="8px" maxWidth="90ch">
              The same every time: {components.systematicSdMs.toFixed(1)} ms ({Math.round(100 * components.systematicShare)} %
              of the wobble). Different every time: {components.randomSdMs.toFixed(1)} ms.
            </Text>
          )}
          {links.length > 0 && (
            <Text maxWidth="90ch">
              Steps with the most error beyond the others’:{' '}
              {links
                .slice(0, LISTED_LINKS)
                .map(
                  ({ from, excessMs, lowMs, highMs, standsOut }) =>
                    `${from + 1} to ${from + 2} ${signed(excessMs)} ms${between(lowMs, highMs)}${standsOut ? '' : ', may be chance'}`,
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
              {clockMotor.fits ? '' : '; the model fits them badly'}.
            </Text>
          )}
        </Part>
      )}
      {deviations.length > 0 && (
        <Part title="All notes together">
          <DeviationHistogram
            deviationsMs={deviations}
            windowMs={toleranceWindowMs(take.tolerance, intervalMs(slowestBpm, notesPerBeat(exercise)))}
          />
          <Text color="quiet" fontSize="16px">
            Number of notes by deviation from their repetition’s placement; early left, late right. Band: the tolerance at{' '}
            {slowestBpm}.
          </Text>
        </Part>
      )}
    </>
  );
};
