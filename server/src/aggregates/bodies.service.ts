import { Inject, Injectable, type OnModuleInit } from '@nestjs/common';
import {
  KINDS,
  KIND_NAMES,
  bodyOf,
  invalid,
  noBodies,
  wordOf,
  applied,
  type Bodies,
  type Body,
  type Change,
  type Kind,
} from '@rackle/core/show';
import type { EntityManager } from 'typeorm';
import { HistoryEntity } from '../history/history.entity';
import { Database } from '../storage/database';
import { MetaEntity } from '../storage/meta.entity';
import { TABLES, tableOf, type AggregateRow } from './aggregate.entity';

/** Something that was saved, at its new revision. */
export interface Saved<T = Body> {
  revision: number;
  updatedAt: string;
  body: T;
}

/** A row that nobody can read: the rest opens without it, and nothing is written over it unasked. */
export interface UnreadableRow {
  kind: Kind;
  id: string;
  name: string;
  revision: number;
  /** Its body, as it stands in the database. */
  text: string;
  /** What is wrong with it, in words. */
  problem: string;
  /** Its newest version that can be read. */
  lastGood: { revision: number; savedAt: string; body: Body } | null;
}

const keyOf = (kind: Kind, id: string): string => `${kind} ${id}`;
const byId = (a: { body: Body }, b: { body: Body }): number => (a.body.id < b.body.id ? -1 : 1);

/** The show as the database holds it, read once at the start; whoever writes says here what has been committed. */
@Injectable()
export class BodiesService implements OnModuleInit {
  private present: Bodies = noBodies();
  private readonly rows = new Map<string, Omit<AggregateRow, 'body' | 'name'>>();
  private readonly broken = new Map<string, UnreadableRow>();
  /** Random, of this database; another one, or one that was brought back, has another. */
  dataId = '';
  /** Number of the newest history row: grows with every save. */
  serial = 0;

  constructor(@Inject(Database) private readonly database: Database) {}

  async onModuleInit(): Promise<void> {
    await this.database.write(async (manager) => {
      this.dataId = (await manager.findOneByOrFail(MetaEntity, { key: 'dataId' })).value;
      this.serial = await newestNumber(manager);
      for (const kind of KIND_NAMES)
        for (const row of await manager.find(TABLES[kind])) await this.take(manager, kind, row);
    });
  }

  private async take(manager: EntityManager, kind: Kind, row: AggregateRow): Promise<void> {
    this.rows.set(keyOf(kind, row.id), row);
    const read = readBody(kind, row.body);
    if (read.ok) (this.present[kind] as Record<string, Body>)[row.id] = read.body;
    else {
      const { id, name, revision } = row;
      const lastGood = await this.lastGood(manager, kind, id);
      const problem = `${name} cannot be read: ${read.problem}`;
      this.broken.set(keyOf(kind, id), { kind, id, name, revision, text: row.body, problem, lastGood });
    }
  }

  private async lastGood(manager: EntityManager, kind: Kind, id: string): Promise<UnreadableRow['lastGood']> {
    const versions = await manager.find(HistoryEntity, {
      where: { kind: tableOf(kind), aggregateId: id },
      order: { number: 'DESC' },
    });
    for (const { body, revision, savedAt } of versions) {
      const read = body === null ? null : readBody(kind, body);
      if (read?.ok && revision !== null) return { revision, savedAt, body: read.body };
    }
    return null;
  }

  get bodies(): Bodies {
    return this.present;
  }

  get unreadable(): UnreadableRow[] {
    return [...this.broken.values()];
  }

  isUnreadable = (kind: Kind, id: string): boolean => this.broken.has(keyOf(kind, id));

  /** 0: it is not there. */
  revisionOf(kind: Kind, id: string): number {
    return this.rows.get(keyOf(kind, id))?.revision ?? 0;
  }

  createdAt(kind: Kind, id: string): string | null {
    return this.rows.get(keyOf(kind, id))?.createdAt ?? null;
  }

  /** null: it is not there, or cannot be read. */
  saved(kind: Kind, id: string): Saved | null {
    const body = bodyOf(this.present, kind, id);
    const row = this.rows.get(keyOf(kind, id));
    return body && row ? { revision: row.revision, updatedAt: row.updatedAt, body } : null;
  }

  /** In the order of their ids, which does not depend on when they were made. */
  all(kind: Kind): Saved[] {
    return Object.keys(this.present[kind])
      .map((id) => this.saved(kind, id)!)
      .sort(byId);
  }

  /** What has just been committed: the changes, with the revision and the time of each. */
  committed(changes: readonly Change[], revisions: readonly number[], at: string, serial: number): void {
    this.present = applied(this.present, changes);
    this.serial = serial;
    changes.forEach(({ kind, id, after }, i) => {
      const key = keyOf(kind, id);
      this.broken.delete(key);
      if (after === null) this.rows.delete(key);
      else
        this.rows.set(key, {
          id,
          revision: revisions[i],
          createdAt: this.rows.get(key)?.createdAt ?? at,
          updatedAt: at,
        });
    });
  }
}

/** A stored body, checked, or what is wrong with it. */
export function readBody(kind: Kind, text: string): { ok: true; body: Body } | { ok: false; problem: string } {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    return { ok: false, problem: 'its row is no JSON' };
  }
  const parsed = KINDS[kind].schema.safeParse(document);
  if (parsed.success) return { ok: true, body: parsed.data };
  const { path } = invalid(kind, '', parsed.error);
  const [{ message }] = parsed.error.issues;
  const value = path.reduce<unknown>((at, step) => (at as Record<string, unknown> | undefined)?.[step], document);
  const shown = typeof value === 'number' || typeof value === 'string' ? ` ${String(value).slice(0, 40)}` : '';
  const where = path.map((step) => (typeof step === 'number' ? step + 1 : wordOf(step))).join(' ');
  return { ok: false, problem: `${where}${shown}: ${message.slice(0, 200)}` };
}

/** Number of the newest history row there ever was. */
export async function newestNumber(manager: EntityManager): Promise<number> {
  const [row] = (await manager.query(`SELECT "seq" FROM "sqlite_sequence" WHERE "name" = 'history'`)) as {
    seq: number;
  }[];
  return row?.seq ?? 0;
}
