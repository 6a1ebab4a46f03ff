import { Problem } from '../http/problem';

/** What an SQLite error means to a player; null when the error is no SQLite error. */
export function storageProblem(thrown: unknown): Problem | null {
  const { code, driverError } = thrown as { code?: unknown; driverError?: { code?: unknown } };
  const sqlite = String(driverError?.code ?? code ?? '');
  if (!sqlite.startsWith('SQLITE_')) return null;
  if (sqlite.startsWith('SQLITE_BUSY') || sqlite.startsWith('SQLITE_LOCKED'))
    return new Problem(
      'storage-busy',
      'Another program holds Rackle’s database. The change is kept on this page and saved when the database is free.',
    );
  if (sqlite.startsWith('SQLITE_FULL'))
    return new Problem(
      'storage-full',
      'The disk is full. The change is kept on this page; it is saved once there is room.',
    );
  if (sqlite.startsWith('SQLITE_READONLY') || sqlite.startsWith('SQLITE_CANTOPEN') || sqlite.startsWith('SQLITE_PERM'))
    return new Problem(
      'storage-read-only',
      'Rackle may not write its database file. The change is kept on this page; check the data folder.',
    );
  return new Problem(
    'storage-failed',
    'The database refused the change. It is kept on this page; nothing that was saved before is lost.',
  );
}
