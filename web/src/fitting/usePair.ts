import { useCallback, useEffect, useRef, useState } from 'react';
import PairWorker from './pair.worker.ts?worker';
import type { PairAnswer, PairQuestion } from './pair.ts';

export interface PairWork {
  answer: PairAnswer | null;
  /** Since when it works, for as long as it does. */
  busySinceMs: number | null;
  stop: () => void;
}

/** Pairs in a web worker; a new question, or 'stop', ends the one that runs. */
export function usePair(question: PairQuestion | null): PairWork {
  const [answer, setAnswer] = useState<PairAnswer | null>(null);
  const [busySinceMs, setBusy] = useState<number | null>(null);
  const worker = useRef<Worker | null>(null);
  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
    setBusy(null);
  }, []);
  useEffect(() => {
    if (!question) return undefined;
    const own = new PairWorker();
    worker.current = own;
    setBusy(Date.now());
    own.onmessage = ({ data }: MessageEvent<PairAnswer>) => {
      setAnswer(data);
      setBusy(null);
    };
    own.postMessage(question);
    return () => own.terminate();
  }, [question]);
  return { answer, busySinceMs, stop };
}
