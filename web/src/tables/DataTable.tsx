import { count } from '@ample-crane/core';
import { Box, Typography, useMediaQuery } from '@mui/material';
import {
  DataGrid,
  gridFilteredSortedRowEntriesSelector,
  GridPagination,
  useGridApiContext,
  useGridSelector,
} from '@mui/x-data-grid';
import { useMemo } from 'react';
import { Cards } from './Cards.tsx';
import { useUnits } from '../shared/units.ts';
import { columnIn, FEW, firstSort, gridColumns, sumWords, type Column } from './column.ts';
import { remember, remembered } from './remembered.ts';
import { TableBar } from './TableBar.tsx';

/** Rows of one page: the grid draws those that are seen, and no more than these at once. */
const PAGE = 100;

interface Props<Row> {
  /** By which its columns and order are remembered, and its file is called. */
  name: string;
  /** What it lists, for who hears it. */
  label: string;
  /** One of its rows: 'blank'. */
  noun: string;
  /** Its plural, where that is not made by an s. */
  many?: string;
  rows: readonly Row[];
  rowKey: (row: Row) => string | number;
  columns: readonly Column<Row>[];
  /** What is said where there is no row. */
  empty: string;
  /** Sorted by it at first, downwards where it begins with '-'. */
  sortedBy?: string;
  /** Rows that want somebody. */
  attention?: (row: Row) => boolean;
  /** Height at most, CSS. */
  tallest?: string;
}

declare module '@mui/x-data-grid' {
  interface FooterPropsOverrides {
    noun: string;
    many: string | undefined;
    columns: readonly Column<never>[];
  }
  interface ToolbarPropsOverrides {
    name: string;
    label: string;
    searched: boolean;
  }
}

/**
 * A list that can grow: sorted, filtered and searched, its columns shown or hidden and remembered in this browser, worked by keyboard,
 * with sums below and taken along as CSV or on paper. On a phone each row is a card.
 */
export function DataTable<Row extends object>(props: Props<Row>) {
  const { name, label, noun, many, rows, rowKey, empty, sortedBy, attention } = props;
  const units = useUnits();
  const columns = useMemo(
    () => props.columns.map((column) => columnIn(column, units)),
    [props.columns, units],
  );
  const phone = useMediaQuery('(max-width: 600px)');
  const drawn = useMemo(() => gridColumns(columns, rows), [columns, rows]);
  const kept = useMemo(() => remembered(name), [name]);
  const hidden = Object.fromEntries(columns.filter((one) => one.hidden).map(({ key }) => [key, false]));
  const first = firstSort(sortedBy);
  if (rows.length === 0) return <Typography color="textSecondary">{empty}</Typography>;
  if (phone) return <Cards {...{ label, noun, many, rows, rowKey, columns, sortedBy }} />;
  return (
    <Box
      sx={{
        display: 'flex',
        flexDirection: 'column',
        maxHeight: props.tallest ?? 'max(360px, 62dvh)',
        minWidth: 0,
        '@media print': { maxHeight: 'none' },
      }}
    >
      <DataGrid
        label={label}
        rows={rows}
        columns={drawn}
        getRowId={rowKey}
        getRowHeight={() => 'auto'}
        getRowClassName={({ row }) => (attention?.(row) ? 'wants' : '')}
        columnHeaderHeight={34}
        disableRowSelectionOnClick
        disableColumnMenu
        ignoreDiacritics
        pageSizeOptions={[PAGE]}
        hideFooter={rows.length <= FEW && !columns.some((column) => column.sum)}
        initialState={{
          pagination: { paginationModel: { pageSize: PAGE } },
          columns: { columnVisibilityModel: { ...hidden, ...kept.columns } },
          sorting: { sortModel: kept.sort ?? (first ? [first] : []) },
        }}
        onColumnVisibilityModelChange={(model) => remember(name, { columns: model })}
        onSortModelChange={(model) => remember(name, { sort: model })}
        showToolbar
        slots={{ toolbar: TableBar, footer: Foot }}
        slotProps={{
          toolbar: { name, label, searched: rows.length > FEW },
          footer: { noun, many, columns },
        }}
        localeText={{ noResultsOverlayLabel: 'Nothing fits what is asked for.' }}
      />
    </Box>
  );
}

/** How many there are, or of how many what is asked for leaves; the sums over them; pages where there are more than one. */
function Foot({
  noun,
  many,
  columns,
}: {
  noun: string;
  many: string | undefined;
  columns: readonly Column<never>[];
}) {
  const grid = useGridApiContext();
  const left = useGridSelector(grid, gridFilteredSortedRowEntriesSelector);
  const all = grid.current.getRowsCount();
  const sums = sumWords(
    columns,
    left.map(({ model }) => model as never),
  );
  return (
    <Box
      role="status"
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        gap: '4px 18px',
        alignItems: 'center',
        pt: '6px',
        fontSize: 13,
      }}
    >
      <span>
        {left.length < all ? `${left.length} of ${count(all, noun, many)}` : count(all, noun, many)}
      </span>
      {sums.map((words) => (
        <strong key={words}>{words}</strong>
      ))}
      {left.length > PAGE && <GridPagination />}
    </Box>
  );
}
