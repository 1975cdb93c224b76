import getPort, { portNumbers } from 'get-port';

/**
 * A free port of a range below those the system hands to outgoing connections. It is looked for from a place that follows from the
 * process, so that runs beside each other do not pick the same before either listens.
 */
export function freePort(first: number, count: number): Promise<number> {
  const ports = [...portNumbers(first, first + count - 1)];
  const from = process.pid % count;
  return getPort({ port: [...ports.slice(from), ...ports.slice(0, from)] });
}
