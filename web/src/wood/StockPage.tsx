import { count } from '@ample-crane/core';
import { ListItem, Stack, Typography } from '@mui/material';
import { Link } from 'react-router';
import { useStage } from '../api/queries.ts';
import { Columns, Opening, Page, Panel, PlainList } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import type { Column } from '../tables/column.ts';
import { useBlanks, useLots, type StockBlankView } from './queries.ts';
import { WoodNav } from './WoodNav.tsx';

const COLUMNS: Column<StockBlankView>[] = [
  {
    key: 'id',
    head: 'blank',
    of: ({ id }) => id,
    show: ({ id, lot }) => <Link to={`/wood/lots/${lot}`}>{id}</Link>,
  },
  { key: 'kind', head: 'for', of: ({ kind }) => kind, choice: true, least: 60, share: 0.5 },
  { key: 'species', head: 'wood', of: ({ species }) => species, choice: true, least: 130 },
  {
    key: 'size',
    head: 'size',
    of: ({ lengthMm, widthMm, thicknessMm }) => `${lengthMm} × ${widthMm} × ${thicknessMm} mm`,
    least: 140,
  },
  { key: 'weight', head: 'weight, kg', of: ({ weightKg }) => weightKg, digits: 2, sum: true },
  { key: 'grade', head: 'figure', of: ({ grade }) => grade, choice: true },
  {
    key: 'moisture',
    head: 'moisture, %',
    of: ({ moisturePct }) => moisturePct,
    show: ({ moisturePct }) => (moisturePct === null ? 'never read' : moisturePct.toFixed(1)),
    digits: 1,
  },
  { key: 'matched', head: 'matched with', of: ({ matchedWith }) => matchedWith ?? null },
];

/** Blanks in stock, by what they could become; and the racks that want some. */
export default function StockPage() {
  const { data: blanks, error } = useBlanks();
  const { data: lots = [] } = useLots();
  const { data: rows } = useStage('wood');
  if (!blanks || !rows) return <Opening error={error} />;
  const resting = rows.flatMap(({ holds }) => holds).filter(({ hold }) => hold.rule === 'moisture');
  return (
    <Page title="Stock" tabs={<WoodNav />}>
      <Columns>
        <Panel label="Blanks in stock">
          <Typography sx={{ fontWeight: 700, mb: '10px' }}>{summaryOf(blanks)}</Typography>
          <DataTable
            name="blanks"
            label="Blanks in stock"
            noun="blank"
            rows={blanks}
            rowKey={({ id }) => id}
            columns={COLUMNS}
            empty=""
          />
        </Panel>
        <Stack>
          <Panel label="Racks that want blanks">
            <Typography variant="h2">Choose blanks for</Typography>
            {resting.length === 0 && (
              <Typography color="textSecondary">No rack waits for its blanks.</Typography>
            )}
            <PlainList>
              {resting.map(({ batch, model, quantity }) => (
                <ListItem disablePadding key={batch}>
                  <Link to={`/wood/choose/${batch}`}>
                    {batch}, {model}, {count(quantity, 'piece')}
                  </Link>
                </ListItem>
              ))}
            </PlainList>
          </Panel>
          <Panel label="Boards in stock">
            <Typography variant="h2">Boards</Typography>
            <PlainList>
              {lots
                .filter(({ stacked, toCut }) => stacked + toCut > 0)
                .map(({ code, species: wood, thicknessMm, stacked, toCut }) => (
                  <ListItem disablePadding key={code}>
                    <Link to={`/wood/lots/${code}`}>{code}</Link> {wood}, {thicknessMm} mm:{' '}
                    {stacked > 0 && `${stacked} drying`}
                    {stacked > 0 && toCut > 0 && ', '}
                    {toCut > 0 && `${toCut} to cut`}
                  </ListItem>
                ))}
            </PlainList>
          </Panel>
        </Stack>
      </Columns>
    </Page>
  );
}

function summaryOf(blanks: readonly StockBlankView[]): string {
  if (blanks.length === 0) return 'No blank is in stock.';
  const kg = blanks.map(({ weightKg }) => weightKg);
  const pairs = Math.floor(blanks.filter(({ matchedWith }) => matchedWith !== null).length / 2);
  return `${count(blanks.length, 'blank')}, ${Math.min(...kg).toFixed(2)} to ${Math.max(...kg).toFixed(2)} kg${pairs > 0 ? `, ${count(pairs, 'matched pair')} among them` : ''}.`;
}
