import { Box, Flex, Text } from '@chakra-ui/react';
import { dayAt, dayIndex, localDay, now } from '@isochron/core/schema';
import type { Progress, TempoRange } from '@isochron/core/strategy';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { getProgress } from '../../api/client';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { Notice } from '../../app/Notice';
import { Part } from '../../app/Page';
import { useDates } from '../../app/use-dates';
import { type TimeLine, TimeLines } from '../../charts/TimeLines';
import { bpm } from '../../words';
import type { TempoPart } from '../../workers/tempos';
import { useTempos } from '../../workers/use-tempos';

/** How much of the history is shown at once, in days; all of it at first. */
const SPANS = [
  { value: '', name: 'all of it' },
  { value: '365', name: 'a year' },
  { value: '91', name: 'three months' },
  { value: '35', name: 'five weeks' },
];

const range = (one: TempoRange) => ({ value: one.bpm, low: one.low, high: one.high });

const linesOf = ({ points }: Progress): TimeLine[] => {
  const line = (
    name: string,
    look: TimeLine['look'],
    of: (point: Progress['points'][number]) => { value: number; low?: number; high?: number } | null,
  ): TimeLine => ({
    name,
    look,
    points: points.flatMap((point) => {
      const value = of(point);
      return value ? [{ at: new Date(point.from), ...value }] : [];
    }),
  });
  return [
    line('edge', 'main', ({ edge }) => edge && range(edge)),
    line('easy', 'quiet', ({ easy }) => easy && { value: easy.bpm }),
    line('best clean', 'dashed', ({ bestCleanBpm }) => (bestCleanBpm === null ? null : { value: bestCleanBpm })),
    line('came apart', 'marks', ({ broke }) => broke && range(broke)),
  ].filter((one) => one.points.length > 0);
};

/** The first and the last value of a line in words. */
const ends = ({ name, points }: TimeLine, unit: string): string => {
  const [first, last] = [points[0]?.value ?? 0, points.at(-1)?.value ?? 0];
  const said = (value: number) => (unit === 'ms' ? `${value.toFixed(1)} ms` : bpm(Math.round(value)));
  return points.length > 1 ? `${name} ${said(first)}, then ${said(last)}` : `${name} ${said(first)}`;
};

/** Easy, edge, break and best clean tempo of one part over time, and its spread at one tempo; a year, a month, or all of it. */
export const ProgressPart = ({
  passageId,
  parts,
  goalBpm,
}: {
  passageId: string;
  parts: readonly TempoPart[];
  goalBpm: number;
}) => {
  const { day } = useDates();
  const { ask, orBroken } = useTempos();
  const [place, setPlace] = useState(0);
  const [span, setSpan] = useState('');
  const [to, setTo] = useState(localDay(now()));
  const part = parts[place] ?? parts[0];
  const days = Number(span);
  const stretch = span ? { from: dayAt(dayIndex(to) - days + 1), to } : {};
  const { data, error } = useQuery({
    queryKey: ['takes', 'progress', passageId, part?.variantId, part?.sectionId, stretch],
    queryFn: async () => {
      const { variantId, sectionId } = part as TempoPart;
      const inStretches = await getProgress(passageId, { variantId, sectionId, ...stretch });
      return { ...inStretches, progress: await orBroken(ask.progress(inStretches)) };
    },
    enabled: part !== undefined,
  });
  const lines = data ? linesOf(data.progress) : [];
  const spread = data?.progress.points.flatMap(({ from, spreadMs }) =>
    spreadMs
      ? [{ at: new Date(from), value: spreadMs.value, low: spreadMs.low ?? undefined, high: spreadMs.high ?? undefined }]
      : [],
  );
  const around = data?.progress.spreadAround;
  const spreadLine: TimeLine = { name: 'spread', look: 'main', points: spread ?? [] };
  const shownDays = data && ([new Date(data.from), new Date(data.to)] as const);
  const move = (by: number) => setTo(dayAt(dayIndex(to) + by * days));
  const each = data?.periodDays === 7 ? 'week' : `${data?.periodDays} days`;
  return (
    <Part title="Over time">
      <Flex gap="14px 24px" flexWrap="wrap" align="flex-end" marginBottom="10px" className="not-printed">
        {parts.length > 1 && (
          <ChoiceField
            label="Of"
            value={String(place)}
            choices={parts.map(({ name }, k) => ({ value: String(k), name }))}
            onChange={(next) => setPlace(Number(next))}
          />
        )}
        <ChoiceField
          label="Shown"
          width="170px"
          value={span}
          choices={SPANS}
          onChange={(next) => {
            setSpan(next);
            setTo(localDay(now()));
          }}
        />
        {span && (
          <>
            <Action quiet onClick={() => move(-1)}>
              Earlier
            </Action>
            <Action quiet onClick={() => move(1)} disabled={dayIndex(to) >= dayIndex(localDay(now()))}>
              Later
            </Action>
          </>
        )}
      </Flex>
      <Notice>{error?.message}</Notice>
      {!data ? (
        !error && <Text role="status">Working it out …</Text>
      ) : lines.every(({ points }) => points.length < 2) ? (
        <Text data-testid="progress-words">
          {span
            ? `Too little from ${day(data.from)} to ${day(data.to)} to draw a line.`
            : 'Two weeks of practice make the first line.'}
        </Text>
      ) : (
        <>
          <TimeLines
            lines={lines}
            span={shownDays}
            level={{ value: goalBpm, name: `goal ${bpm(goalBpm)}` }}
            unit="bpm"
            summary={`Tempos from ${day(data.from)} to ${day(data.to)}: ${lines.map((one) => ends(one, 'bpm')).join('; ')}.`}
          />
          <Text color="quiet" fontSize="16px" maxWidth="90ch" data-testid="progress-words" className="not-printed">
            One place for each {each} with repetitions: easy is clean nine times in ten, the edge every other time; its band is
            a 90 % interval.{lines.some(({ name }) => name === 'came apart') && ' Upright strokes: where a sweep came apart.'}
          </Text>
          {around && spreadLine.points.length > 1 && (
            // One sheet holds the tempos; the spread is for the screen.
            <Box className="not-printed">
              <TimeLines
                lines={[spreadLine]}
                span={shownDays}
                unit="ms"
                margin={1}
                summary={`Spread at ${bpm(Math.round(around.lowBpm))} to ${bpm(Math.round(around.highBpm))}: ${ends(spreadLine, 'ms')}.`}
              />
              <Text color="quiet" fontSize="16px" maxWidth="90ch" data-testid="spread-words">
                Spread at the same tempo, {bpm(Math.round(around.lowBpm))} to {bpm(Math.round(around.highBpm))}, with its 95 %
                interval.
              </Text>
            </Box>
          )}
        </>
      )}
    </Part>
  );
};
