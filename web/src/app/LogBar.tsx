import { useDeferredValue, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { Button } from '@mui/material';
import { Link } from 'react-router';
import { useSetup, type Board } from '../api/queries.ts';
import type { Kept } from '../outbox/store.ts';
import { useAsked } from './useAsked.ts';
import { usePerson } from './person.ts';
import { previewLine, type Preview } from './preview.ts';
import { useFiling } from './useFiling.ts';
import { sayHour } from './time.ts';

export const LOG_INPUT = 'log-line';

/** Always at the foot: one line in, what it would change at once, filed on Enter. */
export function LogBar({ board, nowMs }: { board: Board | undefined; nowMs: number }) {
  const { by } = usePerson();
  const { file, takeBack, news: latest, setNews, busy, kept } = useFiling();
  const [line, setLine] = useState('');
  const news = latest?.line === undefined || line === '' || line === latest.line ? latest : null;
  const input = useRef<HTMLInputElement>(null);
  const read = useDeferredValue(line);
  const { data: setup } = useSetup();
  const people = setup?.people;
  const known = useMemo(() => previewLine(read, board, nowMs, people), [read, board, nowMs, people]);
  const preview = useAsked(read, by, known);

  const submit = async (): Promise<void> => {
    if (busy || line.trim() === '') return;
    const now = previewLine(line, board, nowMs, people);
    if (now.kind === 'wrong' || now.kind === 'unfinished') {
      if (now.kind === 'wrong') input.current?.setSelectionRange(now.start, now.start + now.length);
      return;
    }
    const filed = isBareUndo(line) ? await undoLast() : await file(line, by);
    if (filed) setLine('');
  };
  /** What one's own last filing is, is known now: later, out of the outbox, it would be another. */
  const undoLast = async (): Promise<boolean> => {
    const last = kept.findLast((one) => one.by === by && one.refused === null && !isCorrection(one));
    const own = last?.key ?? (board?.lastFiling?.by === by ? board.lastFiling.key : undefined);
    return own === undefined ? file('undo', by) : takeBack(own, by);
  };
  const keyed = (event: KeyboardEvent): void => {
    if (event.key !== 'Escape') return;
    event.stopPropagation();
    input.current?.blur();
  };

  return (
    <footer className="logbar">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <label htmlFor={LOG_INPUT}>Log</label>
        <input
          id={LOG_INPUT}
          ref={input}
          value={line}
          autoComplete="off"
          spellCheck={false}
          placeholder="B-217 body mill 6 done 1 scrap tear-out"
          aria-describedby="log-answer"
          onKeyDown={keyed}
          onChange={(event) => {
            setLine(event.target.value);
            setNews(null);
          }}
        />
        <Answer preview={preview} news={news} />
        {!news && preview.kind === 'wrong' && preview.choices.length > 0 && (
          <span className="row" role="group" aria-label="Which is meant?">
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
          </span>
        )}
      </form>
      <div className="side">
        <KeptHere kept={kept} />
        <Last board={board} onUndo={(filing) => takeBack(filing, by)} by={by} busy={busy} />
      </div>
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

const isBareUndo = (line: string): boolean => /^undo$/i.test(line.trim());
const isCorrection = ({ path, body }: Kept): boolean =>
  path === '/api/log/take-back' || (typeof body.line === 'string' && /\bundo\b/i.test(body.line));

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
  board: Board | undefined;
  by: string;
  busy: boolean;
  onUndo: (filing: string) => Promise<boolean>;
}) {
  const { board, by, busy, onUndo } = props;
  /** Asked already: once is enough, and the board will say so. */
  const [asked, setAsked] = useState<string | null>(null);
  const last = board?.lastFiling;
  if (!board || !last) return <span>L log · 0 board · 1–5 stages · H keys</span>;
  return (
    <>
      <span className="quiet-last">
        last {sayHour(last.filedMs, board.zone)}: {last.sentence}
      </span>
      {last.by === by && last.key !== asked && !last.sentence.startsWith('Corrected') && (
        <button
          type="button"
          className="plainbutton"
          disabled={busy}
          title={`Takes back: ${last.sentence}`}
          onClick={() => void onUndo(last.key).then((done) => done && setAsked(last.key))}
        >
          Take back {last.batch}
        </button>
      )}
    </>
  );
}
