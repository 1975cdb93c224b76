import { useCallback, useEffect, useRef, useState } from 'react';
import PairWorker from './pair.worker.ts?worker';
import type { PairAnswer, PairQuestion } from './pair.ts';

export interface PairWork {
  /** What was found for the question that is asked now; null: nothing yet. */
  answer: PairAnswer | null;
  /** Since when it works, for as long as it does. */
  busySinceMs: number | null;
  /** It was ended before it was answered. */
  stopped: boolean;
  stop: () => void;
  again: () => void;
}

/** Pairs in a web worker; a new question, or 'stop', ends the one that runs. */
export function usePair(question: PairQuestion | null): PairWork {
  const [found, setFound] = useState<{ question: PairQuestion; answer: PairAnswer } | null>(null);
  const [busySinceMs, setBusy] = useState<number | null>(null);
  const [stopped, setStopped] = useState<PairQuestion | null>(null);
  const worker = useRef<Worker | null>(null);
  const end = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
    setBusy(null);
  }, []);
  const ask = useCallback((asked: PairQuestion) => {
    const own = new PairWorker();
    worker.current = own;
    setBusy(Date.now());
    setStopped(null);
    own.onmessage = ({ data }: MessageEvent<PairAnswer>) => {
      setFound({ question: asked, answer: data });
      setBusy(null);
    };
    own.postMessage(asked);
  }, []);
  useEffect(() => {
    if (!question) return undefined;
    ask(question);
    return end;
  }, [question, ask, end]);
  return {
    answer: found?.question === question ? found.answer : null,
    busySinceMs,
    stopped: stopped !== null && stopped === question,
    stop: () => {
      end();
      setStopped(question);
    },
    again: () => {
      if (question) ask(question);
    },
  };
}
