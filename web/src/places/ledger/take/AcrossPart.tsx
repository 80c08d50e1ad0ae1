import { Text } from '@chakra-ui/react';
import {
  acrossRepetitions,
  attackHabitReason,
  attackHabits,
  awkwardInArcs,
  awkwardReason,
  deviationsFromOthersMs,
  doubleAttackReason,
  findingOf,
  type GridRepetitions,
  ofGrid,
  toleranceWindowMs,
  usableRepetitions,
} from '@isochron/core/analysis';
import { dangerSpots, expectedNotes, headlineBpm, shortestIntervalMs } from '@isochron/core/material';
import type { Take } from '@isochron/core/schema';
import { useMemo } from 'react';
import { useTakesBefore } from '../../../api/queries/takes';
import { Part } from '../../../app/Page';
import { useDescribe } from '../../../app/use-describe';
import { DeviationHistogram } from '../../../charts/DeviationHistogram';
import { PositionProfile } from '../../../charts/PositionProfile';
import { signed, tempoWords } from '../../../words';
import { SpotDrills } from './SpotDrills';

const LISTED_LINKS = 3;
const LISTED_HABITS = 3;

const between = (low: number | null, high: number | null) =>
  low === null || high === null ? '' : ` (${signed(low)} to ${signed(high)})`;

/** What a take's repetitions of one grid say together: a finding in one sentence, then what it rests on. */
export const AcrossPart = ({ take, played }: { take: Take; played: GridRepetitions }) => {
  const say = useDescribe();
  const { grid, repetitions } = played;
  const before = useTakesBefore(take);
  const across = useMemo(() => acrossRepetitions(played, take.withoutClick), [played, take.withoutClick]);
  const alike = useMemo(() => ofGrid([take, ...before], grid), [take, before, grid]);
  // What is the same every time shows in many repetitions: those of earlier days count as well.
  const pooled = useMemo(
    () => (before.length > 0 ? acrossRepetitions(alike, take.withoutClick) : across),
    [before, alike, take.withoutClick, across],
  );
  const awkward = useMemo(() => awkwardInArcs(alike), [alike]);
  const usable = usableRepetitions(repetitions);
  const habits = useMemo(
    () =>
      attackHabits(
        usableRepetitions(repetitions).map(({ notes }) => notes),
        grid.events,
      ),
    [repetitions, grid],
  );
  const doubledBpm = repetitions.findLast(({ measures }) => measures.doubledBpm != null)?.measures.doubledBpm;
  const deviations = usable.flatMap(({ notes }) => deviationsFromOthersMs(notes));
  const slowest = usable.reduce<(typeof usable)[number] | null>(
    (least, one) => (least && headlineBpm(least.tempo) <= headlineBpm(one.tempo) ? least : one),
    null,
  );
  const { components, profile } = across;
  const { links, labels, clockMotor } = pooled;
  const finding = findingOf(pooled);
  /** The event that the one weak step leads to, where the finding is one. */
  const spot = finding.code === 'finding-step' ? Number(finding.values.note) : null;
  const expected = spot === null ? undefined : dangerSpots(grid, take.goalBpm).find(({ index }) => index === spot);
  const isStraight = take.drills.every(({ method, also }) => method.id === 'straight' && !also);
  return (
    <>
      <Text fontFamily="heading" fontSize="24px" lineHeight="1.3" maxWidth="60ch" marginTop="16px" data-testid="finding">
        {say(finding)}
      </Text>
      {awkward && (
        <Text fontSize="18px" maxWidth="70ch" data-testid="awkward">
          {say(awkwardReason(awkward))}
        </Text>
      )}
      {pooled.count > across.count && (
        <Text color="quiet" fontSize="16px">
          From {pooled.count} repetitions, those of the takes before this one among them.
        </Text>
      )}
      {expected && (
        <Text color="quiet" fontSize="16px">
          It was to be expected there: {say(expected.why)}
        </Text>
      )}
      {habits.slice(0, LISTED_HABITS).map((habit) => (
        <Text key={`${habit.kind}/${habit.index}`} fontSize="18px" maxWidth="70ch" data-testid="attack-habit">
          {say(attackHabitReason(habit))}
        </Text>
      ))}
      {doubledBpm != null && <Text fontSize="18px">{say(doubleAttackReason(doubledBpm))}</Text>}
      {spot !== null && isStraight && <SpotDrills take={take} grid={grid} index={spot} />}
      {usable.length > 0 && (
        <Part title="Note by note">
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
              {clockMotor.fits ? '' : '; the model fits them badly'}.
            </Text>
          )}
        </Part>
      )}
      {deviations.length > 0 && slowest && (
        <Part title="All notes together" onScreen>
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
