import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Request, Response } from 'express';
import { storageProblem } from '../storage/storageProblem';
import { Problem } from './problem';
import { sendProblem } from './sendProblem';

/** Turns whatever was thrown into a problem document. Nothing of the machine shows in it. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly log = new Logger('http');

  catch(thrown: unknown, host: ArgumentsHost): void {
    const request = host.switchToHttp().getRequest<Request>();
    const response = host.switchToHttp().getResponse<Response>();
    const problem = this.toProblem(thrown);
    if (problem.status >= 500)
      this.log.error(
        `${request.method} ${request.path}: ${problem.code}: ${thrown instanceof Error ? thrown.message : String(thrown)}`,
      );
    if (response.headersSent) return;
    sendProblem(problem, request, response);
  }

  private toProblem(thrown: unknown): Problem {
    if (thrown instanceof Problem) return thrown;
    if (thrown instanceof HttpException) {
      if (thrown.getStatus() === 404) return new Problem('not-found', 'There is nothing at this address.');
      if (thrown.getStatus() < 500) return new Problem('invalid', thrown.message);
    }
    return (
      storageProblem(thrown) ??
      new Problem(
        'unexpected',
        'Your change may not have been saved; try again. Nothing that was saved before is lost.',
      )
    );
  }
}
