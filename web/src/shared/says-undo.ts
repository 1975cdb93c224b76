/** Whether a typed line asks to take something back: the one word of the log line for it. */
export const saysUndo = (line: string): boolean => /\bundo\b/i.test(line);
