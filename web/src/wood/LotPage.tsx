import { blankMoisturePct, latestByBoard } from '@ample-crane/core';
import { Box, Button, Link as MuiLink, Stack, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { useFloor } from '../api/queries.ts';
import { sayDate } from '../shared/time.ts';
import { BoardStack, type BoardMark, type StackBoard } from '../devices/BoardStack.tsx';
import { Columns, Opening, Page, Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { moment, type Column } from '../tables/column.ts';
import { AskWords, Form, useDraft } from '../fields/index.ts';
import { CutForm } from './CutForm.tsx';
import { useDryingView } from './DryingPanel.tsx';
import { Movement } from './Movement.tsx';
import { useLot, useRooms, type LotDetail } from './queries.ts';
import { SortForm } from './SortForm.tsx';
import { useWoodFiling } from './useWoodFiling.ts';
import { pct, toneOf } from './words.ts';

export default function LotPage() {
  const { code = '' } = useParams();
  const { data: lot, error } = useLot(code);
  const { data: floor } = useFloor();
  if (!lot || !floor) return <Opening error={error} instead="Press 1 for the wood room." />;
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
    <Page
      title={<>Lot {state.code}</>}
      tabs={
        <Quiet>
          {state.species}, {state.thicknessMm} mm, {state.boards.length} boards, {state.boardFeet} board feet
          · {state.dryness} · ends {state.endsSealed ? 'sealed' : 'not sealed'} · {state.supplier} · received{' '}
          {sayDate(state.receivedMs, zone)} · {state.room}
        </Quiet>
      }
    >
      <Columns>
        <Stack>
          {stacked && view.verdict}
          {!stacked && (
            <Panel>
              <Typography sx={{ fontWeight: 700 }}>{lot.sentence}</Typography>
            </Panel>
          )}
          {(lot.papersMissing || state.papers) && <Papers lot={lot} />}
          {stacked && view.chart}
          {state.blanks.length > 0 && <Blanks lot={lot} />}
        </Stack>
        <Stack>
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
        </Stack>
        <Box style={{ gridColumn: '1 / -1' }}>
          <Entries lot={lot} zone={zone} />
        </Box>
      </Columns>
    </Page>
  );
}

function Papers({ lot }: { lot: LotDetail }) {
  const { fileLot, busy, refusal } = useWoodFiling();
  const draft = useDraft(`papers of ${lot.state.code}`, { reference: '' });
  if (lot.state.papers) return <Panel>Papers with this lot: {lot.state.papers}.</Panel>;
  return (
    <Panel label="Papers">
      <Typography style={{ fontWeight: 700, color: 'var(--oxblood)' }}>
        {lot.state.species} needs papers and none are noted: it will not be cut without them.
      </Typography>
      <Form
        draft={draft}
        refusal={refusal}
        lay="row"
        style={{ marginTop: 8 }}
        onFile={({ reference }) => fileLot(lot.state.code, { type: 'papers', reference: reference.trim() })}
      >
        <AskWords
          name="reference"
          label="Reference of the papers"
          needed="as it stands on them"
          width={220}
        />
        <Button type="submit" disabled={busy}>
          Note them
        </Button>
      </Form>
    </Panel>
  );
}

function markOf(lot: LotDetail, number: number): BoardMark {
  const board = lot.state.boards.find((candidate) => candidate.number === number);
  if (!board || board.status !== 'stacked')
    return board && board.status !== 'stacked' ? board.status : 'unread';
  if (lot.judged.failing.includes(number)) return 'fail';
  return lot.judged.passing.includes(number) ? 'pass' : 'unread';
}

/** All that are left, past the gate, for a reason that stays with the lot. */
function PastGate({ lot, stacked }: { lot: LotDetail; stacked: number[] }) {
  const { fileLot, busy, refusal } = useWoodFiling();
  const { code } = lot.state;
  const draft = useDraft(`past the gate ${code}`, { because: '' });
  return (
    <Form
      draft={draft}
      refusal={refusal}
      lay="row"
      style={{ marginTop: 8 }}
      onFile={({ because }) => fileLot(code, { type: 'to-cut', boards: stacked, because: because.trim() })}
    >
      <AskWords
        name="because"
        label="Reason to pass the gate by"
        needed="it stays with the lot"
        width={260}
      />
      <Button type="submit" disabled={busy}>
        Send all {stacked.length} to cut
      </Button>
    </Form>
  );
}

/** The stack by its last readings, and the decisions: send all to cut, those that pass, or others past the gate for a reason. */
function Boards({ lot }: { lot: LotDetail }) {
  const { fileLot, busy, refused } = useWoodFiling();
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
  return (
    <Panel label="Boards">
      <Typography variant="h2">
        Boards{' '}
        <Quiet small>
          by last reading{stacked.length > 0 && ` · ${passing.length} of ${stacked.length} would pass now`}
        </Quiet>
      </Typography>
      <BoardStack boards={boards} />
      {stacked.length > 0 && (
        <>
          <Row style={{ marginTop: 10 }}>
            <Button
              variant="contained"
              disabled={busy || passing.length === 0}
              onClick={() => void fileLot(state.code, { type: 'to-cut', boards: passing })}
            >
              Send {passing.length === stacked.length ? `all ${stacked.length}` : passing.length} to cut
            </Button>
            <Button component={Link} to={`/wood/read/${state.code}`}>
              Read {judged.readNext.length}: {judged.readNext.slice(0, 4).join(', ')}
              {judged.readNext.length > 4 && '…'}
            </Button>
          </Row>
          <Typography color="textSecondary" style={{ marginTop: 6 }}>
            What is not sent stays in the stack and dries on.
          </Typography>
          {passing.length < stacked.length && <PastGate lot={lot} stacked={stacked} />}
        </>
      )}
      {state.overrides.map(({ atMs, what, because: why }) => (
        <Typography key={atMs} style={{ color: 'var(--oxblood)', marginTop: 6 }}>
          Rule passed by: {what}, because {why}.
        </Typography>
      ))}
      <Refused words={refused} />
      {state.boards.some((board) => board.status === 'to-cut') && <CutForm lot={state} />}
    </Panel>
  );
}

/** Passing boards first, then those to wait for, then what has left the stack. */
function rank({ mark }: StackBoard): number {
  return { pass: 0, fail: 1, unread: 2, 'to-cut': 3, cut: 4, scrapped: 5 }[mark];
}

type Blank = LotDetail['state']['blanks'][number];

const whereWords = ({ status, batch }: Blank): string =>
  status === 'taken' ? (batch ?? '') : status === 'stock' ? 'in stock' : 'scrapped';

function Blanks({ lot }: { lot: LotDetail }) {
  const { fileLot, busy, refused } = useWoodFiling();
  const { state, judged } = lot;
  const columns: Column<Blank>[] = [
    { key: 'id', head: 'blank', of: ({ id }) => id },
    { key: 'kind', head: 'for', of: ({ kind }) => kind, choice: true, least: 60, share: 0.5 },
    { key: 'weight', head: 'weight, kg', of: ({ weightKg }) => weightKg, digits: 2, sum: true },
    { key: 'grade', head: 'figure', of: ({ grade }) => grade, choice: true },
    {
      key: 'moisture',
      head: 'moisture, %',
      of: ({ board }) => blankMoisturePct(judged.readings, board) ?? null,
      digits: 1,
    },
    { key: 'matched', head: 'matched with', of: ({ matchedWith }) => matchedWith ?? null },
    {
      key: 'where',
      head: 'where',
      of: whereWords,
      show: (blank) =>
        blank.status === 'taken' ? (
          <Row>
            <Link to={`/batch/${blank.batch ?? ''}`}>{blank.batch}</Link>
            <Button
              size="small"
              disabled={busy}
              onClick={() => void fileLot(state.code, { type: 'give-back', blanks: [blank.id] })}
            >
              Give back
            </Button>
          </Row>
        ) : (
          whereWords(blank)
        ),
      least: 150,
    },
  ];
  return (
    <Panel label="Blanks">
      <Typography variant="h2">
        Blanks{' '}
        <Quiet small>
          {state.blanks.filter((blank) => blank.status === 'stock').length} in stock of {state.blanks.length}
        </Quiet>
      </Typography>
      <DataTable
        name="lot-blanks"
        label="Blanks of this lot"
        noun="blank"
        rows={state.blanks}
        rowKey={({ id }) => id}
        columns={columns}
        empty=""
        tallest="360px"
      />
      <Refused words={refused} />
    </Panel>
  );
}

function Move({ lot }: { lot: LotDetail }) {
  const { data: rooms = [] } = useRooms();
  const { fileLot, busy, refused } = useWoodFiling();
  const others = rooms.filter((room) => room.holdsWood && room.room !== lot.state.room);
  if (lot.usedUp) return null;
  return (
    <Panel label="Move the lot">
      <Typography variant="h2">Move it to another room</Typography>
      <Row style={{ marginTop: 6 }}>
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
      </Row>
      <Refused words={refused} />
    </Panel>
  );
}

const entryColumns = (zone: string): Column<LotDetail['entries'][number]>[] => [
  moment({ key: 'at', head: 'when', ms: ({ atMs }) => atMs, zone }),
  {
    key: 'words',
    head: 'what',
    of: ({ words, voided }) => (voided ? `taken back: ${words}` : words),
    show: ({ words, voided }) => (
      <Box component="span" sx={voided ? { textDecoration: 'line-through', color: 'text.secondary' } : {}}>
        {words}
      </Box>
    ),
    share: 2.4,
    least: 140,
  },
  { key: 'by', head: 'who', of: ({ byName }) => byName, choice: true },
];

function Entries({ lot, zone }: { lot: LotDetail; zone: string }) {
  const { fileLot, busy, refused } = useWoodFiling();
  const { entries, state } = lot;
  const last = entries.find(({ voided, type }) => !voided && type !== 'undo');
  return (
    <Panel label="What was done">
      <Row style={{ justifyContent: 'space-between' }}>
        <Typography variant="h2">What was done</Typography>
        <Row component="span">
          <MuiLink href={`/api/lots/${state.code}/readings.csv`}>Readings as CSV</MuiLink>
          {last && (
            <Button disabled={busy} onClick={() => void fileLot(state.code, { type: 'undo', seq: last.seq })}>
              Take the last back
            </Button>
          )}
        </Row>
      </Row>
      <Refused words={refused} />
      <DataTable
        name="lot-entries"
        label="What was done"
        noun="entry"
        many="entries"
        rows={entries}
        rowKey={({ seq }) => seq}
        columns={entryColumns(zone)}
        empty=""
        tallest="420px"
      />
    </Panel>
  );
}
