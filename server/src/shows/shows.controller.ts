import { Body, Controller, Get, HttpCode, Inject, Post, Res } from '@nestjs/common';
import { writeShowFile } from '@rackle/core';
import type { Response } from 'express';
import { ShowsService, type SavedShow } from './shows.service';

@Controller('api/v1/show')
export class ShowsController {
  constructor(@Inject(ShowsService) private readonly shows: ShowsService) {}

  /** Everything, with revisions. */
  @Get()
  get(): SavedShow {
    return this.shows.saved();
  }

  /** The show file. */
  @Get('file')
  export(@Res() response: Response): void {
    response.setHeader('Content-Disposition', 'attachment; filename="show.json"');
    response.type('application/json').send(writeShowFile(this.shows.export()));
  }

  @Post('file')
  @HttpCode(200)
  import(@Body() document: unknown): ReturnType<ShowsService['import']> {
    return this.shows.import(document);
  }
}
