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
  type Type,
} from '@nestjs/common';
import { KINDS, type Kind } from '@rackle/core/show';
import type { Response } from 'express';
import { EditsService } from '../edits/edits.service';
import { HistoryService, type Version } from '../history/history.service';
import { Problem } from '../http/problem';
import { BodiesService, type Saved } from './bodies.service';

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
export function aggregateController(kind: Kind): Type<unknown> {
  const { path, noun } = KINDS[kind];

  @Controller(`api/v1/${path}`)
  class AggregateController {
    constructor(
      @Inject(BodiesService) private readonly bodies: BodiesService,
      @Inject(EditsService) private readonly edits: EditsService,
      @Inject(HistoryService) private readonly past: HistoryService,
    ) {}

    @Get()
    list(): { id: string; name: string; revision: number; updatedAt: string }[] {
      return this.bodies
        .all(kind)
        .map(({ body: { id, name }, revision, updatedAt }) => ({ id, name, revision, updatedAt }))
        .sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
    }

    @Get(':id')
    get(@Param('id') id: string, @Res({ passthrough: true }) response: Response): Saved {
      return tagged(this.found(id), response);
    }

    @Put(':id')
    async put(
      @Param('id') id: string,
      @Headers('if-match') ifMatch: string | undefined,
      @Headers('if-none-match') ifNoneMatch: string | undefined,
      @Body() body: unknown,
      @Res({ passthrough: true }) response: Response,
    ): Promise<Saved> {
      const revision = revisionOf(ifMatch, ifNoneMatch);
      const saved = await this.edits.saveOne(kind, id, revision, body ?? {}, `save a ${noun}`).catch(asOfOne);
      return tagged(saved!, response);
    }

    @Delete(':id')
    @HttpCode(204)
    async delete(@Param('id') id: string, @Headers('if-match') ifMatch: string | undefined): Promise<void> {
      const revision = revisionOf(ifMatch, undefined);
      if (this.bodies.revisionOf(kind, id) === 0) throw new Problem('not-found', `There is no ${noun} ${id}.`);
      await this.edits.saveOne(kind, id, revision, null, `delete a ${noun}`).catch(asOfOne);
    }

    @Get(':id/history')
    async history(@Param('id') id: string): Promise<Version[]> {
      return (await this.past.versions({ kind, id })).versions;
    }

    @Get(':id/history/:revision')
    historical(@Param('id') id: string, @Param('revision', ParseIntPipe) revision: number): Promise<Saved> {
      return this.past.version(kind, id, revision);
    }

    private found(id: string): Saved {
      const saved = this.bodies.saved(kind, id);
      if (saved) return saved;
      const unread = this.bodies.unreadable.find((row) => row.kind === kind && row.id === id);
      throw new Problem('not-found', unread ? `${unread.problem}.` : `There is no ${noun} ${id}.`);
    }
  }
  return AggregateController;
}

function tagged(saved: Saved, response: Response): Saved {
  response.setHeader('ETag', `"${saved.revision}"`);
  return saved;
}

/** What an edit of one item was refused for, in terms of that item. */
function asOfOne(cause: unknown): never {
  if (!(cause instanceof Problem)) throw cause;
  const { items } = cause.extra as { items?: { current: unknown }[] };
  const path = cause.path[0] === 'items' ? cause.path.slice(3) : cause.path;
  throw new Problem(cause.code, cause.detail, path, items ? { current: items[0].current } : cause.extra);
}
