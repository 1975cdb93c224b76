import { parseReadingsSheet, sheetHeadings, type SheetColumns } from '@ample-crane/core';
import { Button, Checkbox, FormControlLabel, MenuItem, TextField, Typography } from '@mui/material';
import { useEffect, useMemo, useState } from 'react';
import { answered, server } from '../api/client.ts';
import { FileButton } from '../fields/FileButton.tsx';
import { Form } from '../fields/Form.tsx';
import { Row } from '../parts/index.ts';
import { useLot } from './queries.ts';
import { Refused } from '../devices/Refused.tsx';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { useWoodFiling } from './useWoodFiling.ts';

const PROBLEMS_SHOWN = 4;
const NONE = '(none)';

/** A whole sheet of readings, pasted or uploaded; headings that say nothing by themselves are asked for once. */
export function SheetForm(props: {
  lot: string;
  meter: string;
  depth: 'shell' | 'core';
  woodTemperatureC: number | null;
}) {
  const { lot, meter, depth, woodTemperatureC } = props;
  const { data } = useLot(lot);
  const { perform, busy, refused } = useWoodFiling();
  const [sheet, setSheet] = useState('');
  const [columns, setColumns] = useState<SheetColumns | null>(null);
  const [goodRowsOnly, setGoodRowsOnly] = useState(false);
  const quantity = data?.state.boards.length ?? 0;
  const headings = useMemo(() => (sheet.trim() === '' ? [] : sheetHeadings(sheet)), [sheet]);
  const parsed = useMemo(
    () =>
      sheet.trim() === '' ? null : parseReadingsSheet(sheet, { quantity, ...(columns ? { columns } : {}) }),
    [sheet, quantity, columns],
  );
  const unnamed = parsed?.problems.some(({ code }) => code === 'no-readings-column') ?? false;
  const key = headings.join('\n');
  useEffect(() => {
    if (!unnamed) return;
    let stale = false;
    void answered(server.POST('/api/sheet-columns', { body: { headings: key.split('\n') } })).then(
      ({ columns: remembered }) => {
        if (!stale && remembered) setColumns(remembered);
      },
    );
    return () => {
      stale = true;
    };
  }, [unnamed, key]);
  const submit = async (): Promise<void> => {
    const filed = await perform(
      (by) =>
        answered(
          server.POST('/api/lots/{code}/sheet', {
            params: { path: { code: lot } },
            body: {
              by,
              sheet,
              meter,
              depth,
              woodTemperatureC,
              goodRowsOnly,
              ...(columns ? { columns } : {}),
            },
          }),
        ),
      (answer) => (answer.repeated ? answer.sentence : `Filed. ${answer.sentence}`),
    );
    if (filed) {
      setSheet(unlessTypedSince(sheet));
      setColumns(null);
    }
  };
  const pick = (name: keyof SheetColumns, label: string) => (
    <TextField
      select
      label={label}
      value={columns?.[name] ?? NONE}
      onChange={(event) => {
        const value = event.target.value === NONE ? null : event.target.value;
        setColumns({
          reading: '',
          position: null,
          temperature: null,
          ...columns,
          [name]: value ?? (name === 'reading' ? '' : null),
        });
      }}
      sx={{ minWidth: 130 }}
    >
      {[NONE, ...headings].map((heading) => (
        <MenuItem key={heading} value={heading}>
          {heading}
        </MenuItem>
      ))}
    </TextField>
  );
  const good = parsed?.readings.length ?? 0;
  const bad = parsed?.problems ?? [];
  return (
    <Form style={{ marginTop: 16 }} onFile={submit}>
      <Typography variant="h3">Or a whole sheet</Typography>
      <TextField
        label="CSV, or pasted cells"
        value={sheet}
        onChange={(event) => setSheet(event.target.value)}
        multiline
        minRows={2}
        maxRows={6}
        fullWidth
        placeholder={'board,reading\n1,8.1\n2,7,9'}
        sx={{ mt: 1 }}
      />
      {(unnamed || columns) && (
        <Row style={{ marginTop: 10 }}>
          {pick('reading', 'Reading is in')}
          {pick('position', 'Board is in')}
          {pick('temperature', 'Wood °C is in')}
        </Row>
      )}
      {parsed && (
        <Typography role="status" style={{ color: bad.length > 0 ? 'var(--oxblood)' : undefined }}>
          {good} good {good === 1 ? 'row' : 'rows'}
          {bad.slice(0, PROBLEMS_SHOWN).map((p) => `; row ${p.row}, ${p.column}: ${p.message}`)}
          {bad.length > PROBLEMS_SHOWN && `; and ${bad.length - PROBLEMS_SHOWN} more`}
        </Typography>
      )}
      {bad.length > 0 && good > 0 && (
        <FormControlLabel
          control={
            <Checkbox checked={goodRowsOnly} onChange={(event) => setGoodRowsOnly(event.target.checked)} />
          }
          label={`File the ${good} good rows, leave out the rest`}
        />
      )}
      <Row style={{ marginTop: 6 }}>
        <FileButton
          words="Upload a CSV"
          accept=".csv,text/csv,text/plain"
          onFile={(file) => void file.text().then(setSheet)}
        />
        <Button type="submit" disabled={busy || good === 0 || (bad.length > 0 && !goodRowsOnly)}>
          File the sheet
        </Button>
      </Row>
      <Refused words={refused} />
    </Form>
  );
}
