const placeOf = (name: string): string => `ample-crane.draft.${name}`;

/** What is being typed under a name, for this window and as long as it is open: a reload does not lose it. */
export function recalled(name: string): unknown {
  try {
    return JSON.parse(sessionStorage.getItem(placeOf(name)) ?? 'null');
  } catch {
    return null;
  }
}

export function recall(name: string, typed: unknown): void {
  try {
    sessionStorage.setItem(placeOf(name), JSON.stringify(typed));
  } catch {
    // A browser that keeps nothing loses it by a reload.
  }
}

export function forget(name: string): void {
  try {
    sessionStorage.removeItem(placeOf(name));
  } catch {
    // There is nothing to forget.
  }
}
