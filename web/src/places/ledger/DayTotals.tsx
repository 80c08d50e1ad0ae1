import { totalOf } from '@isochron/core/planning';
import { dayAt, dayIndex, type Practice } from '@isochron/core/schema';
import { createColumnHelper } from '@tanstack/react-table';
import { DataTable } from '../../app/DataTable';
import { minutes } from '../../words';

/** What was played in a number of days. */
type Span = ReturnType<typeof totalOf> & { name: string };

/** Minutes of two kinds, the second of them as it is read and the first what is left of the whole. */
const split = (allS: number, secondS: number): string => `${minutes(allS) - minutes(secondS)} : ${minutes(secondS)}`;

const column = createColumnHelper<Span>();
const COLUMNS = [
  column.accessor('name', { header: 'Days', enableSorting: false }),
  column.accessor(({ slowS, fastS }) => slowS + fastS, {
    id: 'all',
    header: 'Minutes',
    enableSorting: false,
    cell: ({ getValue }) => minutes(getValue()),
  }),
  column.display({
    id: 'slow',
    header: 'Slow : fast',
    cell: ({ row: { original } }) => split(original.slowS + original.fastS, original.fastS),
  }),
  column.display({
    id: 'click',
    header: 'With click : without',
    cell: ({ row: { original } }) => split(original.slowS + original.fastS, original.withoutClickS),
  }),
  column.display({
    id: 'repetitions',
    header: 'Repetitions',
    cell: ({ row: { original } }) => `${original.repetitions}, ${original.clean} clean`,
  }),
];

/** How much was played on a day, in the seven and in the thirty days that end with it: slow and fast, with a click and without. */
export const DayTotals = ({ days, day }: { days: Practice['days']; day: string }) => {
  const span = (name: string, count: number): Span => {
    const from = dayAt(dayIndex(day) - count + 1);
    return { name, ...totalOf(days.filter((one) => from <= one.day && one.day <= day)) };
  };
  const rows = [span('This day', 1), span('Seven days to it', 7), span('Thirty days to it', 30)];
  return <DataTable label="How much was played" rows={rows} columns={COLUMNS} />;
};
