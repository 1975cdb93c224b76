/** What is asked of a device on the network, and how much of an answer is borne. */
export interface AskLimits {
  withinMs: number;
  /** Bytes of the body as it is read, after any inflating. */
  largest: number;
  /** Ends the asking early: the server shuts down. */
  signal?: AbortSignal | undefined;
}

/** A device that does not answer as it should; the message says how, and repeats nothing of what it sent. */
export class OutsideTrouble extends Error {}

/** The hosts a set-up allows devices on: `host` for all its ports, or `host:port`; commas between them. */
export const hostsOf = (list: string | undefined): string[] =>
  (list ?? '')
    .split(',')
    .map((host) => host.trim().toLowerCase())
    .filter(Boolean);

/** Whether an address lies on one of these hosts, speaks HTTP and carries no name or password. */
export function mayAsk(address: string, hosts: readonly string[]): boolean {
  if (!URL.canParse(address)) return false;
  const { protocol, host, hostname, username, password } = new URL(address);
  return (
    (protocol === 'http:' || protocol === 'https:') &&
    username === '' &&
    password === '' &&
    (hosts.includes(host) || hosts.includes(hostname))
  );
}

/**
 * The text a device answers with. It is never followed elsewhere, and let go of as soon as it is too slow or too large, however
 * small it was made for the way.
 * @throws OutsideTrouble
 */
export async function askOutside(address: string, limits: AskLimits): Promise<string> {
  const { withinMs, largest, signal } = limits;
  const late = AbortSignal.timeout(withinMs);
  let response: Response;
  try {
    response = await fetch(address, {
      redirect: 'error',
      signal: signal ? AbortSignal.any([late, signal]) : late,
    });
  } catch {
    throw new OutsideTrouble('it does not answer');
  }
  const parts: Uint8Array[] = [];
  let size = 0;
  try {
    for await (const part of (response.body ?? []) as AsyncIterable<Uint8Array>) {
      size += part.byteLength;
      if (size > largest) throw new OutsideTrouble(`it answers with more than ${largest / 1e6} MB`);
      parts.push(part);
    }
  } catch (error) {
    if (error instanceof OutsideTrouble) throw error;
    throw new OutsideTrouble(
      late.aborted ? `its answer takes longer than ${withinMs / 1000} s` : 'its answer breaks off',
    );
  }
  return Buffer.concat(parts).toString('utf8');
}
