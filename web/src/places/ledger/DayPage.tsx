import { Box, Flex, Grid, Link, Text } from '@chakra-ui/react';
import { mostOftenWeak, weekOf } from '@isochron/core/planning';
import { dayAt, dayIndex, localDay, makeReason, now, type TakeListItem } from '@isochron/core/schema';
import { createColumnHelper } from '@tanstack/react-table';
import { Link as RouterLink, useNavigate, useParams } from 'react-router';
import { usePassages } from '../../api/queries/passages';
import { usePractice } from '../../api/queries/practice';
import { useTakesOfDay } from '../../api/queries/takes';
import { DataTable } from '../../app/DataTable';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { useDates } from '../../app/use-dates';
import { useDescribe } from '../../app/use-describe';
import { usePageKeys } from '../../app/use-page-keys';
import { bpm, minutes } from '../../words';
import { DayTotals } from './DayTotals';

/** So many days stand side by side: the week of the day that is shown, and the one before it. */
const IN_SIGHT = 14;
/** The longest span that is told of a day. */
const MONTH_DAYS = 30;
const A_DAY = /^\d{4}-\d\d-\d\d$/;

const column = createColumnHelper<TakeListItem>();
const tempo = (value: number | null | undefined) => (value == null ? '–' : bpm(value));

const useColumns = () => {
  const { time } = useDates();
  return [
    column.accessor('startedAt', {
      header: 'At',
      cell: ({ row: { original } }) => (
        <Link asChild color="now" textDecoration="underline">
          <RouterLink to={`/ledger/${original.id}`}>{time(original.startedAt)}</RouterLink>
        </Link>
      ),
    }),
    column.accessor('title', { header: 'Passage' }),
    column.accessor('playedS', { header: 'Minutes', cell: ({ getValue }) => (getValue() / 60).toFixed(1) }),
    column.accessor('startBpm', { header: 'From', cell: ({ getValue }) => bpm(getValue()) }),
    column.accessor((take) => take.summary?.bestCleanBpm ?? null, {
      id: 'best',
      header: 'Best clean',
      cell: ({ getValue }) => tempo(getValue()),
    }),
    column.accessor('repetitionCount', {
      header: 'Repetitions',
      cell: ({ row: { original } }) => `${original.repetitionCount}, ${original.cleanCount} clean`,
    }),
    column.accessor('note', { header: 'Note', enableSorting: false }),
  ];
};

/** A day of the Ledger: everything that was played on it, among the days about it. */
export const DayPage = () => {
  const { day: asked = '' } = useParams();
  const today = localDay(now());
  const day = A_DAY.test(asked) && asked <= today ? asked : today;
  const navigate = useNavigate();
  const say = useDescribe();
  const { weekdayYear, weekdayShort } = useDates();
  const { passages } = usePassages();
  const columns = useColumns();
  const first = dayAt(dayIndex(weekOf(day)) - 7);
  const monthFrom = dayAt(dayIndex(day) - MONTH_DAYS + 1);
  const from = monthFrom < first ? monthFrom : first;
  const { practice, message } = usePractice({ from, to: dayAt(dayIndex(first) + IN_SIGHT - 1), every: true });
  const { takes, isLoading } = useTakesOfDay(day);
  const weak = mostOftenWeak(practice.weak.filter((one) => monthFrom <= one.day && one.day <= day));
  const weakTitle = passages.find(({ id }) => id === weak?.config.passageId)?.title;
  const goBy = (days: number) => {
    // Keys come faster than a page is drawn: the address knows already where the last one led.
    const there = window.location.pathname.split('/').at(-1) ?? '';
    const next = dayAt(dayIndex(A_DAY.test(there) ? there : day) + days);
    if (next <= today) void navigate(`/ledger/day/${next}`);
  };
  usePageKeys({
    ArrowLeft: () => goBy(-1),
    ArrowRight: () => goBy(1),
    ArrowUp: () => goBy(-7),
    ArrowDown: () => goBy(7),
  });
  const playedS = (of: string) => practice.days.filter((one) => one.day === of).reduce((sum, one) => sum + one.playedS, 0);
  return (
    <>
      <PageTitle title={weekdayYear(`${day}T12:00:00`)}>
        Left and right go a day on, up and down a week.{' '}
        <Link asChild color="now" textDecoration="underline">
          <RouterLink to="/ledger">Back to the Ledger</RouterLink>
        </Link>
      </PageTitle>
      <Notice>{message}</Notice>
      <Grid as="nav" aria-label="Days" templateColumns="repeat(7, minmax(0, 1fr))" gap="4px" maxWidth="900px">
        {Array.from({ length: IN_SIGHT }, (_, k) => {
          const one = dayAt(dayIndex(first) + k);
          const played = minutes(playedS(one));
          const words = (
            <>
              <Text as="span" display="block" fontSize={{ base: '14px', md: '15px' }}>
                {weekdayShort(`${one}T12:00:00`)}
              </Text>
              <Text as="span" display="block" fontFamily="heading" fontSize="19px">
                {played > 0 ? played : '–'}
                <Text as="span" display={{ base: 'none', md: 'inline' }}>
                  {played > 0 && ' min'}
                </Text>
              </Text>
            </>
          );
          const look = {
            paddingX: { base: '2px', md: '8px' },
            paddingY: '4px',
            borderTop: '3px solid',
            lineHeight: '1.3',
          } as const;
          return one > today ? (
            <Box key={one} {...look} borderColor="transparent" color="quiet">
              {words}
            </Box>
          ) : (
            <Box
              key={one}
              asChild
              {...look}
              borderColor={one === day ? 'now' : 'rule'}
              background={one === day ? 'band' : undefined}
            >
              <RouterLink to={`/ledger/day/${one}`} aria-current={one === day ? 'date' : undefined}>
                {words}
              </RouterLink>
            </Box>
          );
        })}
      </Grid>
      <Text color="quiet" fontSize="15px">
        Minutes of each day, from downbeat to downbeat.
      </Text>
      <Part title={takes.length === 1 ? 'One take' : `${takes.length} takes`}>
        <DataTable
          label={`Takes of ${weekdayYear(`${day}T12:00:00`)}`}
          rows={takes}
          columns={columns}
          empty={isLoading ? 'Fetching the takes …' : 'Nothing was played on this day.'}
        />
      </Part>
      <Part title="How much">
        <DayTotals days={practice.days} day={day} />
        {weak && weakTitle && (
          <Flex marginTop="10px" gap="4px 14px" flexWrap="wrap" align="baseline" fontSize="19px" data-testid="often-weak">
            {say(makeReason('often-weak', { title: weakTitle, from: weak.note, ms: weak.ms, takes: weak.takes }))}
            <Link asChild color="now" textDecoration="underline" fontSize="17px">
              <RouterLink to={`/bench/${weak.config.passageId}`}>Practise it</RouterLink>
            </Link>
          </Flex>
        )}
      </Part>
    </>
  );
};
