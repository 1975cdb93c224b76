import { Box, Button, TextField } from '@mui/material';
import {
  ColumnsPanelTrigger,
  ExportCsv,
  ExportPrint,
  FilterPanelTrigger,
  QuickFilter,
  QuickFilterControl,
  Toolbar,
  type GridSlotProps,
} from '@mui/x-data-grid';

/** Above a table: what to look for in it, its columns, filter, file and print. */
export function TableBar({ name, label, searched }: GridSlotProps['toolbar']) {
  return (
    <Toolbar
      render={
        <Box
          aria-label={`Search, columns and files of ${label}`}
          sx={{
            display: 'flex',
            flexWrap: 'wrap',
            gap: '8px',
            alignItems: 'center',
            pb: '8px',
            '@media print': { display: 'none' },
          }}
        />
      }
    >
      {searched && (
        <QuickFilter expanded>
          <QuickFilterControl
            render={({ ref, slotProps: _, ...control }, state) => (
              <TextField
                {...control}
                inputRef={ref}
                label="Look for"
                value={state.value}
                slotProps={{ htmlInput: { 'aria-label': `Look for in ${label}` } }}
                sx={{ flex: '1 1 110px', maxWidth: 220, mr: 'auto' }}
              />
            )}
          />
        </QuickFilter>
      )}
      {searched && <FilterPanelTrigger render={<Button size="small">Filter</Button>} />}
      <ColumnsPanelTrigger render={<Button size="small">Columns</Button>} />
      <ExportCsv
        render={<Button size="small">CSV</Button>}
        options={{ fileName: name, utf8WithBom: true, escapeFormulas: true }}
      />
      <ExportPrint
        render={<Button size="small">Print</Button>}
        options={{ fileName: label, hideToolbar: true }}
      />
    </Toolbar>
  );
}
