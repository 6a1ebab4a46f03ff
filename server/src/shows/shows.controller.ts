import { Body, Controller, Get, HttpCode, Inject, Post, Req, Res } from '@nestjs/common';
import { writeShowFile } from '@rackle/core/formats';
import type { Request, Response } from 'express';
import { ShowZip } from './showZip';
import { ShowsService, type SavedShow } from './shows.service';

/** The show as a whole: as JSON, as a file, as an archive. */
@Controller('api/v1/show')
export class ShowsController {
  constructor(
    @Inject(ShowsService) private readonly shows: ShowsService,
    @Inject(ShowZip) private readonly archive: ShowZip,
  ) {}

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

  /** The same with the banks and recordings that it names. */
  @Get('zip')
  zip(@Res() response: Response): void {
    response.setHeader('Content-Disposition', 'attachment; filename="show.rackle.zip"');
    const stream = this.archive.write();
    stream.on('error', () => response.destroy());
    stream.pipe(response.type('application/zip'));
  }

  /** Stores what an archive carries, and gives its show back; the page then asks and opens it. */
  @Post('zip')
  @HttpCode(200)
  unzip(@Req() request: Request): ReturnType<ShowZip['read']> {
    return this.archive.read(request);
  }

  @Post('file')
  @HttpCode(200)
  import(@Body() document: unknown): ReturnType<ShowsService['import']> {
    return this.shows.import(document);
  }
}
