import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import type { Request, Response } from 'express';

/** An answer as it goes over the wire: as text and compressed, and the tag by which a browser knows that it has it. */
interface Written {
  json: string;
  zipped: Buffer;
  tag: string;
}

const compress = promisify(gzip);
const written = new WeakMap<object, Promise<Written>>();

async function write(answer: object): Promise<Written> {
  const json = JSON.stringify(answer);
  const tag = `W/"${createHash('sha1').update(json).digest('base64')}"`;
  return { json, tag, zipped: await compress(json) };
}

/**
 * Sends what many are told at the same moment (the same object, which nobody changes): it is written and compressed once for all of
 * them. A browser that has it already is answered 304 with nothing.
 */
export async function sendShared(answer: object, request: Request, response: Response): Promise<void> {
  const known = written.get(answer) ?? write(answer);
  written.set(answer, known);
  const { json, zipped, tag } = await known;
  response.type('json').vary('Accept-Encoding').set('ETag', tag);
  if (request.acceptsEncodings('gzip') !== 'gzip') {
    response.send(json);
    return;
  }
  response.set('Content-Encoding', 'gzip').send(zipped);
}
