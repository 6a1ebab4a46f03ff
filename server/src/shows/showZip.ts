import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { randomUUID } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import { writeShowFile } from '@rackle/core/formats';
import { filesOf, type Instrument } from '@rackle/core/show';
import yauzl from 'yauzl';
import yazl from 'yazl';
import { FILES_FOLDER, FilesService, LARGEST_FILE, type FileUse } from '../files/files.service';
import { Problem } from '../http/problem';
import { ShowsService } from './shows.service';

const SHOW_NAME = 'show.json';
const FILE_NAME = /^(banks|recordings)\/([0-9a-f]{64})$/;
const LARGEST_SHOW = 24 * 1024 * 1024;
const LARGEST_ZIP = 8 * LARGEST_FILE;
const FOLDERS: Record<FileUse, string> = { bank: 'banks', recording: 'recordings' };

/**
 * The show file with what it needs, as one archive: `show.json`, and under `banks/` and `recordings/` the files that its
 * instruments name, each under its SHA-256.
 */
@Injectable()
export class ShowZip {
  constructor(
    @Inject(ShowsService) private readonly shows: ShowsService,
    @Inject(FilesService) private readonly files: FilesService,
    /** Where an archive is while it is unpacked: what is left of one goes at the next start. */
    @Inject(FILES_FOLDER) private readonly uploads: string,
  ) {}

  /** Streamed: no file is ever whole in memory. Files that are not stored here are left out. */
  write(): NodeJS.ReadableStream {
    const show = this.shows.export();
    const zip = new yazl.ZipFile();
    zip.addBuffer(Buffer.from(writeShowFile(show)), SHOW_NAME);
    const names = new Set<string>();
    for (const instrument of show.instruments)
      for (const hash of filesOf(instrument)) {
        const name = `${FOLDERS[useOf(instrument)]}/${hash}`;
        if (names.has(name) || !this.files.has(hash)) continue;
        names.add(name);
        // Samples are no longer for being packed again.
        zip.addFile(this.files.find(hash), name, { compress: false });
      }
    zip.end();
    return zip.outputStream;
  }

  /**
   * Stores the files of an archive and gives its show back, which has not been opened yet.
   * @throws Problem `file-broken`, `too-large`, `not-a-show`
   */
  async read(input: Readable): Promise<{ show: unknown; files: number }> {
    await mkdir(this.uploads, { recursive: true });
    const part = join(this.uploads, `${randomUUID()}.part`);
    try {
      await pipeline(input, limited(LARGEST_ZIP), createWriteStream(part));
      return await this.unpack(part);
    } finally {
      await rm(part, { force: true });
    }
  }

  private async unpack(path: string): Promise<{ show: unknown; files: number }> {
    let text: string | null = null;
    let files = 0;
    try {
      const zip = await yauzl.openPromise(path);
      for await (const entry of zip.eachEntry()) {
        const found = FILE_NAME.exec(entry.fileName);
        if (entry.fileName === SHOW_NAME) {
          if (entry.uncompressedSize > LARGEST_SHOW)
            throw new Problem(
              'too-large',
              'The show in the archive is larger than Rackle takes (24 MB). Nothing was changed.',
            );
          text = await textOf(await zip.openReadStreamPromise(entry));
        } else if (found) {
          const use = found[1] === FOLDERS.bank ? 'bank' : 'recording';
          const stored = await this.files.store(await zip.openReadStreamPromise(entry), use, entry.uncompressedSize);
          if (stored.hash !== found[2])
            throw new Problem(
              'file-broken',
              `A file in the archive is not what its name says (${found[2].slice(0, 12)} …). The show was not changed.`,
            );
          files++;
        }
      }
    } catch (cause) {
      if (cause instanceof Problem) throw cause;
      throw new Problem(
        'file-broken',
        'The archive cannot be read: it is damaged, cut short, or none. The show was not changed.',
      );
    }
    if (text === null) throw new Problem('not-a-show', `The archive has no ${SHOW_NAME}. The show was not changed.`);
    try {
      return { show: JSON.parse(text) as unknown, files };
    } catch {
      throw new Problem('not-a-show', 'The show in the archive is broken JSON. Nothing was changed.');
    }
  }
}

const useOf = (instrument: Instrument): FileUse => (instrument.kind === 'bank' ? 'bank' : 'recording');

async function textOf(stream: Readable): Promise<string> {
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(part as Buffer);
  return Buffer.concat(parts).toString('utf8');
}

/** Passes bytes on until there are too many. */
const limited = (most: number) =>
  async function* (source: AsyncIterable<Buffer>) {
    let bytes = 0;
    for await (const chunk of source) {
      bytes += chunk.length;
      if (bytes > most) throw new Problem('too-large', 'The archive is larger than Rackle takes. Nothing was changed.');
      yield chunk;
    }
  };
