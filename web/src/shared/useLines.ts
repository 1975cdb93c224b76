import { usePerson } from './person.ts';
import { useFiling } from './useFiling.ts';

/** Filing lines as whoever works here, as a call does. */
export function useLines() {
  const { by } = usePerson();
  const { fileEach, busy } = useFiling();
  return {
    busy,
    onLines: (lines: readonly string[], onThrough: (through: number) => boolean): Promise<void> =>
      fileEach(lines, by, onThrough),
  };
}
