import {
  Body,
  Controller,
  Delete,
  Get,
  Headers,
  HttpCode,
  Inject,
  Param,
  ParseIntPipe,
  Put,
  Res,
  type InjectionToken,
  type Type,
} from '@nestjs/common';
import type { Response } from 'express';
import { Problem } from '../http/problem';
import type { AggregateStore, Saved } from './aggregate.store';

type Anything = AggregateStore<{ id: string; name: string }>;

/** The revision of an `If-Match: "3"` header; `If-None-Match: *` is 0, something new. RFC 9110, 13.1. */
function revisionOf(ifMatch: string | undefined, ifNoneMatch: string | undefined): number {
  if (ifNoneMatch === '*') return 0;
  const match = /^"(\d{1,9})"$/.exec(ifMatch ?? '');
  if (!match)
    throw new Problem(
      'revision-missing',
      'A change needs If-Match with the revision in quotes, something new If-None-Match: *.',
    );
  return Number(match[1]);
}

/** The REST door of one kind of aggregate, at `/api/v1/{path}`. */
export function aggregateController(path: string, token: InjectionToken): Type<unknown> {
  @Controller(`api/v1/${path}`)
  class AggregateController {
    constructor(@Inject(token) private readonly store: Anything) {}

    @Get()
    list(): ReturnType<Anything['list']> {
      return this.store.list();
    }

    @Get(':id')
    async get(@Param('id') id: string, @Res({ passthrough: true }) response: Response): Promise<Saved<unknown>> {
      return this.tagged(await this.store.get(id), response);
    }

    @Put(':id')
    async put(
      @Param('id') id: string,
      @Headers('if-match') ifMatch: string | undefined,
      @Headers('if-none-match') ifNoneMatch: string | undefined,
      @Body() body: unknown,
      @Res({ passthrough: true }) response: Response,
    ): Promise<Saved<unknown>> {
      return this.tagged(await this.store.save(id, revisionOf(ifMatch, ifNoneMatch), body), response);
    }

    @Delete(':id')
    @HttpCode(204)
    delete(@Param('id') id: string, @Headers('if-match') ifMatch: string | undefined): Promise<void> {
      return this.store.delete(id, revisionOf(ifMatch, undefined));
    }

    @Get(':id/history')
    history(@Param('id') id: string): ReturnType<Anything['history']> {
      return this.store.history(id);
    }

    @Get(':id/history/:revision')
    historical(@Param('id') id: string, @Param('revision', ParseIntPipe) revision: number): Promise<Saved<unknown>> {
      return this.store.historical(id, revision);
    }

    private tagged(saved: Saved<unknown>, response: Response): Saved<unknown> {
      response.setHeader('ETag', `"${saved.revision}"`);
      return saved;
    }
  }
  return AggregateController;
}
