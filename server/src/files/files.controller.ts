import { Controller, Get, Inject, Param, Post, Query, Req, Res } from '@nestjs/common';
import type { Request, Response } from 'express';
import { Problem } from '../http/problem';
import { FilesService } from './files.service';
import { sendFile } from './sendFile';

/** Sample banks and recordings, as they are. */
@Controller('api/v1/files')
export class FilesController {
  constructor(@Inject(FilesService) private readonly files: FilesService) {}

  @Post()
  store(@Req() request: Request, @Query('use') use: string): Promise<{ hash: string; bytes: number }> {
    if (use !== 'bank' && use !== 'recording')
      throw new Problem('invalid', 'A file is stored as a bank or as a recording. Nothing was stored.', ['use']);
    const length = request.headers['content-length'];
    return this.files.store(request, use, length === undefined ? null : Number(length));
  }

  @Get()
  list(): { hashes: string[] } {
    return { hashes: this.files.list() };
  }

  @Get(':hash')
  get(@Param('hash') hash: string, @Res() response: Response): void {
    sendFile(this.files.find(hash), response);
  }
}
