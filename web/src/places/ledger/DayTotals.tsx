import { totals } from '@isochron/core/planning';
import { dayAt, dayIndex, type Practice } from '@isochron/core/schema';
import { createColumnHelper } from '@tanstack/react-table';
import { DataTable } from '../../app/DataTable';

/** What was played in a number of days. */
interface Span {
  name: string;
  slowS: number;
  fastS: number;
  withoutClickS: number;
  repetitions: number;
  clean: number;
}

const minutes = (seconds: number): number => Math.round(seconds / 60);

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

/** A span of days with everything in it together. */
const spanOf = (name: string, days: Practice['days'], from: string, to: string): Span =>
  totals(
    days.filter(({ day }) => from <= day && day <= to),
    'week',
  ).reduce<Span>(
    (sum, one) => ({
      name,
      slowS: sum.slowS + one.slowS,
      fastS: sum.fastS + one.fastS,
      withoutClickS: sum.withoutClickS + one.withoutClickS,
      repetitions: sum.repetitions + one.repetitions,
      clean: sum.clean + one.clean,
    }),
    { name, slowS: 0, fastS: 0, withoutClickS: 0, repetitions: 0, clean: 0 },
  );

/** How much was played on a day, in the seven and in the thirty days that end with it: slow and fast, with a click and without. */
export const DayTotals = ({ days, day }: { days: Practice['days']; day: string }) => {
  const before = (count: number) => dayAt(dayIndex(day) - count + 1);
  const rows = [
    spanOf('This day', days, day, day),
    spanOf('Seven days to it', days, before(7), day),
    spanOf('Thirty days to it', days, before(30), day),
  ];
  return <DataTable label="How much was played" rows={rows} columns={COLUMNS} />;
};
