import { blankMoisturePct, latestByBoard } from '@ample-crane/core';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useFloor } from '../api/queries.ts';
import { sayDate, sayTime } from '../shared/time.ts';
import { BoardStack, type BoardMark, type StackBoard } from '../devices/BoardStack.tsx';
import { CutForm } from './CutForm.tsx';
import { useDryingView } from './DryingPanel.tsx';
import { Movement } from './Movement.tsx';
import { useLot, useRooms, type LotDetail } from './queries.ts';
import { Refused } from '../devices/Refused.tsx';
import { SortForm } from './SortForm.tsx';
import { useWoodFiling } from './useWoodFiling.ts';
import { pct, toneOf } from './words.ts';

export default function LotPage() {
  const { code = '' } = useParams();
  const { data: lot, error } = useLot(code);
  const { data: floor } = useFloor();
  if (!lot || !floor)
    return <p className="title">{error ? `${error.message}. Press 1 for the wood room.` : 'Opening…'}</p>;
  return <LotView lot={lot} zone={floor.zone} />;
}

/** One lot: its verdict and date first, the chart as proof, then its boards, its room, and what was done. */
function LotView({ lot, zone }: { lot: LotDetail; zone: string }) {
  const { state, drying, judged } = lot;
  const { data: rooms = [] } = useRooms();
  const view = useDryingView({
    drying,
    rooms,
    zone,
    sentence: lot.sentence,
    tone: toneOf(judged.judgement.verdict),
  });
  const stacked = state.boards.some((board) => board.status === 'stacked');
  return (
    <>
      <div className="title">
        <h1>Lot {state.code}</h1>
        <span className="quiet">
          {state.species}, {state.thicknessMm} mm, {state.boards.length} boards, {state.boardFeet} board feet
          · {state.dryness} · ends {state.endsSealed ? 'sealed' : 'not sealed'} · {state.supplier} · received{' '}
          {sayDate(state.receivedMs, zone)} · {state.room}
        </span>
      </div>
      <div className="columns">
        <div className="stack">
          {stacked && view.verdict}
          {!stacked && (
            <p className="panel" style={{ fontWeight: 700 }}>
              {lot.sentence}
            </p>
          )}
          {(lot.papersMissing || state.papers) && <Papers lot={lot} />}
          {stacked && view.chart}
          {state.blanks.length > 0 && <Blanks lot={lot} />}
        </div>
        <div className="stack">
          <Boards lot={lot} />
          {stacked && view.whatIf}
          {judged.judgement.count > 0 && stacked && (
            <Movement
              species={state.species}
              nowPct={judged.judgement.meanPct}
              gatePct={(drying.window.lowPct + drying.window.highPct) / 2}
            />
          )}
          {!lot.usedUp && <SortForm key={state.code} lot={state} />}
          <Move lot={lot} />
        </div>
        <div style={{ gridColumn: '1 / -1' }}>
          <Entries lot={lot} zone={zone} />
        </div>
      </div>
    </>
  );
}

function Papers({ lot }: { lot: LotDetail }) {
  const { fileLot, busy, refused } = useWoodFiling();
  const [reference, setReference] = useState('');
  if (lot.state.papers) return <p className="panel">Papers with this lot: {lot.state.papers}.</p>;
  return (
    <section className="panel" aria-label="Papers">
      <p style={{ fontWeight: 700, color: 'var(--oxblood)' }}>
        {lot.state.species} needs papers and none are noted: it will not be cut without them.
      </p>
      <div className="row" style={{ marginTop: 8 }}>
        <TextField
          label="Reference of the papers"
          value={reference}
          onChange={(event) => setReference(event.target.value)}
        />
        <Button
          disabled={busy || reference.trim() === ''}
          onClick={() => void fileLot(lot.state.code, { type: 'papers', reference: reference.trim() })}
        >
          Note them
        </Button>
      </div>
      <Refused words={refused} />
    </section>
  );
}

function markOf(lot: LotDetail, number: number): BoardMark {
  const board = lot.state.boards.find((candidate) => candidate.number === number);
  if (!board || board.status !== 'stacked')
    return board && board.status !== 'stacked' ? board.status : 'unread';
  if (lot.judged.failing.includes(number)) return 'fail';
  return lot.judged.passing.includes(number) ? 'pass' : 'unread';
}

/** The stack by its last readings, and the decisions: send all to cut, those that pass, or others past the gate for a reason. */
function Boards({ lot }: { lot: LotDetail }) {
  const { fileLot, busy, refused } = useWoodFiling();
  const [because, setBecause] = useState('');
  const { state, judged } = lot;
  const latest = latestByBoard(judged.readings);
  const boards = state.boards
    .map(({ number }): StackBoard => ({
      number,
      valuePct: latest.get(number)?.correctedPct ?? null,
      mark: markOf(lot, number),
    }))
    .toSorted((a, b) => rank(a) - rank(b) || (a.valuePct ?? 99) - (b.valuePct ?? 99) || a.number - b.number);
  const stacked = state.boards.filter((board) => board.status === 'stacked').map(({ number }) => number);
  const { passing } = judged;
  const sendToCut = (which: number[], reason?: string) =>
    void fileLot(state.code, { type: 'to-cut', boards: which, ...(reason ? { because: reason } : {}) });
  return (
    <section className="panel" aria-label="Boards">
      <h2>
        Boards{' '}
        <span className="quiet smallhead">
          by last reading{stacked.length > 0 && ` · ${passing.length} of ${stacked.length} would pass now`}
        </span>
      </h2>
      <BoardStack boards={boards} />
      {stacked.length > 0 && (
        <>
          <div className="row" style={{ marginTop: 10 }}>
            <Button
              variant="contained"
              disabled={busy || passing.length === 0}
              onClick={() => sendToCut(passing)}
            >
              Send {passing.length === stacked.length ? `all ${stacked.length}` : passing.length} to cut
            </Button>
            <Button component={Link} to={`/wood/read/${state.code}`}>
              Read {judged.readNext.length}: {judged.readNext.slice(0, 4).join(', ')}
              {judged.readNext.length > 4 && '…'}
            </Button>
          </div>
          <p className="quiet" style={{ marginTop: 6 }}>
            What is not sent stays in the stack and dries on.
          </p>
          {passing.length < stacked.length && (
            <div className="row" style={{ marginTop: 8 }}>
              <TextField
                label="Reason to pass the gate by"
                value={because}
                onChange={(event) => setBecause(event.target.value)}
                sx={{ flex: 1 }}
              />
              <Button
                disabled={busy || because.trim() === ''}
                onClick={() => sendToCut(stacked, because.trim())}
              >
                Send all {stacked.length} to cut
              </Button>
            </div>
          )}
        </>
      )}
      {state.overrides.map(({ atMs, what, because: why }) => (
        <p key={atMs} style={{ color: 'var(--oxblood)', marginTop: 6 }}>
          Rule passed by: {what}, because {why}.
        </p>
      ))}
      <Refused words={refused} />
      {state.boards.some((board) => board.status === 'to-cut') && <CutForm lot={state} />}
    </section>
  );
}

/** Passing boards first, then those to wait for, then what has left the stack. */
function rank({ mark }: StackBoard): number {
  return { pass: 0, fail: 1, unread: 2, 'to-cut': 3, cut: 4, scrapped: 5 }[mark];
}

function Blanks({ lot }: { lot: LotDetail }) {
  const { fileLot, busy, refused } = useWoodFiling();
  const { state, judged } = lot;
  return (
    <section className="panel" aria-label="Blanks">
      <h2>
        Blanks{' '}
        <span className="quiet smallhead">
          {state.blanks.filter((blank) => blank.status === 'stock').length} in stock of {state.blanks.length}
        </span>
      </h2>
      <div style={{ maxHeight: 320, overflow: 'auto' }}>
        <table>
          <thead>
            <tr>
              {['blank', 'for', 'weight', 'figure', 'moisture', 'matched with', 'where'].map((head) => (
                <th key={head} scope="col">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {state.blanks.map((blank) => (
              <tr key={blank.id}>
                <td>{blank.id}</td>
                <td>{blank.kind}</td>
                <td>{blank.weightKg.toFixed(2)} kg</td>
                <td>{blank.grade}</td>
                <td>{blankMoisturePct(judged.readings, blank.board)?.toFixed(1) ?? '–'} %</td>
                <td>{blank.matchedWith ?? ''}</td>
                <td>
                  {blank.status === 'taken' ? (
                    <>
                      <Link to={`/batch/${blank.batch ?? ''}`}>{blank.batch}</Link>{' '}
                      <button
                        type="button"
                        className="plainbutton"
                        disabled={busy}
                        onClick={() => void fileLot(state.code, { type: 'give-back', blanks: [blank.id] })}
                      >
                        Give back
                      </button>
                    </>
                  ) : blank.status === 'stock' ? (
                    'in stock'
                  ) : (
                    'scrapped'
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <Refused words={refused} />
    </section>
  );
}

function Move({ lot }: { lot: LotDetail }) {
  const { data: rooms = [] } = useRooms();
  const { fileLot, busy, refused } = useWoodFiling();
  const others = rooms.filter((room) => room.holdsWood && room.room !== lot.state.room);
  if (lot.usedUp) return null;
  return (
    <section className="panel" aria-label="Move the lot">
      <h2>Move it to another room</h2>
      <div className="row" style={{ marginTop: 6 }}>
        {others.map((room) => (
          <Button
            key={room.room}
            disabled={busy}
            onClick={() => void fileLot(lot.state.code, { type: 'move', room: room.room })}
          >
            {room.room}
            {room.emcPct !== null && `, EMC ${pct(room.emcPct)} %`}
          </Button>
        ))}
      </div>
      <Refused words={refused} />
    </section>
  );
}

function Entries({ lot, zone }: { lot: LotDetail; zone: string }) {
  const { fileLot, busy, refused } = useWoodFiling();
  const { entries, drying, state } = lot;
  const last = entries.find(({ voided, type }) => !voided && type !== 'undo');
  return (
    <section className="panel" aria-label="What was done">
      <div className="row" style={{ justifyContent: 'space-between' }}>
        <h2>What was done</h2>
        <span className="row">
          <a href={`/api/lots/${state.code}/readings.csv`}>Readings as CSV</a>
          {last && (
            <Button disabled={busy} onClick={() => void fileLot(state.code, { type: 'undo', seq: last.seq })}>
              Take the last back
            </Button>
          )}
        </span>
      </div>
      <Refused words={refused} />
      <table>
        <tbody>
          {entries.slice(0, 30).map(({ seq, atMs, byName, words, voided }) => (
            <tr
              key={seq}
              style={voided ? { textDecoration: 'line-through', color: 'var(--umber)' } : undefined}
            >
              <td>{sayTime(atMs, zone, drying.nowMs)}</td>
              <td>{words}</td>
              <td className="quiet">{byName}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
