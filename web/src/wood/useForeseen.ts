import type { Air } from '@ample-crane/core';
import { useEffect, useRef, useState } from 'react';
import type { Foreseen, Question } from './foresee.ts';
import ForeseeWorker from './foresee.worker.ts?worker';
import type { Drying } from './queries.ts';

/**
 * The forecast in some air, worked out in a web worker. While it works the last answer stays; of many questions asked
 * quickly (a slider) only the newest is answered.
 */
export function useForeseen(drying: Drying, air: Air | null): Foreseen | null {
  const [foreseen, setForeseen] = useState<Foreseen | null>(null);
  const worker = useRef<Worker | null>(null);
  const asked = useRef<{ number: number; busy: boolean; next: Question | null }>({
    number: 0,
    busy: false,
    next: null,
  });
  const ask = useRef<(question: Question) => void>(() => undefined);

  useEffect(() => {
    const own = new ForeseeWorker();
    const state = asked.current;
    Object.assign(state, { busy: false, next: null });
    worker.current = own;
    ask.current = (question) => {
      if (state.busy) state.next = question;
      else {
        state.busy = true;
        state.number += 1;
        own.postMessage({ number: state.number, question });
      }
    };
    own.onmessage = ({ data }: MessageEvent<{ foreseen: Foreseen | null }>) => {
      state.busy = false;
      setForeseen(data.foreseen);
      const { next } = state;
      state.next = null;
      if (next) ask.current(next);
    };
    return () => own.terminate();
  }, []);

  useEffect(() => {
    if (air) ask.current({ drying, air });
  }, [drying, air]);
  return foreseen;
}
