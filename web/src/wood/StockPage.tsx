import { count, FIGURE_GRADES } from '@ample-crane/core';
import {
  ListItem,
  MenuItem,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { useStage } from '../api/queries.ts';
import { Opening } from '../parts/Opening.tsx';
import { Columns } from '../parts/Columns.tsx';
import { Page } from '../parts/Page.tsx';
import { Panel } from '../parts/Panel.tsx';
import { PlainList } from '../parts/PlainList.tsx';
import { Row } from '../parts/Row.tsx';
import { useBlanks, useLots, type StockBlankView } from './queries.ts';
import { WoodNav } from './WoodNav.tsx';

const ALL = 'all';
const ROWS = 200;

/** Blanks in stock, by what they could become; and the racks that want some. */
export default function StockPage() {
  const { data: blanks, error } = useBlanks();
  const { data: lots = [] } = useLots();
  const { data: rows } = useStage('wood');
  const [kind, setKind] = useState(ALL);
  const [species, setSpecies] = useState(ALL);
  const [grade, setGrade] = useState(ALL);
  if (!blanks || !rows) return <Opening error={error} />;
  const shown = blanks.filter(
    (blank) =>
      (kind === ALL || blank.kind === kind) &&
      (species === ALL || blank.species === species) &&
      (grade === ALL || blank.grade === grade),
  );
  const resting = rows.flatMap(({ holds }) => holds).filter(({ hold }) => hold.rule === 'moisture');
  const pick = (label: string, value: string, set: (value: string) => void, options: readonly string[]) => (
    <TextField
      select
      label={label}
      value={value}
      onChange={(event) => set(event.target.value)}
      sx={{ minWidth: 140 }}
    >
      {[ALL, ...options].map((option) => (
        <MenuItem key={option} value={option}>
          {option}
        </MenuItem>
      ))}
    </TextField>
  );
  const unique = (of: (blank: StockBlankView) => string): string[] => [...new Set(blanks.map(of))].toSorted();
  return (
    <Page title="Stock" tabs={<WoodNav />}>
      <Columns>
        <Panel label="Blanks in stock">
          <Row>
            {pick(
              'For',
              kind,
              setKind,
              unique((b) => b.kind),
            )}
            {pick(
              'Species',
              species,
              setSpecies,
              unique((b) => b.species),
            )}
            {pick('Figure', grade, setGrade, FIGURE_GRADES)}
          </Row>
          <Typography style={{ fontWeight: 700, margin: '10px 0' }}>{summaryOf(shown)}</Typography>
          <Table>
            <TableHead>
              <TableRow>
                {['blank', 'for', 'wood', 'size, mm', 'weight', 'figure', 'moisture', 'matched with'].map(
                  (head) => (
                    <TableCell key={head} scope="col">
                      {head}
                    </TableCell>
                  ),
                )}
              </TableRow>
            </TableHead>
            <TableBody>
              {shown.slice(0, ROWS).map((blank) => (
                <TableRow key={blank.id}>
                  <TableCell>
                    <Link to={`/wood/lots/${blank.lot}`}>{blank.id}</Link>
                  </TableCell>
                  <TableCell>{blank.kind}</TableCell>
                  <TableCell>{blank.species}</TableCell>
                  <TableCell>
                    {blank.lengthMm} × {blank.widthMm} × {blank.thicknessMm}
                  </TableCell>
                  <TableCell>{blank.weightKg.toFixed(2)} kg</TableCell>
                  <TableCell>{blank.grade}</TableCell>
                  <TableCell>
                    {blank.moisturePct === null ? 'never read' : `${blank.moisturePct.toFixed(1)} %`}
                  </TableCell>
                  <TableCell>{blank.matchedWith ?? ''}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
          {shown.length > ROWS && (
            <Typography color="textSecondary">and {shown.length - ROWS} more: narrow it above.</Typography>
          )}
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
  if (blanks.length === 0) return 'No blank in stock fits that.';
  const kg = blanks.map(({ weightKg }) => weightKg);
  const pairs = blanks.filter(({ matchedWith }) => matchedWith !== null).length / 2;
  return `${count(blanks.length, 'blank')}, ${Math.min(...kg).toFixed(2)} to ${Math.max(...kg).toFixed(2)} kg${pairs > 0 ? `, ${count(Math.floor(pairs), 'matched pair')} among them` : ''}.`;
}
