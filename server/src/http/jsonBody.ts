import express, { type NextFunction, type Request, type Response } from 'express';
import { Problem } from './problem';
import { sendProblem } from './sendProblem';

const MAX_BODY = '24mb';
const read = express.json({ limit: MAX_BODY, strict: true });

/** Reads JSON bodies; what is too large or broken is answered here, before anything else sees it. */
export function jsonBody(request: Request, response: Response, next: NextFunction): void {
  read(request, response, (cause?: unknown) => {
    if (cause === undefined || cause === null) return next();
    const tooLarge = (cause as { type?: string }).type === 'entity.too.large';
    sendProblem(
      tooLarge
        ? new Problem('too-large', 'The upload is larger than Rackle takes (24 MB). Nothing was changed.')
        : new Problem('not-json', 'The upload is broken JSON. Nothing was changed.'),
      request,
      response,
    );
  });
}
