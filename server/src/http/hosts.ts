import { hostname, networkInterfaces } from 'node:os';
import type { NextFunction, Request, Response } from 'express';

/** Names under which this server may be asked: its own addresses and name, and those of ALLOWED_HOSTS (commas between). */
export function hostsServed(): Set<string> {
  const addresses = Object.values(networkInterfaces())
    .flatMap((cards) => cards ?? [])
    .map(({ address, family }) => (family === 'IPv6' ? `[${address.split('%')[0]}]` : address));
  const { ALLOWED_HOSTS: given = '', HOST: own = '' } = process.env;
  return new Set(
    [
      ...['localhost', '127.0.0.1', '[::1]', hostname(), `${hostname()}.local`, own, ...addresses],
      ...given.split(','),
    ].flatMap((name) => name.trim().toLowerCase() || []),
  );
}

/** The name in a Host header, without its port. */
const nameOf = (host: string): string => host.toLowerCase().replace(/:\d+$/, '');

function originHost(origin: string): string | null {
  return URL.canParse(origin) ? new URL(origin).host : null;
}

/**
 * A page of somebody else's must not be able to file: neither by a name of its own that leads here (Host), nor by sending from
 * where it is (Origin). Programs that send no Origin are not pages.
 */
export function onlyServedHosts(served = hostsServed()) {
  return (request: Request, response: Response, next: NextFunction): void => {
    const { host = '', origin } = request.headers;
    const refuse = (status: number, message: string): void =>
      void response.status(status).json({ message, details: [] });
    if (!served.has(nameOf(host)))
      return refuse(421, 'this server is not known by that name: name it in ALLOWED_HOSTS');
    const changes = request.method !== 'GET' && request.method !== 'HEAD';
    if (changes && origin !== undefined && originHost(origin) !== host.toLowerCase())
      return refuse(403, 'a page from elsewhere may not file here');
    next();
  };
}
