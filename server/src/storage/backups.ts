import { randomUUID } from 'node:crypto';
import {
  closeSync,
  copyFileSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { join } from 'node:path';
import Sqlite from 'better-sqlite3';
import { StartProblem } from './startProblem';

/** Where backups stand within the data folder. */
export const BACKUP_FOLDER = 'backups';
const DAY_MS = 86_400_000;
const WEEK_MS = 7 * DAY_MS;
const DAYS = 7;
const WEEKS = 4;

/** What a backup was made for. */
export type BackupReason = 'daily' | 'before-migration' | 'before-restore';

/** A backup by its file. */
export interface Backup {
  /** Its file, in the folder of backups. */
  name: string;
  /** UTC. */
  madeAt: Date;
  reason: BackupReason;
  bytes: number;
}

/** `2026-11-26T00-44-56Z.daily.sqlite` */
const nameOf = (madeAt: Date, reason: BackupReason): string =>
  `${madeAt.toISOString().slice(0, 19).replaceAll(':', '-')}Z.${reason}.sqlite`;
const NAME = /^(\d{4}-\d\d-\d\dT)(\d\d)-(\d\d)-(\d\d)Z\.(daily|before-migration|before-restore)\.sqlite$/;

/** Newest first. */
export function listBackups(folder: string): Backup[] {
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .flatMap((name): Backup[] => {
      const found = NAME.exec(name);
      if (!found) return [];
      const [, day, hour, minute, second, reason] = found;
      const madeAt = new Date(`${day}${hour}:${minute}:${second}Z`);
      return [{ name, madeAt, reason: reason as BackupReason, bytes: statSync(join(folder, name)).size }];
    })
    .sort((a, b) => b.madeAt.getTime() - a.madeAt.getTime());
}

/** What has been written to a file or a folder is on the disk afterwards. */
export function sync(path: string): void {
  const opened = openSync(path, 'r');
  try {
    fsyncSync(opened);
  } finally {
    closeSync(opened);
  }
}

/**
 * Copies a database that is in use, whole or not at all: by SQLite's online backup, looked through before it counts.
 * @returns the name of the backup
 */
export async function backUp(
  database: Sqlite.Database,
  folder: string,
  now: Date,
  reason: BackupReason,
): Promise<string> {
  mkdirSync(folder, { recursive: true });
  const name = nameOf(now, reason);
  const part = join(folder, `${name}.part`);
  rmSync(part, { force: true });
  await database.backup(part);
  const copy = new Sqlite(part);
  try {
    // A copy stands by itself, without a write-ahead log beside it.
    copy.pragma('journal_mode = DELETE');
    if (copy.pragma('quick_check', { simple: true }) !== 'ok') throw new Error('the copy is not whole');
  } finally {
    copy.close();
  }
  sync(part);
  renameSync(part, join(folder, name));
  sync(folder);
  return name;
}

/** Backups that may go: kept are the newest of each of seven days and of four weeks, others for four weeks. */
export function outdated(backups: readonly Backup[], now: Date): Backup[] {
  const kept = new Set<string>();
  const slots = new Set<string>();
  for (const { name, madeAt, reason } of [...backups].sort((a, b) => b.madeAt.getTime() - a.madeAt.getTime())) {
    const ageMs = now.getTime() - madeAt.getTime();
    if (reason !== 'daily') {
      if (ageMs < WEEKS * WEEK_MS) kept.add(name);
      continue;
    }
    const day = `day ${Math.floor(madeAt.getTime() / DAY_MS)}`;
    const week = `week ${Math.floor(madeAt.getTime() / WEEK_MS)}`;
    if ((ageMs < DAYS * DAY_MS && !slots.has(day)) || (ageMs < WEEKS * WEEK_MS && !slots.has(week))) kept.add(name);
    slots.add(day);
    slots.add(week);
  }
  return backups.filter(({ name }) => !kept.has(name));
}

/** Lets go of old backups: the daily ones thin out with age. */
export function rotate(folder: string, now: Date): void {
  for (const { name } of outdated(listBackups(folder), now)) rmSync(join(folder, name), { force: true });
}

/**
 * Brings a backup back, once the present database is kept aside. Only with the folder's lock. Whatever interrupts it,
 * either the old database stands or the new one does.
 * @returns where the database of before is kept, null: there was none
 * @throws StartProblem when there is no such backup, or it is not whole
 */
export async function restore(
  dataFolder: string,
  databaseName: string,
  name: string,
  now: Date,
): Promise<string | null> {
  const folder = join(dataFolder, BACKUP_FOLDER);
  const chosen = listBackups(folder).find((backup) => backup.name === name || backup.name === `${name}.sqlite`);
  if (!chosen) {
    const there = listBackups(folder).map((backup) => backup.name);
    throw new StartProblem(
      `there is no backup ${name}; ${there.length > 0 ? `there are: ${there.join(', ')}` : 'there is none yet'}`,
    );
  }
  const present = join(dataFolder, databaseName);
  const next = `${present}.next`;
  for (const end of ['', '-wal', '-shm']) rmSync(next + end, { force: true });
  const source = new Sqlite(join(folder, chosen.name), { readonly: true, fileMustExist: true });
  try {
    if (source.pragma('integrity_check', { simple: true }) !== 'ok')
      throw new StartProblem(`the backup ${name} is damaged; choose an older one`);
    await source.backup(next);
  } finally {
    source.close();
  }
  const copy = new Sqlite(next);
  try {
    copy.pragma('journal_mode = DELETE');
    // Pages that still hold edits for the database of before must not write them over this one.
    if (copy.prepare(`SELECT 1 FROM "sqlite_master" WHERE "name" = 'meta'`).get())
      copy.prepare(`UPDATE "meta" SET "value" = ? WHERE "key" = 'dataId'`).run(randomUUID());
  } finally {
    copy.close();
  }
  sync(next);
  const aside = await setAside(present, databaseName, folder, now);
  // At one moment the one stands, at the next the other.
  renameSync(next, present);
  sync(dataFolder);
  return aside;
}

/** Leaves a data folder without a database, once the present one is kept aside. Only with the folder's lock. */
export async function beginAnew(dataFolder: string, databaseName: string, now: Date): Promise<string | null> {
  const present = join(dataFolder, databaseName);
  const kept = await setAside(present, databaseName, join(dataFolder, BACKUP_FOLDER), now);
  rmSync(present, { force: true });
  sync(dataFolder);
  return kept;
}

/** Keeps the present database: as a backup where it can be read, else as it is, with what belongs to it. @returns where */
async function setAside(present: string, databaseName: string, folder: string, now: Date): Promise<string | null> {
  if (!existsSync(present)) return null;
  let kept: string;
  try {
    const database = new Sqlite(present);
    try {
      kept = join(folder, await backUp(database, folder, now, 'before-restore'));
      database.pragma('wal_checkpoint(TRUNCATE)');
    } finally {
      database.close();
    }
  } catch {
    kept = join(folder, `unreadable-${now.toISOString().slice(0, 19).replaceAll(':', '-')}Z`);
    mkdirSync(kept, { recursive: true });
    for (const end of ['', '-wal', '-shm'])
      if (existsSync(present + end)) copyFileSync(present + end, join(kept, databaseName + end));
    sync(kept);
  }
  // A log that is left would be taken for that of the database which comes.
  for (const end of ['-wal', '-shm']) rmSync(present + end, { force: true });
  return kept;
}
