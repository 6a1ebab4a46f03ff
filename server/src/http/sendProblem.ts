import type { Request, Response } from 'express';
import type { Problem } from './problem';

/** Answers with a problem document (RFC 9457). */
export function sendProblem(problem: Problem, request: Request, response: Response): void {
  response
    .status(problem.status)
    .type('application/problem+json')
    .send(JSON.stringify(problem.toDocument(request.path)));
}
