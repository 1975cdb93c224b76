import { useEffect, useState } from 'react';
import { ServerProblem } from '../api/client.ts';
import { previewLine as ask } from '../api/filing.ts';
import type { Preview } from './preview.ts';

/** Nobody is asked while somebody still types. */
const QUIET_MS = 120;

/**
 * A line's preview as the server has it: what needs more than this browser knows (places on tables, climate, people, booths) is
 * asked by a dry run of the same filing. Until it answers, and when it does not, what is known here stands.
 */
export function useAsked(line: string, by: string, known: Preview): Preview {
  const [told, setTold] = useState<{ line: string; preview: Preview } | null>(null);
  const asks = known.kind === 'good' || known.kind === 'unseen' || known.kind === 'refused';
  useEffect(() => {
    if (!asks || line.trim() === '') return;
    const stop = new AbortController();
    const timer = setTimeout(() => {
      ask(line, by, stop.signal)
        .then(({ sentence }) => {
          if (sentence !== '') setTold({ line, preview: { kind: 'good', text: sentence } });
        })
        .catch((problem: unknown) => {
          if (problem instanceof ServerProblem && problem.status === 409)
            setTold({ line, preview: { kind: 'refused', text: problem.message } });
        });
    }, QUIET_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [line, by, asks]);
  return asks && told?.line === line ? told.preview : known;
}
