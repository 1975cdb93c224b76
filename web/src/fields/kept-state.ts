import { useEffect, useState, type Dispatch, type SetStateAction } from 'react';
import { forget, recall, recalled } from './session.ts';

/**
 * State of a sheet or a line that is being filled in, which survives a reload.
 * @param name the same after a reload; another name is another sheet: give its component a key
 * @param begin how it begins; as soon as it is so again, nothing is kept
 * @param isOne whether what was kept is such a state: anything else is not believed
 */
export function useKeptState<T>(
  name: string,
  begin: T,
  isOne: (kept: unknown) => kept is T,
): [T, Dispatch<SetStateAction<T>>] {
  const [empty] = useState(begin);
  const [state, setState] = useState<T>(() => {
    const kept = recalled(name);
    return isOne(kept) ? kept : begin;
  });
  useEffect(() => {
    if (JSON.stringify(state) === JSON.stringify(empty)) forget(name);
    else recall(name, state);
  }, [name, state, empty]);
  return [state, setState];
}

/** Words, where what is kept is a line of them. */
export const isText = (kept: unknown): kept is string => typeof kept === 'string';
