import { useQueryClient } from '@tanstack/react-query';
import { createContext, useCallback, useContext, useEffect, useState } from 'react';
import { ServerProblem } from '../api/client.ts';
import { fileLine, newKey } from '../api/filing.ts';
import { EVERYTHING, fetchAgain } from '../api/news.ts';
import { flushOutbox, readOutbox, writeOutbox, type PendingLine, type Sent } from './outbox.ts';

/** How often a browser with lines in its outbox tries the server again. */
const RETRY_MS = 3000;

export type FilingNews = { tone: 'good' | 'refused' | 'unfinished'; text: string };

export interface Filing {
  /** Files a line; while the server is away it is kept and filed later. Resolves to whether the line is off your hands. */
  file: (line: string, by: string) => Promise<boolean>;
  news: FilingNews | null;
  setNews: (news: FilingNews | null) => void;
  busy: boolean;
  /** Lines that wait for the server. */
  waiting: number;
}

/** One line filed under its key; 'away' when the server is not there. */
async function send({ key, by, line }: PendingLine): Promise<Sent> {
  try {
    return { filed: (await fileLine(line, by, key)).sentence };
  } catch (problem) {
    if (!(problem instanceof ServerProblem)) throw problem;
    return problem.away ? { away: true } : { refused: problem.message };
  }
}

/** Filing from anywhere on the page: the log bar and the calls share one outbox and one line of news. */
export function useFilingState(): Filing {
  const queries = useQueryClient();
  const [news, setNews] = useState<FilingNews | null>(null);
  const [busy, setBusy] = useState(false);
  const [waiting, setWaiting] = useState(() => readOutbox(localStorage).length);

  const refresh = useCallback(() => void fetchAgain(queries, EVERYTHING), [queries]);

  const file = useCallback(
    async (line: string, by: string): Promise<boolean> => {
      setBusy(true);
      const pending = { key: newKey(), by, line };
      try {
        const sent = await send(pending);
        if ('away' in sent) {
          writeOutbox(localStorage, [...readOutbox(localStorage), pending]);
          setWaiting(readOutbox(localStorage).length);
          setNews({ tone: 'unfinished', text: `kept: '${line}' is filed when the server is back` });
          return true;
        }
        setNews(
          'filed' in sent
            ? { tone: 'good', text: `Filed. ${sent.filed}` }
            : { tone: 'refused', text: sent.refused },
        );
        if ('filed' in sent) refresh();
        return 'filed' in sent;
      } finally {
        setBusy(false);
      }
    },
    [refresh],
  );

  useEffect(() => {
    if (waiting === 0) return;
    const retry = async (): Promise<void> => {
      const result = await flushOutbox(localStorage, send);
      setWaiting(result.left);
      const refused = result.refused[0];
      if (refused)
        setNews({ tone: 'refused', text: `'${refused.line}' was kept and is now refused: ${refused.why}` });
      else if (result.filed.length > 0)
        setNews({ tone: 'good', text: `Filed, late: ${result.filed.join('; ')}` });
      if (result.filed.length > 0) refresh();
    };
    const timer = setInterval(() => void retry(), RETRY_MS);
    return () => clearInterval(timer);
  }, [waiting, refresh]);

  return { file, news, setNews, busy, waiting };
}

export const FilingContext = createContext<Filing | null>(null);

export function useFiling(): Filing {
  const filing = useContext(FilingContext);
  if (!filing) throw new Error('useFiling: there is no FilingContext above');
  return filing;
}
