import { Button } from '@mui/material';
import { memo, useState } from 'react';
import { Link } from 'react-router';
import { fileEntries } from '../api/filing.ts';
import { useSetup } from '../api/queries.ts';
import { usePerson } from '../shared/person.ts';
import { daysAhead, lateTag } from '../shared/time.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { Ladder } from '../devices/Ladder.tsx';
import { PegRack } from '../devices/PegRack.tsx';
import { Refused } from '../devices/Refused.tsx';
import { AXIS_DAYS, share } from './axis.ts';
import { deedOf, type Line } from './ready.ts';

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
  const { rack, sight } = line;
  const late = lateTag(rack.dueMs, nowMs);
  const href = `/finish/rack/${rack.batch}`;
  const partial = sight.positions.length < rack.quantity ? `, ${sight.positions.length} of it` : '';
  return (
    <article className="readyrow" aria-label={`${rack.batch}: ${sight.title}`}>
      <div>
        <PegRack
          code={rack.batch}
          pegs={sight.positions.map(() => (sight.standing === 'inHand' ? 'done' : 'todo'))}
          inverted={sight.standing === 'inHand'}
          wide
          tag={late}
          late={late !== null}
          words={`${rack.model}, ${sight.operationName}`}
          href={href}
        />
        <div className="quiet" style={{ fontSize: 13 }}>
          {rack.model}, {rack.recipeTitle ?? 'no recipe'}
          {partial}
        </div>
      </div>
      <div>
        {sight.rungs.length > 0 ? (
          <Ladder
            rungs={sight.rungs.map(({ name, leftUm, progress }) => ({
              name,
              leftUm,
              progress: progress[untilOf(sight)],
            }))}
            minimumUm={rack.minimumUm}
            scaleUm={scaleUm}
            height={ROW_HEIGHT}
            words={ladderWords(line)}
          />
        ) : (
          <span className="quiet">bare</span>
        )}
      </div>
      <div className="what">
        <strong
          className={sight.ready && sight.next !== 'work' ? (sight.closesMs ? 'closes' : 'ready') : undefined}
        >
          {sight.title}
        </strong>
        <span className="quiet">
          {sight.detail}
          {sight.moved &&
            ` ${Math.abs(sight.moved.hours).toFixed(0)} h ${sight.moved.hours > 0 ? 'later' : 'sooner'} than yesterday: ${sight.moved.why}.`}
          {sight.recomputed && ` ${sight.recomputed}`}
        </span>
        {sight.next !== 'work' && <Track line={line} zone={zone} nowMs={nowMs} />}
      </div>
      <Does line={line} href={href} />
    </article>
  );
});

/** What its rungs are measured by: what the rack waits for. */
function untilOf({ next }: Line['sight']): 'recoat' | 'sand' | 'buff' {
  if (next === 'coat' || next === 'recoat') return 'recoat';
  return next === 'sand' ? 'sand' : 'buff';
}

const ladderWords = ({ rack, sight }: Line): string =>
  `${rack.batch}: ${sight.rungs.length} coats, ${sight.buildUm.toFixed(0)} µm; ${sight.rungs
    .map(({ name, progress }) => `${name} ${Math.round(100 * progress[untilOf(sight)])} %`)
    .join(', ')}`;

function Track({ line: { sight }, zone, nowMs }: { line: Line; zone: string; nowMs: number }) {
  const { ready, fromMs, lowMs, highMs, closesMs } = sight;
  return (
    <div className="track" aria-hidden="true">
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
    </div>
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
    <div className="does">
      {deed ? (
        <Button
          variant="contained"
          disabled={busy || done}
          onClick={() =>
            void perform((by, key) => fileEntries(line.rack.batch, by, key, [deed.entry]), filedWords).then(
              (filed) => setDone(filed !== null && line.sight.standing === 'onHold'),
            )
          }
        >
          {deed.label}
        </Button>
      ) : (
        <Button component={Link} to={href}>
          {line.sight.coat && line.sight.ready && line.sight.standing === 'inHand'
            ? `Say who lays coat ${line.sight.coat.number}`
            : 'See its ladder'}
        </Button>
      )}
      <Refused words={refused} />
    </div>
  );
}
