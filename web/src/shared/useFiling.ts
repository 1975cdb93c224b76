import { useQueryClient } from '@tanstack/react-query';
import { createContext, useCallback, useContext, useEffect, useRef, useState } from 'react';
import { ServerProblem } from '../api/client.ts';
import type { Floor } from '../api/queries.ts';
import { fileLine, newKey, takeBack, type Filed } from '../api/filing.ts';
import { changedOn, everything, fetchAgain, type Stale } from '../api/news.ts';
import { theOutbox } from '../outbox/browser.ts';
import type { News } from '../outbox/outbox.ts';
import type { Kept } from '../outbox/store.ts';
import { saysUndo } from './says-undo.ts';

export interface FilingNews {
  tone: 'good' | 'refused' | 'unfinished';
  text: string;
  /** The line it is about: over another line that is being typed it says nothing. */
  line?: string;
}

export interface Filing {
  /** Files a line; while the server is away it is kept and filed later. Resolves to whether the line is off your hands. */
  file: (line: string, by: string) => Promise<boolean>;
  /**
   * Files lines one after the other, each on its own: one that is refused does not hold up the others. `onThrough` is told how many
   * are through and says whether to go on. What came of all of them is the news.
   */
  fileEach: (lines: readonly string[], by: string, onThrough: (through: number) => boolean) => Promise<void>;
  /** Takes back what was filed under a key: once, however often it is asked. */
  takeBack: (filing: string, by: string) => Promise<boolean>;
  /** What was filed here last, before the board has it. */
  last: NonNullable<Floor['lastFiling']> | null;
  news: FilingNews | null;
  setNews: (news: FilingNews | null) => void;
  busy: boolean;
  /** What this browser keeps: filings that wait for the server, and those that were refused. */
  kept: readonly Kept[];
}

/** What came of a line: the server has it, this browser keeps it until the server is back, or why it is refused. */
type Outcome = 'filed' | 'kept' | { refused: string };

/** Filing from anywhere on the page: the log bar and the calls share one line of news. */
export function useFilingState(): Filing {
  const queries = useQueryClient();
  const [news, setNews] = useState<FilingNews | null>(null);
  const [busy, setBusy] = useState(false);
  const [last, setLast] = useState<Filing['last']>(null);
  const refresh = useCallback((stale: Stale) => void fetchAgain(queries, stale), [queries]);
  /** Keys that are asked for here, and so told here. */
  const own = useRef(new Set<string>());
  const toldLate = useCallback(
    (late: News) => {
      if (late.what !== 'settled' || own.current.has(late.kept.key)) return;
      const { kept, answer } = late;
      if (answer.kind === 'filed') refresh(everything);
      // What was kept and is told at last must not go unseen; what another page asked is told there.
      if (kept.late) setNews(lateNews(kept, late));
    },
    [refresh],
  );
  const kept = useKept(toldLate);

  const ask = useCallback(
    async (
      key: string,
      by: string,
      line: string | undefined,
      request: () => Promise<Filed>,
    ): Promise<Outcome> => {
      const about = line === undefined ? {} : { line };
      setBusy(true);
      own.current.add(key);
      try {
        const outbox = await theOutbox().catch(() => null);
        const away = new Promise<'kept'>((resolve) => outbox?.onKept(key, () => resolve('kept')));
        const answer = request();
        const first = await Promise.race([answer, away]);
        if (first === 'kept') {
          own.current.delete(key);
          answer.catch(() => undefined);
          setNews({
            tone: 'unfinished',
            text: `kept: ${line === undefined ? 'it' : `'${line}'`} is filed when the server is back`,
            ...about,
          });
          return 'kept';
        }
        setNews({ tone: 'good', text: `Filed. ${first.sentence}`, ...about });
        const { sentence, filedMs, entries } = first;
        const correction = line === undefined || saysUndo(line);
        setLast({ key, by, sentence, filedMs, batch: entries[0]?.batch ?? '', correction });
        refresh(changedOn(entries.map(({ batch }) => batch)));
        return 'filed';
      } catch (problem) {
        if (!(problem instanceof ServerProblem)) throw problem;
        setNews({ tone: 'refused', text: problem.message, ...about });
        return { refused: problem.message };
      } finally {
        own.current.delete(key);
        setBusy(false);
      }
    },
    [refresh],
  );
  const file = useCallback(
    async (line: string, by: string) => {
      const key = newKey();
      return offHands(await ask(key, by, line, () => fileLine(line, by, key)));
    },
    [ask],
  );
  const fileEach = useCallback(
    async (lines: readonly string[], by: string, onThrough: (through: number) => boolean) => {
      const through: { line: string; outcome: Outcome }[] = [];
      for (const line of lines) {
        const key = newKey();
        through.push({ line, outcome: await ask(key, by, line, () => fileLine(line, by, key)) });
        if (!onThrough(through.length)) break;
      }
      // One alone has said itself what came of it.
      if (lines.length > 1) setNews(newsOfAll(through, lines.length));
    },
    [ask],
  );
  const back = useCallback(
    async (filing: string, by: string) =>
      offHands(await ask(`undo-${filing}`, by, undefined, () => takeBack(filing, by))),
    [ask],
  );
  return { file, fileEach, takeBack: back, last, news, setNews, busy, kept };
}

const offHands = (outcome: Outcome): boolean => typeof outcome === 'string';

/** What came of lines that were filed one after the other, of so many that were wanted. */
function newsOfAll(through: readonly { line: string; outcome: Outcome }[], wanted: number): FilingNews {
  const refused = through.flatMap(({ line, outcome }) =>
    typeof outcome === 'string' ? [] : `'${line}': ${outcome.refused}`,
  );
  const kept = through.filter(({ outcome }) => outcome === 'kept').length;
  const said = [
    `Filed: ${through.length - kept - refused.length} of ${wanted}`,
    ...(kept > 0 ? [`kept until the server is back: ${kept}`] : []),
    ...(refused.length > 0 ? [`refused: ${refused.length}, the first ${refused[0]}`] : []),
    ...(through.length < wanted ? [`stopped before the last ${wanted - through.length}`] : []),
  ];
  return { tone: refused.length > 0 ? 'refused' : kept > 0 ? 'unfinished' : 'good', text: said.join('; ') };
}

function lateNews(kept: Kept, { answer }: Extract<News, { what: 'settled' }>): FilingNews {
  if (answer.kind === 'refused')
    return { tone: 'refused', text: `'${kept.words}' was kept and is now refused: ${answer.why}` };
  const { sentence } = answer.body as { sentence?: string };
  return { tone: 'good', text: `Filed, late: ${sentence ?? kept.words}` };
}

/** The filings in the outbox, as they come and go. */
function useKept(told: (news: News) => void): readonly Kept[] {
  const [kept, setKept] = useState<readonly Kept[]>([]);
  useEffect(() => {
    let over = false;
    let end: (() => void) | undefined;
    theOutbox()
      .then((outbox) => {
        if (over) return;
        const look = (): void => void outbox.all().then((all) => !over && setKept(all));
        end = outbox.watch((news) => {
          look();
          told(news);
        });
        look();
      })
      // A browser that keeps nothing: filings are asked at once, and once.
      .catch(() => undefined);
    return () => {
      over = true;
      end?.();
    };
  }, [told]);
  return kept;
}

export const FilingContext = createContext<Filing | null>(null);

export function useFiling(): Filing {
  const filing = useContext(FilingContext);
  if (!filing) throw new Error('useFiling: there is no FilingContext above');
  return filing;
}
