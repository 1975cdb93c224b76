import { CALL_KINDS, type CallKind } from '@ample-crane/core';
import { Box, Button, Stack, Typography } from '@mui/material';
import { lazy, Suspense, useState } from 'react';
import { usePeople, type Board, type Floor } from '../api/queries.ts';
import { CallCard } from '../devices/CallCard.tsx';
import { sayClock } from '../shared/time.ts';
import { useLines } from '../shared/useLines.ts';
import { Refused } from '../parts/index.ts';
import { useAnswer } from './useAnswer.ts';
import { TourOffer } from './TourOffer.tsx';
import './Calls.css';

const AnswerCall = lazy(() => import('./AnswerCall.tsx'));

type Call = Board['calls'][number];

/** So many are seen; the others stand by kind behind a touch. */
const MOST_SEEN = 10;

/** A kind in words: of one, and of more. */
const KINDS: Record<CallKind, [string, string]> = {
  'hold-over': ['hold is over', 'holds are over'],
  'gate-failed': ['moisture gate', 'moisture gates'],
  late: ['delay', 'delays'],
  'dry-station': ['station runs dry', 'stations run dry'],
  constraint: ['constraint', 'constraints'],
  'room-drift': ['room', 'rooms'],
  sensor: ['sensor', 'sensors'],
  meeting: ['meeting', 'meetings'],
  dimension: ['dimension', 'dimensions'],
  cutter: ['cutter change', 'cutter changes'],
  machine: ['machine', 'machines'],
  booth: ['booth', 'booths'],
  material: ['material', 'materials'],
  panel: ['test panel', 'test panels'],
  'outside-limits': ['rack outside limits', 'racks outside limits'],
  'second-look': ['rack that has settled', 'racks that have settled'],
  kit: ['part for kits', 'parts for kits'],
  missing: ['thing is missing', 'things are missing'],
  backup: ['backup', 'backups'],
};

/** What wants the manager, most costly first: the first in full, the others by kind, what was put off behind a touch. */
export function Calls({
  board: { calls, putOff },
  floor,
  nowMs,
}: {
  board: Pick<Board, 'calls' | 'putOff'>;
  floor: Pick<Floor, 'zone' | 'shift'>;
  nowMs: number;
}) {
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const [answering, setAnswering] = useState<Call | null>(null);
  const filing = useLines();
  const people = usePeople();
  const card = (call: Call) => (
    <CallCard key={call.id} {...call} {...filing} onAnswer={() => setAnswering(call)}>
      {call.answer?.to != null &&
        `${people.nameOf(call.answer.to)} has it, from ${people.nameOf(call.answer.by)}${call.answer.reason ? `: ${call.answer.reason}` : ''}.`}
    </CallCard>
  );
  const rest = calls.slice(MOST_SEEN);
  const kinds = CALL_KINDS.filter((kind) => rest.some((call) => call.kind === kind));
  const turn = (kind: string): void => {
    const next = new Set(opened);
    if (!next.delete(kind)) next.add(kind);
    setOpened(next);
  };
  return (
    <aside className="calls" aria-label="Calls">
      <TourOffer />
      <Typography variant="h2">
        Calls{' '}
        <Typography component="span" color="text.secondary" sx={{ fontSize: 14 }}>
          {callsWords(calls)}
        </Typography>
      </Typography>
      {calls.slice(0, MOST_SEEN).map(card)}
      {kinds.length > 0 && (
        <Box role="group" aria-label="Less costly" sx={{ marginTop: '16px' }}>
          <Typography color="text.secondary" sx={{ fontSize: 13, marginBottom: '4px' }}>
            Less costly:
          </Typography>
          <Stack direction="row" useFlexGap sx={{ flexWrap: 'wrap', gap: '6px' }}>
            {kinds.map((kind) => {
              const n = rest.filter((call) => call.kind === kind).length;
              return (
                <Button key={kind} size="small" aria-expanded={opened.has(kind)} onClick={() => turn(kind)}>
                  {n} {KINDS[kind][n === 1 ? 0 : 1]}
                </Button>
              );
            })}
          </Stack>
          {rest.filter(({ kind }) => opened.has(kind)).map(card)}
        </Box>
      )}
      {putOff.length > 0 && (
        <Box role="group" aria-label="Put off" sx={{ marginTop: '16px' }}>
          <Button size="small" aria-expanded={opened.has(PUT_OFF)} onClick={() => turn(PUT_OFF)}>
            {putOff.length} put off
          </Button>
          {opened.has(PUT_OFF) &&
            putOff.map((call) => (
              <PutOff key={call.id} call={call} zone={floor.zone} nameOf={people.nameOf} />
            ))}
        </Box>
      )}
      {answering && (
        <Suspense fallback={null}>
          <AnswerCall
            call={answering}
            people={people.options}
            {...{ floor, nowMs }}
            onClose={() => setAnswering(null)}
          />
        </Suspense>
      )}
    </aside>
  );
}

const PUT_OFF = 'put off';

/** A call that somebody put off, and the way back. */
function PutOff({ call, zone, nameOf }: { call: Call; zone: string; nameOf: (code: string) => string }) {
  const { say, busy, refused } = useAnswer();
  const { answer } = call;
  return (
    <Box component="article" sx={{ marginTop: '10px', fontSize: 13 }}>
      <strong>{call.title}</strong>
      {answer?.untilMs != null && (
        <Typography color="text.secondary" sx={{ fontSize: 13 }}>
          until {sayClock(answer.untilMs, zone)}, by {nameOf(answer.by)}: {answer.reason}
        </Typography>
      )}
      <Button size="small" disabled={busy} onClick={() => void say(call, { reason: '' }, 'brought back')}>
        Bring it back
      </Button>
      <Refused words={refused} />
    </Box>
  );
}

/** How many decisions, and how many things stand behind them. */
function callsWords(calls: readonly Call[]): string {
  if (calls.length === 0) return 'nothing wants you now';
  const behind = calls.reduce((sum, { items }) => sum + Math.max(1, items.length), 0);
  const decisions = calls.length === 1 ? '1 decision' : `${calls.length} decisions`;
  return behind > calls.length ? `${decisions} on ${behind} racks and things` : decisions;
}
