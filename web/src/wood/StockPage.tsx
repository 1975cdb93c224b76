import { count, FIGURE_GRADES } from '@ample-crane/core';
import { MenuItem, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { useStage } from '../api/queries.ts';
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
  if (!blanks || !rows) return <p className="title">{error?.message ?? 'Opening…'}</p>;
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
    <>
      <div className="title">
        <h1>Stock</h1>
        <WoodNav />
      </div>
      <div className="columns">
        <section className="panel" aria-label="Blanks in stock">
          <div className="row">
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
          </div>
          <p style={{ fontWeight: 700, margin: '10px 0' }}>{summaryOf(shown)}</p>
          <table>
            <thead>
              <tr>
                {['blank', 'for', 'wood', 'size, mm', 'weight', 'figure', 'moisture', 'matched with'].map(
                  (head) => (
                    <th key={head} scope="col">
                      {head}
                    </th>
                  ),
                )}
              </tr>
            </thead>
            <tbody>
              {shown.slice(0, ROWS).map((blank) => (
                <tr key={blank.id}>
                  <td>
                    <Link to={`/wood/lots/${blank.lot}`}>{blank.id}</Link>
                  </td>
                  <td>{blank.kind}</td>
                  <td>{blank.species}</td>
                  <td>
                    {blank.lengthMm} × {blank.widthMm} × {blank.thicknessMm}
                  </td>
                  <td>{blank.weightKg.toFixed(2)} kg</td>
                  <td>{blank.grade}</td>
                  <td>{blank.moisturePct === null ? 'never read' : `${blank.moisturePct.toFixed(1)} %`}</td>
                  <td>{blank.matchedWith ?? ''}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {shown.length > ROWS && <p className="quiet">and {shown.length - ROWS} more: narrow it above.</p>}
        </section>
        <div className="stack">
          <section className="panel" aria-label="Racks that want blanks">
            <h2>Choose blanks for</h2>
            {resting.length === 0 && <p className="quiet">No rack waits for its blanks.</p>}
            <ul className="plainlist">
              {resting.map(({ batch, model, quantity }) => (
                <li key={batch}>
                  <Link to={`/wood/choose/${batch}`}>
                    {batch}, {model}, {count(quantity, 'piece')}
                  </Link>
                </li>
              ))}
            </ul>
          </section>
          <section className="panel" aria-label="Boards in stock">
            <h2>Boards</h2>
            <ul className="plainlist">
              {lots
                .filter(({ stacked, toCut }) => stacked + toCut > 0)
                .map(({ code, species: wood, thicknessMm, stacked, toCut }) => (
                  <li key={code}>
                    <Link to={`/wood/lots/${code}`}>{code}</Link> {wood}, {thicknessMm} mm:{' '}
                    {stacked > 0 && `${stacked} drying`}
                    {stacked > 0 && toCut > 0 && ', '}
                    {toCut > 0 && `${toCut} to cut`}
                  </li>
                ))}
            </ul>
          </section>
        </div>
      </div>
    </>
  );
}

function summaryOf(blanks: readonly StockBlankView[]): string {
  if (blanks.length === 0) return 'No blank in stock fits that.';
  const kg = blanks.map(({ weightKg }) => weightKg);
  const pairs = blanks.filter(({ matchedWith }) => matchedWith !== null).length / 2;
  return `${count(blanks.length, 'blank')}, ${Math.min(...kg).toFixed(2)} to ${Math.max(...kg).toFixed(2)} kg${pairs > 0 ? `, ${count(Math.floor(pairs), 'matched pair')} among them` : ''}.`;
}
