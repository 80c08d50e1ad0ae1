import { Box, Flex, Link, Text } from '@chakra-ui/react';
import { byGrid, type GridRepetitions } from '@isochron/core/analysis';
import { sameGrid } from '@isochron/core/material';
import { askedBpm } from '@isochron/core/planning';
import type { Repetition, Take } from '@isochron/core/schema';
import { pairedRepetitions } from '@isochron/core/strategy';
import { useMemo, useRef, useState } from 'react';
import { Link as RouterLink, useNavigate, useParams, useSearchParams } from 'react-router';
import { recordingAddress } from '../../api/client';
import { useTake, useTakes } from '../../api/queries/takes';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { Notice } from '../../app/Notice';
import { PageTitle } from '../../app/Page';
import { useDates } from '../../app/use-dates';
import { usePageKeys } from '../../app/use-page-keys';
import { Strip } from '../../strip/Strip';
import { bpm, estimateWords } from '../../words';

const LEAD_S = 0.15;

/** Where something is heard from: a note of a repetition of one of the two takes. */
interface Place {
  side: 0 | 1;
  note: number;
  repetition: Repetition;
}

/** The repetitions of two takes that share a grid, the most of them; null where they share none. */
const shared = (one: Take, other: Take): [GridRepetitions, GridRepetitions] | null => {
  const others = byGrid([other]);
  for (const group of byGrid([one])) {
    const same = others.find(({ grid }) => sameGrid(grid, group.grid));
    if (same) return [group, same];
  }
  return null;
};

/** The repetition whose tempo is nearest. */
const nearestTempo = (repetitions: readonly Repetition[], to: Repetition): Repetition | undefined =>
  [...repetitions].sort((a, b) => Math.abs(askedBpm(a) - askedBpm(to)) - Math.abs(askedBpm(b) - askedBpm(to)))[0];

const bestSpread = (repetitions: readonly Repetition[]) =>
  repetitions
    .flatMap(({ measures }) => measures.spreadMs ?? [])
    .reduce<Repetition['measures']['spreadMs']>((best, one) => (best && best.value <= one.value ? best : one), null);

/** So many pairs stand on one screen. */
const PAIRS = 4;

/** The rows of the strip: the repetitions of two takes by turns, and which of them each row is. */
const rowsOf = (groups: readonly [GridRepetitions, GridRepetitions]): { repetition: Repetition; side: 0 | 1 }[] =>
  pairedRepetitions(groups[0].repetitions, groups[1].repetitions, PAIRS).flatMap(({ one, other }) => [
    { repetition: one, side: 0 as const },
    { repetition: other, side: 1 as const },
  ]);

/** Two takes of one passage, row against row at the nearest tempos, and heard in turn at the same place. */
export const ComparePage = () => {
  const { takeId = '' } = useParams();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const otherId = search.get('with') ?? '';
  const first = useTake(takeId);
  const second = useTake(otherId || takeId);
  const { moment, short, time } = useDates();
  const passageId = first.take?.passageId ?? '';
  const { takes } = useTakes({ passageId, show: 'all', text: '', sort: 'startedAt', order: 'desc' });
  const audio = [useRef<HTMLAudioElement>(null), useRef<HTMLAudioElement>(null)] as const;
  const [place, setPlace] = useState<Place | null>(null);
  const pair = first.take && second.take && otherId ? ([first.take, second.take] as const) : null;
  const [one, other] = pair ?? [];
  const groups = useMemo(() => (one && other ? shared(one, other) : null), [one, other]);

  const hear = (next: Place) => {
    setPlace(next);
    const note = next.repetition.notes[next.note];
    const atS = note?.onsetS ?? note?.expectedS ?? next.repetition.downbeatS;
    audio[1 - next.side]?.current?.pause();
    const own = audio[next.side].current;
    if (!own) return;
    own.currentTime = Math.max(0, atS - LEAD_S);
    void own.play().catch(() => {});
  };
  const hearOther = () => {
    if (!place || !groups) return;
    const side = place.side === 0 ? 1 : 0;
    const repetition = nearestTempo(groups[side].repetitions, place.repetition);
    if (repetition) hear({ side, note: place.note, repetition });
  };
  const pause = () => {
    for (const one of audio) one.current?.pause();
  };
  usePageKeys({ t: hearOther, p: pause });

  const rows = useMemo(() => (groups ? rowsOf(groups) : []), [groups]);
  const days = pair?.map(({ startedAt }) => short(startedAt)) ?? [];
  const isOneDay = days[0] === days[1];
  const names = pair?.map(({ startedAt }, side) => (isOneDay ? time(startedAt) : (days[side] as string))) ?? [];

  const message = first.message || second.message;
  const title = first.take?.title ?? 'Two takes';
  return (
    <>
      <PageTitle title={`Two takes of ${title}`}>
        <Link asChild color="now" textDecoration="underline" className="not-printed">
          <RouterLink to={`/ledger/${takeId}`}>Back to the take</RouterLink>
        </Link>
      </PageTitle>
      <Notice>{message}</Notice>
      <ChoiceField
        label="Beside it"
        width="320px"
        value={otherId}
        choices={[
          { value: '', name: 'choose a take …' },
          ...takes
            .filter(({ id }) => id !== takeId)
            .map(({ id, startedAt, summary }) => ({
              value: id,
              name: `${moment(startedAt)}${summary?.bestCleanBpm ? `, clean to ${bpm(summary.bestCleanBpm)}` : ''}`,
            })),
        ]}
        onChange={(id) => navigate(`/ledger/${takeId}/beside?with=${id}`, { replace: true })}
      />
      {pair && !groups && <Notice>These two takes were not of the same notes: they cannot be laid strip against strip.</Notice>}
      {pair && groups && (
        <>
          {pair.map((take, side) => {
            const { repetitions } = groups[side as 0 | 1];
            return (
              <Text key={take.id} marginTop={side === 0 ? '12px' : 0}>
                <b>{names[side]}</b>: {repetitions.length} repetitions at {bpm(Math.min(...repetitions.map(askedBpm)))} to{' '}
                {bpm(Math.max(...repetitions.map(askedBpm)))}, clean to{' '}
                {take.summary?.bestCleanBpm ? bpm(take.summary.bestCleanBpm) : 'none'}; the steadiest has a spread of{' '}
                {estimateWords(bestSpread(repetitions), 'ms')}.{!take.hasRecording && ' It has no recording.'}
              </Text>
            );
          })}
          <Strip
            title={pair[0].title}
            grid={groups[0].grid}
            // The strip draws the last one first.
            repetitions={rows.map(({ repetition }, k) => ({ ...repetition, index: k })).reverse()}
            rowName={({ index }) => names[rows[index]?.side ?? 0] ?? ''}
            tolerance={pair[0].tolerance}
            calibrated={pair.every(({ latencyS }) => latencyS !== null)}
            onPlay={
              pair.some(({ hasRecording }) => hasRecording)
                ? (shown, timeS) => {
                    const row = rows[shown.index];
                    if (!row) return;
                    const note = row.repetition.notes.findIndex(({ onsetS, expectedS }) => (onsetS ?? expectedS) === timeS);
                    hear({ ...row, note: Math.max(0, note) });
                  }
                : undefined
            }
          />
          {pair.map(
            (take, side) =>
              take.hasRecording && (
                // biome-ignore lint/a11y/useMediaCaption: a take has no words.
                <audio key={take.id} ref={audio[side as 0 | 1]} src={recordingAddress(take.id)} preload="auto" />
              ),
          )}
        </>
      )}
      {groups && (
        <Box marginTop="16px">
          <Flex gap="12px" flexWrap="wrap">
            <Action quiet onClick={hearOther} disabled={!place}>
              The other one, from the same note (T)
            </Action>
            <Action quiet onClick={pause}>
              Pause (P)
            </Action>
          </Flex>
          <Text color="quiet" fontSize="16px" marginTop="6px">
            Repetitions are paired by the nearest tempo. Press a stroke to hear its take from there; T goes to the other take at
            the same note.
          </Text>
        </Box>
      )}
    </>
  );
};
