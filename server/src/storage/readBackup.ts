import { copyFile, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { KIND_NAMES } from '@rackle/core/show';
import Sqlite from 'better-sqlite3';
import { DataSource } from 'typeorm';
import { tableOf } from '../aggregates/aggregate.entity';
import { Problem } from '../http/problem';
import { MIGRATIONS } from './migrations';

/** The disk says so, or the database. */
const FULL: ReadonlySet<string> = new Set(['ENOSPC', 'SQLITE_FULL']);

/** A row of an aggregate's table. */
export interface StoredRow {
  kind: string;
  id: string;
  body: string;
}

/**
 * What a copy of the database holds, as this Rackle reads it: a copy of the copy is migrated, the file stays as it is.
 * @throws Problem `unreadable`: it is damaged, no database of Rackle's, or one of a newer Rackle
 */
export async function readBackup(file: string): Promise<StoredRow[]> {
  const folder = await mkdtemp(join(tmpdir(), 'rackle-backup-'));
  const copy = join(folder, 'copy.sqlite');
  try {
    await copyFile(file, copy);
    look(copy);
    const source = new DataSource({
      type: 'better-sqlite3',
      database: copy,
      migrations: MIGRATIONS,
      synchronize: false,
    });
    await source.initialize();
    try {
      await source.runMigrations();
      const rows: StoredRow[] = [];
      for (const kind of KIND_NAMES.map(tableOf))
        for (const row of (await source.query(`SELECT "id", "body" FROM "${kind}" ORDER BY "id"`)) as StoredRow[])
          rows.push({ ...row, kind });
      return rows;
    } finally {
      await source.destroy();
    }
  } catch (cause) {
    if (cause instanceof Problem) throw cause;
    if (FULL.has((cause as { code?: string }).code ?? ''))
      throw new Problem('storage-full', 'The disk is full: there is no room to open the backup. Nothing was changed.');
    throw new Problem('unreadable', 'This backup is damaged, or it is no database of Rackle’s. Nothing was changed.');
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

function look(copy: string): void {
  const database = new Sqlite(copy, { readonly: true });
  try {
    if (database.pragma('quick_check', { simple: true }) !== 'ok') throw new Error('damaged');
    const applied = database.prepare('SELECT "name" FROM "migrations"').pluck().all() as string[];
    const known: readonly string[] = MIGRATIONS.map(({ name }) => name);
    if (applied.some((name) => !known.includes(name)))
      throw new Problem('unreadable', 'This backup was made by a newer Rackle. It stays as it is.');
  } finally {
    database.close();
  }
}
