import { Box, Flex, Text } from '@chakra-ui/react';
import { type CleanDay, changedSince, goalRange, totals, weekOf } from '@isochron/core/planning';
import type { PassageSummary } from '@isochron/core/schema';
import { dayAt, dayIndex, localDay, now, type Practice } from '@isochron/core/schema';
import { group } from 'd3-array';
import { useMemo, useState } from 'react';
import { usePractice, usePracticeConfig, usePracticeTotals } from '../../api/queries/practice';
import { DayField } from '../../app/DayField';
import { Part } from '../../app/Page';
import { useDates } from '../../app/use-dates';
import { useDescribe } from '../../app/use-describe';
import { WeekBars } from '../../charts/WeekBars';
import { minutes } from '../../words';

/** Bars are of weeks; more than this many are cut to the newest. */
const WEEKS = 52;
const MONTH_DAYS = 30;
const SPOTS = 6;

/** The weak spots of each week, newest first: the steps that stood out, with how often. */
const spotsByWeek = ({ weak }: Practice): { week: string; words: string }[] => {
  const weeks = group(weak, ({ day }) => weekOf(day));
  return [...weeks]
    .sort(([a], [b]) => b.localeCompare(a))
    .slice(0, SPOTS)
    .map(([week, spots]) => {
      const steps = [...group(spots, ({ spot }) => spot.note)].sort(([, a], [, b]) => b.length - a.length);
      const words = steps.map(([note, own]) => {
        const ms = own.reduce((sum, { spot }) => sum + spot.ms, 0) / own.length;
        const often = own.length > 1 ? `, in ${own.length} takes` : '';
        return `${note} to ${note + 1} (${Math.abs(ms).toFixed(0)} ms too ${ms > 0 ? 'long' : 'short'}${often})`;
      });
      return { week, words: words.join('; ') };
    });
};

/** A passage over weeks: when its goal may be clean, what changed since a date, minutes slow and fast, and its weak spots. */
export const WeeksPart = ({ passage, history }: { passage: PassageSummary; history: readonly CleanDay[] }) => {
  const say = useDescribe();
  const { day, short } = useDates();
  const { config, change } = usePracticeConfig(passage);
  const today = localDay(now());
  const { practice } = usePractice({ passageId: passage.id, every: true, from: dayAt(dayIndex(today) - 7 * WEEKS) });
  const all = usePracticeTotals(config);
  const [from, setFrom] = useState(dayAt(dayIndex(today) - MONTH_DAYS));
  const [to, setTo] = useState(today);
  const range = useMemo(() => goalRange(history, config.goalBpm, today), [history, config.goalBpm, today]);
  const weeks = totals(practice.days, 'week').slice(-WEEKS);
  const spots = useMemo(() => spotsByWeek(practice), [practice]);
  const { goalDay } = config;
  const isInside = goalDay && range.from && goalDay >= range.from && (range.to === null || goalDay <= range.to);
  return (
    <>
      <Part title={`When ${config.goalBpm} may be clean`}>
        <Text fontSize="19px" maxWidth="80ch" data-testid="goal-range">
          {range.from && (range.to ? `Between ${day(range.from)} and ${day(range.to)}. ` : `Not before ${day(range.from)}. `)}
          {say(range.why)}
          {goalDay &&
            range.from &&
            ` Your day, ${day(goalDay)}, lies ${isInside ? 'within that' : goalDay < range.from ? 'before that: a slower goal, or another day, may be kinder' : 'after that'}.`}
        </Text>
        <Box className="not-printed" marginTop="8px">
          <DayField
            label="A day that you have in mind"
            value={goalDay ?? ''}
            onChange={(value) => change({ goalDay: value || null })}
          />
        </Box>
      </Part>
      <Part title="What changed">
        <Flex gap="14px 34px" flexWrap="wrap" marginBottom="8px" className="not-printed">
          <DayField label="From" value={from} onChange={(value) => value && setFrom(value)} />
          <DayField label="To" value={to} onChange={(value) => value && setTo(value)} />
        </Flex>
        <Text fontSize="19px" maxWidth="80ch" data-testid="changed">
          {from < to
            ? `${day(from)} to ${day(to)}. ${say(changedSince(history, from, to))}`
            : 'The first day must lie before the second.'}
        </Text>
      </Part>
      <Part title="Minutes a week">
        {weeks.length > 0 && <WeekBars totals={weeks} title={`Minutes a week on ${passage.title}`} />}
        {all && (
          <Text data-testid="passage-totals">
            In all {all.repetitions} repetitions, {all.clean} of them clean; {minutes(all.playedS)} min from downbeat to
            downbeat, {minutes(all.playedS) - minutes(all.fastS)} min slow and {minutes(all.fastS)} min near the edge or above
            it.
          </Text>
        )}
      </Part>
      {spots.length > 0 && (
        <Part title="Weak steps by week">
          {spots.map(({ week, words }) => (
            <Text key={week}>
              Week of {short(week)}: {words}
            </Text>
          ))}
        </Part>
      )}
    </>
  );
};
