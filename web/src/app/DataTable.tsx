import { Box, chakra, Table, Text } from '@chakra-ui/react';
import {
  type ColumnDef,
  flexRender,
  functionalUpdate,
  getCoreRowModel,
  getSortedRowModel,
  type SortingState,
  useReactTable,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';

interface Props<Row> {
  /** What the table shows, for those who cannot see it. */
  label: string;
  rows: readonly Row[];
  // biome-ignore lint/suspicious/noExplicitAny: each column has values of its own kind.
  columns: readonly ColumnDef<Row, any>[];
  firstSorting?: SortingState;
  /** What is said where there is nothing. */
  empty?: string;
  /** For rows that come in pages and in order already; left out, the table has all rows and sorts them itself. */
  paged?: {
    sorting: SortingState;
    onSort(sorting: SortingState): void;
    /** How many rows there are in all. */
    total: number;
    /** The end of what is there comes into view. */
    onEnd(): void;
  };
}

const cell = { paddingY: '7px', paddingX: '10px', fontSize: '16px', borderColor: 'rule', background: 'transparent' } as const;
const ROW_PX = 41;
/** Longer tables scroll in a box of their own and draw only what is seen. */
const DRAWN_WHOLE = 60;
/** More is asked for this many rows before the end. */
const END_ROWS = 30;

const SortButton = chakra('button', {
  base: { display: 'inline-flex', alignItems: 'center', gap: '4px', color: 'quiet', fontWeight: '400', cursor: 'pointer' },
});
const SORT_SIGNS = { asc: ArrowUp, desc: ArrowDown } as const;
const ARIA_SORT = { asc: 'ascending', desc: 'descending' } as const;

/** A table of the house: sorted by its heads, long ones drawn in part. */
export const DataTable = <Row,>({ label, rows, columns, firstSorting = [], empty, paged }: Props<Row>) => {
  const [ownSorting, setOwnSorting] = useState(firstSorting);
  const sorting = paged?.sorting ?? ownSorting;
  const box = useRef<HTMLDivElement>(null);
  const table = useReactTable({
    data: rows as Row[],
    columns: columns as (typeof columns)[number][],
    state: { sorting },
    onSortingChange: (change) => (paged?.onSort ?? setOwnSorting)(functionalUpdate(change, sorting)),
    manualSorting: paged !== undefined,
    enableSortingRemoval: paged === undefined,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const all = table.getRowModel().rows;
  const isLong = all.length > DRAWN_WHOLE;
  const virtual = useVirtualizer({
    count: all.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
    enabled: isLong,
  });
  const items = virtual.getVirtualItems();
  const seen = isLong ? items.flatMap(({ index }) => all[index] ?? []) : all;
  const above = isLong ? (items[0]?.start ?? 0) : 0;
  const below = isLong ? virtual.getTotalSize() - (items.at(-1)?.end ?? 0) : 0;
  const lastSeen = isLong ? (items.at(-1)?.index ?? 0) : all.length - 1;
  const isAtEnd = paged !== undefined && all.length > 0 && all.length < paged.total && lastSeen >= all.length - 1 - END_ROWS;
  const onEnd = paged?.onEnd;
  useEffect(() => {
    if (isAtEnd) onEnd?.();
  }, [isAtEnd, onEnd]);
  if (all.length === 0 && empty) return <Text>{empty}</Text>;
  return (
    <Box
      ref={box}
      overflow="auto"
      maxHeight={isLong ? '640px' : undefined}
      tabIndex={0}
      role="region"
      aria-label={label}
      position="relative"
    >
      <Table.Root size="sm" background="transparent" aria-rowcount={(paged?.total ?? all.length) + 1}>
        <Table.Header position={isLong ? 'sticky' : undefined} top={0} background="page" zIndex={1}>
          {table.getHeaderGroups().map((group) => (
            <Table.Row key={group.id} background="transparent">
              {group.headers.map(({ id, column, getContext }) => {
                const sorted = column.getIsSorted();
                const Sign = sorted && SORT_SIGNS[sorted];
                return (
                  <Table.ColumnHeader
                    key={id}
                    {...cell}
                    color="quiet"
                    fontWeight="400"
                    aria-sort={sorted ? ARIA_SORT[sorted] : undefined}
                  >
                    {column.getCanSort() ? (
                      <SortButton type="button" onClick={column.getToggleSortingHandler()}>
                        {flexRender(column.columnDef.header, getContext())}
                        {Sign && <Sign size={14} aria-hidden />}
                      </SortButton>
                    ) : (
                      flexRender(column.columnDef.header, getContext())
                    )}
                  </Table.ColumnHeader>
                );
              })}
            </Table.Row>
          ))}
        </Table.Header>
        <Table.Body>
          {above > 0 && <tr style={{ height: above }} aria-hidden />}
          {seen.map((row) => (
            <Table.Row key={row.id} background="transparent" aria-rowindex={row.index + 2}>
              {row.getVisibleCells().map(({ id, column, getContext }) => (
                <Table.Cell key={id} {...cell}>
                  {flexRender(column.columnDef.cell, getContext())}
                </Table.Cell>
              ))}
            </Table.Row>
          ))}
          {below > 0 && <tr style={{ height: below }} aria-hidden />}
        </Table.Body>
      </Table.Root>
    </Box>
  );
};
