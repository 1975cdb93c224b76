/** Lines that were filed while the server was away: kept in the browser, sent when it is back, each with its own key. */
export interface PendingLine {
  key: string;
  by: string;
  line: string;
}

const PLACE = 'ample-crane.outbox';

export function readOutbox(storage: Pick<Storage, 'getItem'>): PendingLine[] {
  try {
    return JSON.parse(storage.getItem(PLACE) ?? '[]') as PendingLine[];
  } catch {
    return [];
  }
}

export function writeOutbox(storage: Pick<Storage, 'setItem'>, lines: readonly PendingLine[]): void {
  storage.setItem(PLACE, JSON.stringify(lines));
}

export type Sent = { filed: string } | { refused: string } | { away: true };

/**
 * Sends what is pending, oldest first, and stops when the server is still away. What it refuses leaves the outbox and
 * is told, so that nothing is lost in silence.
 */
export async function flushOutbox(
  storage: Pick<Storage, 'getItem' | 'setItem'>,
  send: (pending: PendingLine) => Promise<Sent>,
): Promise<{ filed: string[]; refused: { line: string; why: string }[]; left: number }> {
  const result = { filed: [] as string[], refused: [] as { line: string; why: string }[], left: 0 };
  for (let next = readOutbox(storage)[0]; next; next = readOutbox(storage)[0]) {
    const { key, line } = next;
    const sent = await send(next);
    if ('away' in sent) break;
    if ('filed' in sent) result.filed.push(sent.filed);
    else result.refused.push({ line, why: sent.refused });
    writeOutbox(
      storage,
      readOutbox(storage).filter((pending) => pending.key !== key),
    );
  }
  result.left = readOutbox(storage).length;
  return result;
}
