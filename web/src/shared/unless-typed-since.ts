/** Empties a field once what it said is filed; what was typed while the answer was under way is of the next filing, and stays. */
export const unlessTypedSince =
  (filed: string) =>
  (now: string): string =>
    now === filed ? '' : now;
