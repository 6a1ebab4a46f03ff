import { createRequire } from 'node:module';
import { join } from 'node:path';

interface Statement {
  get(id: string): { body: string };
  run(...values: string[]): void;
}
interface Sqlite {
  prepare(text: string): Statement;
  close(): void;
}

/** A database of a server that does not run, for tests of what a damaged one does. */
export class StoppedDatabase {
  constructor(private readonly file: string) {}

  /** A song's row as no Rackle writes it. */
  damage(id: string): void {
    const load = createRequire(join(import.meta.dirname, '../../server/package.json'));
    const Database = load('better-sqlite3') as new (file: string) => Sqlite;
    const database = new Database(this.file);
    const { body } = database.prepare('SELECT "body" FROM "songs" WHERE "id" = ?').get(id);
    const damaged = JSON.stringify({ ...(JSON.parse(body) as object), durationSeconds: 9999 });
    database.prepare('UPDATE "songs" SET "body" = ? WHERE "id" = ?').run(damaged, id);
    database.close();
  }
}
