import { useState } from 'react';

/** Does one line after the other; `onThrough` is told how many are through, and says whether to go on. */
export type Lines = (lines: readonly string[], onThrough: (through: number) => boolean) => Promise<void>;

/** Several lines on their way; `running` is null when none is. They can be stopped between two. */
export function useRun(onLines: Lines) {
  const [running, setRunning] = useState<{ through: number; of: number } | null>(null);
  const [asked] = useState({ stop: false });
  const run = async (lines: readonly string[]): Promise<void> => {
    asked.stop = false;
    if (lines.length > 1) setRunning({ through: 0, of: lines.length });
    await onLines(lines, (through) => {
      setRunning((now) => now && { ...now, through });
      return !asked.stop;
    });
    setRunning(null);
  };
  const stop = (): void => {
    asked.stop = true;
  };
  return { running, run, stop };
}
