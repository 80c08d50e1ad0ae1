import { Table } from '@chakra-ui/react';

/** The head of a table of the Ledger: a name over each column, spaced as its cells are. */
export const TableHead = ({ names, cell }: { names: readonly string[]; cell: Table.ColumnHeaderProps }) => (
  <Table.Header>
    <Table.Row background="transparent">
      {names.map((name) => (
        <Table.ColumnHeader key={name} {...cell} color="quiet" fontWeight="400">
          {name}
        </Table.ColumnHeader>
      ))}
    </Table.Row>
  </Table.Header>
);
