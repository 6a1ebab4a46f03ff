import express, { type NextFunction, type Request, type Response } from 'express';
import { Problem } from './problem';
import { sendProblem } from './sendProblem';

const MAX_BODY = '24mb';
const MOST_DEPTH = 64;
const LONGEST_KEY = 200;
const QUOTE = 0x22;
const BACKSLASH = 0x5c;

/** Not a Problem: the reader of bodies writes a status of its own on what is thrown here. */
class ShapeError extends Error {}

const read = express.json({
  limit: MAX_BODY,
  strict: true,
  verify: (_request, _response, bytes) => {
    const fault = shapeFault(bytes);
    if (fault !== null) throw new ShapeError(fault);
  },
});

/** What is wrong with the shape of a JSON text, before anything is made of it; null: nothing. */
export function shapeFault(bytes: Uint8Array): string | null {
  let depth = 0;
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i];
    if (byte === 0x5b || byte === 0x7b) {
      if (++depth > MOST_DEPTH) return `It is nested deeper than ${MOST_DEPTH} levels`;
    } else if (byte === 0x5d || byte === 0x7d) depth--;
    else if (byte === QUOTE) {
      const start = i++;
      for (; i < bytes.length && bytes[i] !== QUOTE; i++) if (bytes[i] === BACKSLASH) i++;
      if (i - start > LONGEST_KEY && isKey(bytes, i + 1)) return `A field has a name of over ${LONGEST_KEY} bytes`;
    }
  }
  return null;
}

/** Whether a colon follows: what stood before it was the name of a field. */
function isKey(bytes: Uint8Array, from: number): boolean {
  let i = from;
  while (bytes[i] === 0x20 || bytes[i] === 0x0a || bytes[i] === 0x0d || bytes[i] === 0x09) i++;
  return bytes[i] === 0x3a;
}

const WITH_BODY = ['POST', 'PUT', 'PATCH'];
/** Files come as they are. */
const RAW = /^\/api\/v1\/(files|show\/zip)/;

/** Reads JSON bodies; what is too large, broken or something else is answered here, before anything else sees it. */
export function jsonBody(request: Request, response: Response, next: NextFunction): void {
  const hasBody = request.headers['transfer-encoding'] !== undefined || Number(request.headers['content-length']) > 0;
  if (WITH_BODY.includes(request.method) && hasBody && !RAW.test(request.path) && !request.is('application/json')) {
    const problem = new Problem('wrong-type', 'This address takes JSON, with Content-Type: application/json.');
    return sendProblem(problem, request, response);
  }
  read(request, response, (cause?: unknown) => {
    if (cause === undefined || cause === null) return next();
    sendProblem(problemOf(cause), request, response);
  });
}

function problemOf(cause: unknown): Problem {
  const { type } = cause as { type?: string };
  if (cause instanceof ShapeError) return new Problem('invalid', `${cause.message}. Nothing was changed.`);
  if (type === 'entity.too.large')
    return new Problem('too-large', 'The upload is larger than Rackle takes (24 MB). Nothing was changed.');
  if (type === 'charset.unsupported' || type === 'encoding.unsupported')
    return new Problem('wrong-type', 'This address takes JSON in UTF-8. Nothing was changed.');
  return new Problem('not-json', 'The upload is broken JSON. Nothing was changed.');
}
