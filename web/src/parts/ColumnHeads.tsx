import { TableCell, TableHead, TableRow } from '@mui/material';

/** The heads of a small table's columns, by name. */
export function ColumnHeads({ names }: { names: readonly string[] }) {
  return (
    <TableHead>
      <TableRow>
        {names.map((name) => (
          <TableCell key={name} scope="col">
            {name}
          </TableCell>
        ))}
      </TableRow>
    </TableHead>
  );
}
