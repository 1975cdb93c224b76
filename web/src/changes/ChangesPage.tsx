import { Table, TableBody, TableCell, TableContainer, TableHead, TableRow } from '@mui/material';
import { count } from '@ample-crane/core';
import { useFloor, useSetup } from '../api/queries.ts';
import { sayClock } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { useChanges } from './queries.ts';
import { afterWords, beforeWords, changeTitle, type Change } from './words.ts';

/** Who changed what everything is judged by: gate, rooms, run rules, species, machines, stations; with before and after. */
export default function ChangesPage() {
  const { data: floor } = useFloor();
  const { data: changes } = useChanges();
  if (!changes || !floor) return <p className="title">Opening…</p>;
  const { zone } = floor;
  const [newest] = changes;
  return (
    <>
      <div className="title">
        <h1>Changed settings</h1>
      </div>
      <div style={{ padding: '6px 16px 16px' }}>
        <Verdict
          tone="good"
          sentence={
            newest
              ? `${count(changes.length, 'change')}; the last on ${sayClock(newest.atMs, zone)}.`
              : 'Nothing was changed since the works were set up.'
          }
        >
          <p className="quiet">
            How dry lumber must be, the air of rooms, run rules, species, machines, stations and weights that
            count: who changed them, and how they stood before. Routes, recipes and programs keep their own
            revisions.
          </p>
        </Verdict>
        {changes.length > 0 && <Changes changes={changes} zone={zone} />}
      </div>
    </>
  );
}

function Changes({ changes, zone }: { changes: readonly Change[]; zone: string }) {
  const { data: setup } = useSetup();
  const nameOf = (by: string): string => setup?.people.find(({ code }) => code === by)?.name ?? by;
  return (
    <section className="panel" aria-label="Changes">
      <h2>Newest first</h2>
      <TableContainer>
        <Table size="small">
          <TableHead>
            <TableRow>
              <TableCell>when, who</TableCell>
              <TableCell>what</TableCell>
              <TableCell>before, and since</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {changes.map((change) => (
              <TableRow key={change.id}>
                <TableCell>
                  {sayClock(change.atMs, zone)}
                  <div className="quiet">{nameOf(change.by)}</div>
                </TableCell>
                <TableCell>{changeTitle(change)}</TableCell>
                <TableCell>
                  <div className="quiet">{beforeWords(change) ?? 'not there'}</div>
                  <strong>{afterWords(change) ?? 'taken out'}</strong>
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </TableContainer>
    </section>
  );
}
