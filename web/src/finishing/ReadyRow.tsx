import { Box, Button } from '@mui/material';
import { memo, useState } from 'react';
import { Link } from 'react-router';
import { fileEntries } from '../api/filing.ts';
import { useSetup } from '../api/queries.ts';
import { usePerson } from '../shared/person.ts';
import { daysAhead, lateTag } from '../shared/time.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { Ladder } from '../devices/Ladder.tsx';
import { PegRack } from '../devices/PegRack.tsx';
import { Quiet, Refused } from '../parts/index.ts';
import { AXIS_DAYS, share } from './axis.ts';
import { deedOf, type Line } from './ready.ts';
import './ReadyRow.css';

const ROW_HEIGHT = 62;

/** One group of pieces: its ladder, its sentence, its bar, and the one thing to do. */
export const ReadyRow = memo(function ReadyRow({
  line,
  scaleUm,
  zone,
  nowMs,
}: {
  line: Line;
  scaleUm: number;
  zone: string;
  nowMs: number;
}) {
  const { rack, view } = line;
  const late = lateTag(rack.dueMs, nowMs);
  const href = `/finish/rack/${rack.batch}`;
  const partial = view.positions.length < rack.quantity ? `, ${view.positions.length} of it` : '';
  return (
    <Box component="article" className="readyrow" aria-label={`${rack.batch}: ${view.title}`}>
      <Box>
        <PegRack
          code={rack.batch}
          pegs={view.positions.map(() => (view.standing === 'inHand' ? 'done' : 'todo'))}
          inverted={view.standing === 'inHand'}
          wide
          tag={late}
          late={late !== null}
          words={`${rack.model}, ${view.operationName}`}
          href={href}
        />
        <Quiet block style={{ fontSize: 13 }}>
          {rack.model}, {rack.recipeTitle ?? 'no recipe'}
          {partial}
        </Quiet>
      </Box>
      <Box>
        {view.rungs.length > 0 ? (
          <Ladder
            rungs={view.rungs.map(({ name, leftUm, progress }) => ({
              name,
              leftUm,
              progress: progress[untilOf(view)],
            }))}
            minimumUm={rack.minimumUm}
            scaleUm={scaleUm}
            height={ROW_HEIGHT}
            words={ladderWords(line)}
          />
        ) : (
          <Quiet>bare</Quiet>
        )}
      </Box>
      <Box className="what">
        <strong
          className={view.ready && view.next !== 'work' ? (view.closesMs ? 'closes' : 'ready') : undefined}
        >
          {view.title}
        </strong>
        <Quiet>
          {view.detail}
          {view.moved &&
            ` ${Math.abs(view.moved.hours).toFixed(0)} h ${view.moved.hours > 0 ? 'later' : 'sooner'} than yesterday: ${view.moved.why}.`}
          {view.recomputed && ` ${view.recomputed}`}
        </Quiet>
        {view.next !== 'work' && <Track line={line} zone={zone} nowMs={nowMs} />}
      </Box>
      <Does line={line} href={href} />
    </Box>
  );
});

/** What its rungs are measured by: what the rack waits for. */
function untilOf({ next }: Line['view']): 'recoat' | 'sand' | 'buff' {
  if (next === 'coat' || next === 'recoat') return 'recoat';
  return next === 'sand' ? 'sand' : 'buff';
}

const ladderWords = ({ rack, view }: Line): string =>
  `${rack.batch}: ${view.rungs.length} coats, ${view.buildUm.toFixed(0)} µm; ${view.rungs
    .map(({ name, progress }) => `${name} ${Math.round(100 * progress[untilOf(view)])} %`)
    .join(', ')}`;

function Track({ line: { view }, zone, nowMs }: { line: Line; zone: string; nowMs: number }) {
  const { ready, fromMs, lowMs, highMs, closesMs } = view;
  return (
    <Box className="track" aria-hidden="true">
      {daysAhead(nowMs, zone, AXIS_DAYS - 1).map(({ ms }) => (
        <span key={ms} className="day" style={{ left: `${share(ms, nowMs)}%` }} />
      ))}
      {ready && (
        <span
          className="open"
          style={{ right: closesMs === null ? 0 : `${100 - share(closesMs, nowMs)}%` }}
        />
      )}
      {!ready && fromMs !== null && (
        <span className="bar" style={{ width: `${Math.max(0.6, share(fromMs, nowMs))}%` }} />
      )}
      {!ready &&
        lowMs !== null &&
        highMs !== null &&
        highMs - lowMs > 3_600_000 &&
        share(lowMs, nowMs) < 100 && (
          <span
            className="whisker"
            style={{
              left: `${share(lowMs, nowMs)}%`,
              width: `${share(highMs, nowMs) - share(lowMs, nowMs)}%`,
            }}
          />
        )}
    </Box>
  );
}

function Does({ line, href }: { line: Line; href: string }) {
  const { perform, busy, refused } = usePerform();
  const [done, setDone] = useState(false);
  const { by } = usePerson();
  const { data: setup } = useSetup();
  const skills = setup?.people.find(({ code }) => code === by)?.skills;
  const deed = deedOf(line, skills);
  return (
    <Box className="does">
      {deed ? (
        <Button
          variant="contained"
          disabled={busy || done}
          onClick={() =>
            void perform((by, key) => fileEntries(line.rack.batch, by, key, [deed.entry]), filedWords).then(
              (filed) => setDone(filed !== null && line.view.standing === 'onHold'),
            )
          }
        >
          {deed.label}
        </Button>
      ) : (
        <Button component={Link} to={href}>
          {line.view.coat && line.view.ready && line.view.standing === 'inHand'
            ? `Say who lays coat ${line.view.coat.number}`
            : 'See its ladder'}
        </Button>
      )}
      <Refused words={refused} />
    </Box>
  );
}
