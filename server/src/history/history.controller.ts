import { Body, Controller, Get, HttpCode, Inject, Param, ParseIntPipe, Put, Query } from '@nestjs/common';
import { KIND_NAMES } from '@rackle/core/show';
import { z } from 'zod';
import { checked } from '../http/checked';
import { HistoryService, type Version, type VersionWithBody } from './history.service';

const Asked = z.strictObject({
  kind: z.enum(KIND_NAMES).optional(),
  id: z.string().max(80).optional(),
  before: z.coerce.number().int().min(0).optional(),
});
const Note = z.strictObject({ note: z.string().trim().max(200) });

/** What was saved, when, by which edit: of everything, newest first. */
@Controller('api/v1/history')
export class HistoryController {
  constructor(@Inject(HistoryService) private readonly past: HistoryService) {}

  @Get()
  versions(@Query() query: unknown): Promise<{ versions: Version[]; isMore: boolean }> {
    return this.past.versions(checked(Asked, query));
  }

  @Get('deleted')
  deleted(): Promise<Version[]> {
    return this.past.deleted();
  }

  @Get(':number')
  one(@Param('number', ParseIntPipe) number: number): Promise<VersionWithBody> {
    return this.past.one(number);
  }

  @Put(':number/note')
  @HttpCode(204)
  annotate(@Param('number', ParseIntPipe) number: number, @Body() body: unknown): Promise<void> {
    return this.past.annotate(number, checked(Note, body).note);
  }
}
