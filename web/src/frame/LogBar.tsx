import { useDeferredValue, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { Box, Button, InputBase, InputLabel } from '@mui/material';
import { Link } from 'react-router';
import { useRacks, useSetup, type Floor } from '../api/queries.ts';
import type { Kept } from '../outbox/store.ts';
import { PlainForm } from '../fields/Form.tsx';
import { Row } from '../parts/index.ts';
import { useAsked } from './useAsked.ts';
import { usePerson } from '../shared/person.ts';
import { previewLine, racksOf, type Preview } from './preview.ts';
import { useFiling, type FilingNews } from '../shared/useFiling.ts';
import { sayHour } from '../shared/time.ts';
import { saysUndo } from '../shared/says-undo.ts';
import { useUnits } from '../shared/units.ts';
import './LogBar.css';

export const LOG_INPUT = 'log-line';

/** Always at the foot: one line in, what it would change at once, filed on Enter. */
export function LogBar({ floor, nowMs }: { floor: Floor | undefined; nowMs: number }) {
  const { by } = usePerson();
  const { file, takeBack, last: own, news: latest, setNews, busy, kept } = useFiling();
  const [line, setLine] = useState('');
  const news = latest && isShown(latest, line) ? latest : null;
  const input = useRef<HTMLInputElement>(null);
  const underWay = useRef(new Set<string>());
  const read = useDeferredValue(line);
  const { data: setup } = useSetup();
  const units = useUnits();
  const people = setup?.people;
  const names = useMemo(() => ({ people, units }), [people, units]);
  const racks = useRacks(useMemo(() => racksOf(read, floor, names), [read, floor, names]));
  const known = useMemo(
    () => previewLine(read, floor, racks, nowMs, names),
    [read, floor, racks, nowMs, names],
  );
  const preview = useAsked(read, by, known);
  // The board comes a moment after the answer: what was just filed here is the last until it does.
  const last = own && own.filedMs >= (floor?.lastFiling?.filedMs ?? 0) ? own : floor?.lastFiling;

  const submit = async (): Promise<void> => {
    // The same line twice at once is one; another one may follow while it is on its way: they go in order.
    if (line.trim() === '' || underWay.current.has(line)) return;
    const now = previewLine(line, floor, racks, nowMs, names);
    if (now.kind === 'wrong' || now.kind === 'unfinished') {
      if (now.kind === 'wrong') input.current?.setSelectionRange(now.start, now.start + now.length);
      return;
    }
    underWay.current.add(line);
    const filed = isBareUndo(line) ? await undoLast() : await file(line, by);
    underWay.current.delete(line);
    if (filed) setLine((typed) => (typed === line ? '' : typed));
  };
  /** What one's own last filing is, is known now: later, out of the outbox, it would be another. */
  const undoLast = async (): Promise<boolean> => {
    const waiting = kept.findLast((one) => one.by === by && one.refused === null && !isCorrection(one));
    const filing = waiting?.key ?? (last?.by === by && !last.correction ? last.key : undefined);
    return filing === undefined ? file('undo', by) : takeBack(filing, by);
  };
  const keyed = (event: KeyboardEvent): void => {
    if (event.key !== 'Escape') return;
    event.stopPropagation();
    input.current?.blur();
  };

  return (
    <footer className="logbar">
      <PlainForm onFile={submit}>
        <InputLabel htmlFor={LOG_INPUT}>Log</InputLabel>
        <InputBase
          id={LOG_INPUT}
          inputRef={input}
          value={line}
          autoComplete="off"
          placeholder="B-217 body mill 6 done 1 scrap tear-out"
          inputProps={{ 'aria-describedby': 'log-answer', spellCheck: false }}
          onKeyDown={keyed}
          onChange={(event) => {
            setLine(event.target.value);
            setNews(null);
          }}
        />
        <Answer preview={preview} news={news} />
        {!news && preview.kind === 'wrong' && preview.choices.length > 0 && (
          <Row component="span" role="group" aria-label="Which is meant?">
            {preview.choices.map((choice) => (
              <Button
                key={choice.line}
                onClick={() => {
                  setLine(choice.line);
                  input.current?.focus();
                }}
              >
                {choice.words}
              </Button>
            ))}
          </Row>
        )}
      </PlainForm>
      <Box className="side">
        <KeptHere kept={kept} />
        <Last last={last} zone={floor?.zone} onUndo={(filing) => takeBack(filing, by)} by={by} busy={busy} />
      </Box>
    </footer>
  );
}

function Answer({ preview, news }: { preview: Preview; news: { tone: string; text: string } | null }) {
  const tone = news?.tone ?? preview.kind;
  const text = news?.text ?? ('text' in preview ? preview.text : '');
  const hint = !news && preview.kind === 'good' ? ': Enter files it' : '';
  return (
    <span id="log-answer" className={`answer ${tone}`} role="status">
      {text}
      {hint}
    </span>
  );
}

type LastFiling = NonNullable<Floor['lastFiling']>;

/**
 * Whether news takes the place of what the typed line would change: news of another line does not, nor a touch that was filed
 * (it stands on the right as the last filing); a refusal does.
 */
const isShown = (news: FilingNews, typed: string): boolean =>
  typed === '' || typed === news.line || (news.line === undefined && news.tone !== 'good');

const isBareUndo = (line: string): boolean => /^undo$/i.test(line.trim());
const isCorrection = ({ path, body }: Kept): boolean =>
  path === '/api/log/take-back' || (typeof body.line === 'string' && saysUndo(body.line));

/** What this browser keeps, and the way to it. */
function KeptHere({ kept }: { kept: readonly Kept[] }) {
  const row = kept.filter(({ refused }) => refused === null);
  // What is just being sent is no news.
  const waiting = row[0]?.late ? row.length : 0;
  const refused = kept.filter((one) => one.refused !== null).length;
  if (waiting + refused === 0) return null;
  return (
    <Link to="/kept">
      <strong>
        {[
          waiting > 0 && `${waiting} kept until the server is back`,
          refused > 0 && `${refused} refused: decide`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </strong>
    </Link>
  );
}

/** The last thing filed in the factory; taken back right here when it is one's own. */
function Last(props: {
  last: LastFiling | null | undefined;
  zone: string | undefined;
  by: string;
  busy: boolean;
  onUndo: (filing: string) => Promise<boolean>;
}) {
  const { last, zone, by, busy, onUndo } = props;
  /** Asked already: once is enough, and the board will say so. */
  const [asked, setAsked] = useState<string | null>(null);
  if (!last || zone === undefined) return <span>L log · 0 board · 1–5 stages · H keys</span>;
  return (
    <>
      <span className="quiet-last">
        last {sayHour(last.filedMs, zone)}: {last.sentence}
      </span>
      {last.by === by && last.key !== asked && !last.correction && (
        <Button
          size="small"
          disabled={busy}
          title={`Takes back: ${last.sentence}`}
          onClick={() => void onUndo(last.key).then((done) => done && setAsked(last.key))}
        >
          Take back {last.batch}
        </Button>
      )}
    </>
  );
}
