import { parseReadingsSheet, sheetHeadings, type SheetColumns } from '@ample-crane/core';
import { Button, Typography } from '@mui/material';
import { useEffect, useMemo, useState } from 'react';
import { useWatch } from 'react-hook-form';
import { answered, server } from '../api/client.ts';
import { FileButton } from '../fields/FileButton.tsx';
import { Choice } from '../fields/Choice.tsx';
import { asOptions, AskText, AskTick, Form, useDraft } from '../fields/index.ts';
import { Row } from '../parts/index.ts';
import { useLot } from './queries.ts';
import { useWoodFiling } from './useWoodFiling.ts';

const PROBLEMS_SHOWN = 4;

/** A whole sheet of readings, pasted or uploaded; headings that say nothing by themselves are asked for once. */
export function SheetForm(props: {
  lot: string;
  meter: string;
  depth: 'shell' | 'core';
  woodTemperatureC: number | null;
}) {
  const { lot, meter, depth, woodTemperatureC } = props;
  const { data } = useLot(lot);
  const { perform, busy, refusal } = useWoodFiling();
  const draft = useDraft(`sheet of ${lot}`, { sheet: '', goodRowsOnly: false });
  const [sheet, goodRowsOnly] = useWatch({ control: draft.form.control, name: ['sheet', 'goodRowsOnly'] });
  const [columns, setColumns] = useState<SheetColumns | null>(null);
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
  const submit = async (asked: { sheet: string; goodRowsOnly: boolean }): Promise<boolean> => {
    const filed = await perform(
      (by) =>
        answered(
          server.POST('/api/lots/{code}/sheet', {
            params: { path: { code: lot } },
            body: { by, ...asked, meter, depth, woodTemperatureC, ...(columns ? { columns } : {}) },
          }),
        ),
      (answer) => (answer.repeated ? answer.sentence : `Filed. ${answer.sentence}`),
    );
    if (filed) setColumns(null);
    return filed !== null;
  };
  const pick = (name: keyof SheetColumns, label: string) => (
    <Choice
      label={label}
      value={columns?.[name] ?? ''}
      onChange={(value) =>
        setColumns({
          ...{ reading: '', position: null, temperature: null },
          ...columns,
          [name]: value === '' && name !== 'reading' ? null : value,
        })
      }
      options={asOptions(headings)}
      none="(none)"
      width={150}
    />
  );
  const good = parsed?.readings.length ?? 0;
  const bad = parsed?.problems ?? [];
  return (
    <Form draft={draft} refusal={refusal} style={{ marginTop: 16 }} onFile={submit}>
      <Typography variant="h3" sx={{ mb: 1 }}>
        Or a whole sheet
      </Typography>
      <AskText
        name="sheet"
        label="CSV, or pasted cells"
        placeholder={'board,reading\n1,8.1\n2,7,9'}
        most={6}
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
        <AskTick name="goodRowsOnly" label={`File the ${good} good rows, leave out the rest`} />
      )}
      <Row style={{ marginTop: 6 }}>
        <FileButton
          words="Upload a CSV"
          accept=".csv,text/csv,text/plain"
          onFile={(file) => void file.text().then((text) => draft.form.setValue('sheet', text))}
        />
        <Button type="submit" disabled={busy || good === 0 || (bad.length > 0 && !goodRowsOnly)}>
          File the sheet
        </Button>
      </Row>
    </Form>
  );
}
