import { count } from '@ample-crane/core';
import { Box, Button, Paper, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { FEW, firstSort, shownOf, type Column } from './column.ts';

/** Cards drawn at once on a phone. */
const AT_ONCE = 30;

/** The rows of a table as cards, one below the other: what the first column says on top, the rest by its head. */
export function Cards<Row extends object>(props: {
  label: string;
  noun: string;
  many?: string | undefined;
  rows: readonly Row[];
  rowKey: (row: Row) => string | number;
  columns: readonly Column<Row>[];
  /** Downwards where it begins with '-'. */
  sortedBy?: string | undefined;
}) {
  const { label, noun, many, rows, rowKey, columns } = props;
  const [wanted, setWanted] = useState('');
  const [most, setMost] = useState(AT_ONCE);
  const [title, ...rest] = columns.filter((column) => !column.hidden);
  const words = wanted.trim().toLowerCase().split(/\s+/);
  const found = sorted(rows, columns, props.sortedBy).filter((row) => {
    const text = columns
      .map((column) => String(column.of(row) ?? ''))
      .join(' ')
      .toLowerCase();
    return words.every((word) => text.includes(word));
  });
  if (!title) return null;
  return (
    <Box sx={{ display: 'grid', gap: '8px' }}>
      {rows.length > FEW && (
        <TextField
          label={`Look for in ${count(rows.length, noun, many)}`}
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
      )}
      <Box role="list" aria-label={label} sx={{ display: 'grid', gap: '8px' }}>
        {found.slice(0, most).map((row) => (
          <Paper key={rowKey(row)} role="listitem" variant="outlined" sx={{ padding: '8px 10px' }}>
            <Typography component="div" sx={{ fontWeight: 700 }}>
              {shownOf(title, row)}
            </Typography>
            {rest.map((column) => {
              const shown = shownOf(column, row);
              if (shown === null || shown === '' || shown === undefined || shown === false) return null;
              return (
                <Box key={column.key} sx={{ display: 'grid', gridTemplateColumns: '34% 1fr', gap: '8px' }}>
                  <Typography component="span" color="textSecondary">
                    {column.head}
                  </Typography>
                  <Box sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>{shown}</Box>
                </Box>
              );
            })}
          </Paper>
        ))}
      </Box>
      {found.length === 0 && <Typography color="textSecondary">Nothing fits what is asked for.</Typography>}
      {found.length > most && (
        <Button onClick={() => setMost(most + AT_ONCE)}>{`${found.length - most} more`}</Button>
      )}
    </Box>
  );
}

function sorted<Row>(
  rows: readonly Row[],
  columns: readonly Column<Row>[],
  by: string | undefined,
): readonly Row[] {
  const first = firstSort(by);
  const column = columns.find(({ key }) => key === first?.field);
  if (!column) return rows;
  const sign = first?.sort === 'desc' ? -1 : 1;
  return rows.toSorted((a, b) => {
    const [left, right] = [column.of(a) ?? '', column.of(b) ?? ''];
    return sign * (left < right ? -1 : Number(left > right));
  });
}
