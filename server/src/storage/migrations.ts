import type { MigrationInterface, QueryRunner } from 'typeorm';

const TABLES = ['songs', 'setlists', 'instruments', 'gear_lists'];

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

export const MIGRATIONS = [Foundations1763000000000];
