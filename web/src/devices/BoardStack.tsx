import './BoardStack.css';
export type BoardMark = 'pass' | 'fail' | 'unread' | 'to-cut' | 'cut' | 'scrapped';

export interface StackBoard {
  number: number;
  /** Its latest moisture, corrected, %. */
  valuePct: number | null;
  mark: BoardMark;
}

const WORDS: Record<BoardMark, string> = {
  pass: 'would pass now',
  fail: 'does not pass',
  unread: 'not read at the last look',
  'to-cut': 'to cut',
  cut: 'cut into blanks',
  scrapped: 'scrapped',
};

/** The boards of a lot as they stand in the stack: end on, each with its last reading; crossed ones do not pass. */
export function BoardStack({ boards }: { boards: readonly StackBoard[] }) {
  return (
    <ol className="boardstack">
      {boards.map(({ number, valuePct, mark }) => (
        <li key={number} className={mark}>
          <span className="number">{number}</span>
          <span className="value" aria-hidden="true">
            {mark === 'cut' ? 'cut' : mark === 'scrapped' ? '✕' : (valuePct?.toFixed(1) ?? '–')}
          </span>
          <span className="visually-hidden">
            {valuePct === null ? 'never read' : `${valuePct.toFixed(1)} %`}, {WORDS[mark]}
          </span>
        </li>
      ))}
    </ol>
  );
}
