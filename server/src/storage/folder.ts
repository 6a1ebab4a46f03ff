import { accessSync, constants, existsSync, mkdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import Sqlite from 'better-sqlite3';
import { BACKUP_FOLDER, backUp } from './backups';
import { MIGRATIONS } from './migrations';
import { StartProblem } from './startProblem';

/** Name of the database’s file. */
export const DATABASE = 'rackle.sqlite';
const HOW_TO_RESTORE = 'npm run backups lists what can be brought back, npm run restore -- NAME does it';

/** The data folder, held by this process alone for as long as it lives. */
export interface DataFolder {
  databaseFile: string;
  release(): void;
}

/**
 * Takes a data folder: makes it, locks it, and looks whether its database can be opened by this Rackle; what a migration
 * is going to change is backed up first.
 * @throws StartProblem with one clear line
 */
export async function openFolder(folder: string): Promise<DataFolder> {
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK);
  } catch {
    throw new StartProblem(`the data folder ${folder} cannot be written; choose another one with RACKLE_DATA`);
  }
  const release = lock(folder);
  try {
    const databaseFile = join(folder, DATABASE);
    await checkDatabase(databaseFile, folder);
    return { databaseFile, release };
  } catch (cause) {
    release();
    throw cause;
  }
}

/**
 * An exclusive transaction on a database of its own: it ends with the process, however that ends. A file with a process
 * number would be in the way after a kill.
 */
export function lock(folder: string): () => void {
  let held: Sqlite.Database;
  try {
    held = new Sqlite(join(folder, 'lock.sqlite'), { timeout: 0 });
    held.exec('BEGIN EXCLUSIVE');
  } catch (cause) {
    const { code = '' } = cause as { code?: string };
    if (code.startsWith('SQLITE_BUSY') || code.startsWith('SQLITE_LOCKED'))
      throw new StartProblem(`another Rackle runs with the data folder ${folder}; end it first, or set RACKLE_DATA`);
    throw new StartProblem(`the data folder ${folder} cannot be written; choose another one with RACKLE_DATA`);
  }
  return () => held.close();
}

const OWN_TABLES = ['songs', 'setlists', 'history', 'migrations'];

/** Looks into a database without changing it. @throws StartProblem when it is no database of this Rackle */
async function checkDatabase(file: string, folder: string): Promise<void> {
  if (!existsSync(file)) return;
  if (statSync(file).size === 0 && !existsSync(`${file}-wal`))
    throw new StartProblem(`the database ${file} is empty (0 bytes), as after a full disk; ${HOW_TO_RESTORE}`);
  const applied = readable(file);
  const known: readonly string[] = MIGRATIONS.map(({ name }) => name);
  if (applied.some((name) => !known.includes(name)))
    throw new StartProblem(`the database ${file} was written by a newer Rackle; start that one, or set RACKLE_DATA`);
  if (applied.length < known.length) {
    const database = new Sqlite(file);
    try {
      await backUp(database, join(folder, BACKUP_FOLDER), new Date(), 'before-migration');
    } finally {
      database.close();
    }
  }
}

/** @returns names of the migrations that a database of Rackle's has gone through */
function readable(file: string): string[] {
  const broken = new StartProblem(`the database ${file} is damaged or cut short; ${HOW_TO_RESTORE}`);
  let database: Sqlite.Database;
  try {
    database = new Sqlite(file, { readonly: true, fileMustExist: true });
  } catch (cause) {
    throw (cause as { code?: string }).code === 'SQLITE_CANTOPEN' ? cannotOpen(file) : broken;
  }
  try {
    const tables = database.prepare(`SELECT "name" FROM "sqlite_master" WHERE "type" = 'table'`).pluck().all();
    if (!OWN_TABLES.every((table) => tables.includes(table)))
      throw new StartProblem(`the database ${file} is not one of Rackle's; move it away, or set RACKLE_DATA`);
    if (database.pragma('quick_check', { simple: true }) !== 'ok') throw broken;
    return database.prepare('SELECT "name" FROM "migrations"').pluck().all() as string[];
  } catch (cause) {
    if (cause instanceof StartProblem) throw cause;
    if ((cause as { code?: string }).code === 'SQLITE_NOTADB')
      throw new StartProblem(`the file ${file} is no database, or its beginning is overwritten; ${HOW_TO_RESTORE}`);
    throw (cause as { code?: string }).code === 'SQLITE_CANTOPEN' ? cannotOpen(file) : broken;
  } finally {
    database.close();
  }
}

const cannotOpen = (file: string): StartProblem =>
  new StartProblem(`the database ${file} cannot be opened; check who may read and write it`);
