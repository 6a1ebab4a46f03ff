import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream, existsSync, mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Inject, Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { checkBankHead } from '@rackle/core/formats';
import { FileHash, SHIPPED_BANK } from '@rackle/core/show';
import Sqlite from 'better-sqlite3';
import { Problem } from '../http/problem';
import { BACKUP_FOLDER, listBackups, sync } from '../storage/backups';
import { Database } from '../storage/database';
import { FileEntity } from './file.entity';
import { shippedFile } from './shippedFile';

/** Where they stand within the data folder. */
export const FILES_FOLDER = Symbol('files folder');

/** In bytes. */
export const LARGEST_FILE = 1_000_000_000;
/** A file that nothing points at stays this long, for an undo or a version that is brought back. */
const KEPT_DAYS = 30;
const CLEAN_EVERY_MS = 6 * 3_600_000;
const HEAD_BYTES = 12;

/** What plays a file. */
export type FileUse = 'bank' | 'recording';

/** Files named by what they contain: the same file is stored once, and none by half. */
@Injectable()
export class FilesService implements OnApplicationBootstrap, OnApplicationShutdown {
  private timer: NodeJS.Timeout | null = null;

  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(FILES_FOLDER) private readonly folder: string,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    mkdirSync(this.folder, { recursive: true });
    // What an upload left behind that did not come to its end.
    for (const name of readdirSync(this.folder))
      if (name.endsWith('.part')) rmSync(join(this.folder, name), { force: true });
    await this.clean(new Date());
    this.timer = setInterval(() => void this.clean(new Date()), CLEAN_EVERY_MS);
    this.timer.unref();
  }

  onApplicationShutdown(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /**
   * Takes a file in, whole or not at all.
   * @throws Problem `too-large`, `file-broken` (empty, cut short, or a bank that is none)
   */
  async store(input: Readable, use: FileUse, expectedBytes: number | null): Promise<{ hash: string; bytes: number }> {
    if (expectedBytes !== null && expectedBytes > LARGEST_FILE) throw tooLarge();
    const part = join(this.folder, `${randomUUID()}.part`);
    const hash = createHash('sha256');
    let bytes = 0;
    let head = Buffer.alloc(0);
    try {
      await pipeline(
        input,
        async function* (source: AsyncIterable<Buffer>) {
          for await (const chunk of source) {
            bytes += chunk.length;
            if (bytes > LARGEST_FILE) throw tooLarge();
            if (head.length < HEAD_BYTES) head = Buffer.concat([head, chunk.subarray(0, HEAD_BYTES - head.length)]);
            hash.update(chunk);
            yield chunk;
          }
        },
        createWriteStream(part),
      );
      if (bytes === 0) throw new Problem('file-broken', 'The file is empty. Nothing was stored.');
      if (expectedBytes !== null && bytes !== expectedBytes)
        throw new Problem('file-broken', 'The upload ended before the file did. Nothing was stored.');
      const fault = use === 'bank' ? checkBankHead(head, bytes) : null;
      if (fault) throw new Problem('file-broken', `${fault} Nothing was stored.`);
      const name = hash.digest('hex');
      // What is acknowledged survives a power cut: the bytes, and their name in the folder.
      sync(part);
      renameSync(part, this.path(name));
      sync(this.folder);
      await this.database.write((manager) =>
        manager.upsert(FileEntity, { hash: name, bytes, createdAt: new Date().toISOString() }, ['hash']),
      );
      return { hash: name, bytes };
    } catch (cause) {
      if ((cause as { code?: string }).code === 'ENOSPC')
        throw new Problem('storage-full', 'The disk is full. Nothing was stored.');
      throw cause;
    } finally {
      rmSync(part, { force: true });
    }
  }

  /** Names of the files that are there, those that ship with Rackle among them. */
  list(): string[] {
    const shipped = SHIPPED_BANK.file;
    return [...new Set([...readdirSync(this.folder), ...(this.has(shipped) ? [shipped] : [])])]
      .filter((name) => FileHash.safeParse(name).success)
      .sort();
  }

  has(hash: string): boolean {
    return FileHash.safeParse(hash).success && (existsSync(this.path(hash)) || shippedFile(hash) !== null);
  }

  /** Path of a stored file, or of one that ships with Rackle. @throws Problem `not-found` */
  find(hash: string): string {
    const path = FileHash.safeParse(hash).success ? this.path(hash) : null;
    if (path !== null && existsSync(path)) return path;
    const shipped = shippedFile(hash);
    if (shipped === null)
      throw new Problem('not-found', 'This file is not stored here. Bring it in again; what points at it is kept.');
    return shipped;
  }

  /** Bodies of the instruments of each backup: what is brought back needs its files. */
  private instrumentsOfBackups(): string[] {
    const folder = join(dirname(this.folder), BACKUP_FOLDER);
    return listBackups(folder).map(({ name }) => {
      const backup = new Sqlite(join(folder, name), { readonly: true });
      try {
        return (backup.prepare('SELECT "body" FROM "instruments"').pluck().all() as string[]).join('\n');
      } finally {
        backup.close();
      }
    });
  }

  private path(hash: string): string {
    return join(this.folder, hash);
  }

  /** Takes away what no instrument needs, and no state that is kept of one names. @returns the hashes that went. */
  clean(now: Date): Promise<string[]> {
    const since = new Date(now.getTime() - KEPT_DAYS * 86_400_000).toISOString();
    const inBackups = this.instrumentsOfBackups();
    return this.database.write(async (manager) => {
      const gone: string[] = [];
      for (const file of await manager.find(FileEntity)) {
        if (file.createdAt > since) continue;
        // Whatever is kept of the past may be brought back, with its sound.
        const pattern = `%${file.hash}%`;
        const [{ uses }] = (await manager.query(
          `SELECT (SELECT count(*) FROM "instruments" WHERE "body" LIKE ?) + (SELECT count(*) FROM "history" WHERE "kind" = 'instruments' AND "body" LIKE ?) AS "uses"`,
          [pattern, pattern],
        )) as { uses: number }[];
        if (uses > 0 || inBackups.some((text) => text.includes(file.hash))) continue;
        await manager.delete(FileEntity, { hash: file.hash });
        rmSync(this.path(file.hash), { force: true });
        gone.push(file.hash);
      }
      return gone;
    });
  }
}

const tooLarge = (): Problem =>
  new Problem('too-large', 'The file is larger than Rackle takes (1 GB). Nothing was stored.');
