import { useDeferredValue, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { Button } from '@mui/material';
import { useSetup, type Board } from '../api/queries.ts';
import { useAsked } from './useAsked.ts';
import { usePerson } from './person.ts';
import { previewLine, type Preview } from './preview.ts';
import { useFiling } from './useFiling.ts';
import { sayHour } from './time.ts';

export const LOG_INPUT = 'log-line';

/** Always at the foot: one line in, what it would change at once, filed on Enter. */
export function LogBar({ board, nowMs }: { board: Board | undefined; nowMs: number }) {
  const { by } = usePerson();
  const { file, news, setNews, busy, waiting } = useFiling();
  const [line, setLine] = useState('');
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
    if (await file(line, by)) setLine('');
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
        {waiting > 0 && <strong>{waiting} kept until the server is back</strong>}
        <Last board={board} onUndo={() => void file('undo', by)} by={by} />
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

/** The last thing filed in the factory; taken back right here when it is one's own. */
function Last({ board, by, onUndo }: { board: Board | undefined; by: string; onUndo: () => void }) {
  const last = board?.lastFiling;
  if (!board || !last) return <span>L log · 0 board · 1–5 stages · H keys</span>;
  return (
    <>
      <span className="quiet-last">
        last {sayHour(last.filedMs, board.zone)}: {last.sentence}
      </span>
      {last.by === by && !last.sentence.startsWith('Corrected') && (
        <button type="button" className="plainbutton" onClick={onUndo}>
          Take back
        </button>
      )}
    </>
  );
}
