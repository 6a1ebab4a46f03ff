import type { EntityManager, EntityTarget } from 'typeorm';
import type { z } from 'zod';
import { Problem } from '../http/problem';
import type { Database } from '../storage/database';
import type { AggregateEntity } from './aggregate.entity';
import { HistoryEntity } from './history.entity';

export interface Saved<T> {
  revision: number;
  updatedAt: string;
  body: T;
}

export interface AggregateKind<T extends { id: string; name: string }> {
  /** Name of the table and of the API path. */
  kind: string;
  /** In words: “song”. */
  noun: string;
  entity: EntityTarget<AggregateEntity>;
  schema: z.ZodType<T>;
  /** @throws Problem when other rows forbid it. */
  beforeSave?(body: T, manager: EntityManager): Promise<void>;
  /** @throws Problem `in-use` when something still points at it. */
  beforeDelete?(id: string, manager: EntityManager): Promise<void>;
}

/** Reads and writes one kind of aggregate. Every write names the revision that it changes; 0 is none yet. */
export class AggregateStore<T extends { id: string; name: string }> {
  constructor(
    private readonly database: Database,
    readonly about: AggregateKind<T>,
  ) {}

  list(): Promise<{ id: string; name: string; revision: number; updatedAt: string }[]> {
    return this.database.read((manager) =>
      manager.find(this.about.entity, {
        select: { id: true, name: true, revision: true, updatedAt: true },
        order: { name: 'ASC' },
      }),
    );
  }

  all(): Promise<Saved<T>[]> {
    return this.database.read(async (manager) =>
      (await manager.find(this.about.entity, { order: { createdAt: 'ASC', id: 'ASC' } })).map((row) => this.saved(row)),
    );
  }

  /** @throws Problem `not-found` */
  async get(id: string): Promise<Saved<T>> {
    return this.saved(await this.database.read((manager) => this.row(manager, id)));
  }

  /**
   * Checks and saves a body in the place of the revision that the writer has seen.
   * @throws Problem `invalid`, `id-mismatch`, `stale` (with the present revision and body), or what `beforeSave` says
   */
  save(id: string, revision: number, input: unknown): Promise<Saved<T>> {
    const body = this.check(input);
    if (body.id !== id)
      throw new Problem('id-mismatch', `The address says ${id}, the document ${body.id}. Nothing was changed.`, ['id']);
    return this.database.write((manager) => this.saveWithin(manager, revision, body));
  }

  /** @throws Problem `invalid`, with the path of the faulty field */
  check(input: unknown): T {
    const parsed = this.about.schema.safeParse(input);
    if (parsed.success) return parsed.data;
    const [issue] = parsed.error.issues;
    const path = issue.path.map((key) => (typeof key === 'number' ? key : String(key)));
    throw new Problem(
      'invalid',
      `${path.join(' → ') || this.about.noun}: ${issue.message}. Nothing was changed.`,
      path,
    );
  }

  /** The same within a transaction that is handed in. */
  async saveWithin(manager: EntityManager, revision: number, body: T): Promise<Saved<T>> {
    const present = await manager.findOneBy(this.about.entity, { id: body.id });
    if ((present?.revision ?? 0) !== revision) throw this.stale(present, revision);
    await this.about.beforeSave?.(body, manager);
    const now = new Date().toISOString();
    const row = {
      id: body.id,
      name: body.name,
      body: JSON.stringify(body),
      createdAt: present?.createdAt ?? now,
      updatedAt: now,
      // A thing that was deleted and comes back goes on counting, so that its history stays in one line.
      revision: present ? revision + 1 : (await this.lastRevision(manager, body.id)) + 1,
    };
    await manager.save(this.about.entity, row);
    await manager.insert(HistoryEntity, {
      kind: this.about.kind,
      aggregateId: body.id,
      revision: row.revision,
      body: row.body,
      savedAt: now,
    });
    return { revision: row.revision, updatedAt: now, body };
  }

  /** @throws Problem `not-found`, `stale`, `in-use` */
  delete(id: string, revision: number): Promise<void> {
    return this.database.write(async (manager) => {
      const present = await this.row(manager, id);
      if (present.revision !== revision) throw this.stale(present, revision);
      await this.about.beforeDelete?.(id, manager);
      await manager.delete(this.about.entity, { id });
      await manager.insert(HistoryEntity, {
        kind: this.about.kind,
        aggregateId: id,
        revision: revision + 1,
        body: null,
        savedAt: new Date().toISOString(),
      });
    });
  }

  /** Every saved state, newest first. */
  history(id: string): Promise<{ revision: number; savedAt: string; deleted: boolean }[]> {
    return this.database.read(async (manager) => {
      const rows = await manager.find(HistoryEntity, {
        where: { kind: this.about.kind, aggregateId: id },
        order: { revision: 'DESC' },
      });
      return rows.map((row) => ({ revision: row.revision, savedAt: row.savedAt, deleted: row.body === null }));
    });
  }

  /** @throws Problem `not-found` */
  async historical(id: string, revision: number): Promise<Saved<T>> {
    const row = await this.database.read((manager) =>
      manager.findOneBy(HistoryEntity, { kind: this.about.kind, aggregateId: id, revision }),
    );
    if (row?.body == null)
      throw new Problem('not-found', `There is no version ${revision} of this ${this.about.noun}.`);
    return { revision: row.revision, updatedAt: row.savedAt, body: JSON.parse(row.body) as T };
  }

  private async lastRevision(manager: EntityManager, id: string): Promise<number> {
    const [last] = await manager.find(HistoryEntity, {
      where: { kind: this.about.kind, aggregateId: id },
      order: { revision: 'DESC' },
      take: 1,
    });
    return last?.revision ?? 0;
  }

  private async row(manager: EntityManager, id: string): Promise<AggregateEntity> {
    const row = await manager.findOneBy(this.about.entity, { id });
    if (!row) throw new Problem('not-found', `There is no ${this.about.noun} ${id}.`);
    return row;
  }

  private stale(present: AggregateEntity | null, revision: number): Problem {
    return new Problem(
      'stale',
      `This ${this.about.noun} is at revision ${present?.revision ?? 0}, the change was made to revision ${revision}. Nothing was overwritten.`,
      [],
      { current: present ? this.saved(present) : null },
    );
  }

  private saved(row: AggregateEntity): Saved<T> {
    return { revision: row.revision, updatedAt: row.updatedAt, body: this.about.schema.parse(JSON.parse(row.body)) };
  }
}
