import { randomUUID } from 'node:crypto';
import { itemWithMap, setlistWithActionKinds, songWithMap } from '@rackle/core/formats';
import type { MigrationInterface, QueryRunner } from 'typeorm';

const TABLES = ['songs', 'setlists', 'instruments', 'gear_lists'];

/** Rewrites what is stored of a kind, and what is kept of its past; what cannot be read stays as it is. */
async function rewrite(
  runner: QueryRunner,
  table: string,
  kind: string,
  change: (body: unknown) => unknown,
): Promise<void> {
  for (const [of, key, where] of [
    [table, 'id', '1'],
    ['history', 'number', `"kind" = '${kind}' AND "body" IS NOT NULL`],
  ]) {
    const keys = (await runner.query(`SELECT "${key}" AS "key" FROM "${of}" WHERE ${where}`)) as {
      key: string | number;
    }[];
    // One by one: what is kept of the past may be hundreds of megabytes.
    for (const row of keys) {
      const [{ body: text }] = (await runner.query(`SELECT "body" FROM "${of}" WHERE "${key}" = ?`, [row.key])) as {
        body: string;
      }[];
      const body = parsed(text);
      if (body === undefined) continue;
      await runner.query(`UPDATE "${of}" SET "body" = ? WHERE "${key}" = ?`, [JSON.stringify(change(body)), row.key]);
    }
  }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** The first tables: one row an aggregate, and every earlier state of each. */
export class Foundations1763000000000 implements MigrationInterface {
  name = 'Foundations1763000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const table of TABLES) {
      await runner.query(`CREATE TABLE "${table}" (
        "id" text PRIMARY KEY NOT NULL, "name" text NOT NULL, "revision" integer NOT NULL, "body" text NOT NULL, "createdAt" text NOT NULL, "updatedAt" text NOT NULL)`);
      await runner.query(`CREATE INDEX "${table}_by_name" ON "${table}" ("name")`);
    }
    await runner.query(`CREATE TABLE "history" (
      "number" integer PRIMARY KEY AUTOINCREMENT NOT NULL, "kind" text NOT NULL, "aggregateId" text NOT NULL, "revision" integer NOT NULL,
      "body" text, "savedAt" text NOT NULL, UNIQUE ("kind", "aggregateId", "revision"))`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of [...TABLES, 'history']) await runner.query(`DROP TABLE "${table}"`);
  }
}

/** Roles do more than single words can say: actions of setlists become objects, in what is kept of the past too. */
export class ActionKinds1764000000000 implements MigrationInterface {
  name = 'ActionKinds1764000000000';

  async up(runner: QueryRunner): Promise<void> {
    await rewrite(runner, 'setlists', 'setlists', setlistWithActionKinds);
  }

  /** An older Rackle cannot read what a newer one may have saved since; the backup of `--fresh` is the way back. */
  async down(): Promise<void> {
    throw new Error('there is no way back from this version of the database');
  }
}

/** The library, the shelf of stars and categories, and stored files. */
export class SoundsAndLibrary1765000000000 implements MigrationInterface {
  name = 'SoundsAndLibrary1765000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const table of ['library_items', 'shelves']) {
      await runner.query(`CREATE TABLE "${table}" (
        "id" text PRIMARY KEY NOT NULL, "name" text NOT NULL, "revision" integer NOT NULL, "body" text NOT NULL, "createdAt" text NOT NULL, "updatedAt" text NOT NULL)`);
      await runner.query(`CREATE INDEX "${table}_by_name" ON "${table}" ("name")`);
    }
    await runner.query(
      'CREATE TABLE "files" ("hash" text PRIMARY KEY NOT NULL, "bytes" integer NOT NULL, "createdAt" text NOT NULL)',
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['library_items', 'shelves', 'files']) await runner.query(`DROP TABLE "${table}"`);
  }
}

/** Edits by name: a data id, what was answered to each edit, and a history that says which edit made a state. */
export class EditsByName1766000000000 implements MigrationInterface {
  name = 'EditsByName1766000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE TABLE "meta" ("key" text PRIMARY KEY NOT NULL, "value" text NOT NULL)');
    await runner.query(`INSERT INTO "meta" ("key", "value") VALUES ('dataId', ?)`, [randomUUID()]);
    await runner.query(`CREATE TABLE "edits" (
      "id" text PRIMARY KEY NOT NULL, "hash" text NOT NULL, "answer" text NOT NULL, "savedAt" text NOT NULL)`);
    await runner.query('ALTER TABLE "history" RENAME TO "history_before"');
    await runner.query(`CREATE TABLE "history" (
      "number" integer PRIMARY KEY AUTOINCREMENT NOT NULL, "kind" text NOT NULL, "aggregateId" text NOT NULL,
      "revision" integer, "body" text, "savedAt" text NOT NULL, "editId" text, "label" text, "name" text,
      UNIQUE ("kind", "aggregateId", "revision"))`);
    await runner.query(`INSERT INTO "history" ("number", "kind", "aggregateId", "revision", "body", "savedAt")
      SELECT "number", "kind", "aggregateId", "revision", "body", "savedAt" FROM "history_before"`);
    await runner.query('DROP TABLE "history_before"');
  }

  async down(): Promise<void> {
    throw new Error('there is no way back from this version of the database');
  }
}

/** What is done in every setlist. */
export class EverySetlist1767000000000 implements MigrationInterface {
  name = 'EverySetlist1767000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "every_setlist" (
      "id" text PRIMARY KEY NOT NULL, "name" text NOT NULL, "revision" integer NOT NULL, "body" text NOT NULL, "createdAt" text NOT NULL, "updatedAt" text NOT NULL)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "every_setlist"');
  }
}

/** Tempo and meter of a song become a map. */
export class SongMaps1768000000000 implements MigrationInterface {
  name = 'SongMaps1768000000000';

  async up(runner: QueryRunner): Promise<void> {
    await rewrite(runner, 'songs', 'songs', songWithMap);
    await rewrite(runner, 'library_items', 'libraryItems', itemWithMap);
  }

  async down(): Promise<void> {
    throw new Error('there is no way back from this version of the database');
  }
}

/** States of the whole show under names, and the saved states that each is made of. */
export class NamedStates1769000000000 implements MigrationInterface {
  name = 'NamedStates1769000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'CREATE TABLE "states" ("id" text PRIMARY KEY NOT NULL, "name" text NOT NULL, "savedAt" text NOT NULL)',
    );
    await runner.query(`CREATE TABLE "state_versions" (
      "state" text NOT NULL, "version" integer NOT NULL, PRIMARY KEY ("state", "version"))`);
    await runner.query('CREATE INDEX "state_versions_by_version" ON "state_versions" ("version")');
    await runner.query('CREATE INDEX "history_of_one" ON "history" ("kind", "aggregateId", "number")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX "history_of_one"');
    for (const table of ['state_versions', 'states']) await runner.query(`DROP TABLE "${table}"`);
  }
}

/** Every migration, in order; none is ever changed. */
export const MIGRATIONS = [
  Foundations1763000000000,
  ActionKinds1764000000000,
  SoundsAndLibrary1765000000000,
  EditsByName1766000000000,
  EverySetlist1767000000000,
  SongMaps1768000000000,
  NamedStates1769000000000,
];
