import { createHash, randomUUID } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import {
  EditId,
  KINDS,
  KIND_NAMES,
  bodyOf,
  brokenBy,
  invalid,
  type Body,
  type Change,
  type Kind,
  type Refusal,
} from '@rackle/core/show';
import type { EntityManager } from 'typeorm';
import { z } from 'zod';
import { TABLES, tableOf } from '../aggregates/aggregate.entity';
import { BodiesService, newestNumber, type Saved } from '../aggregates/bodies.service';
import { HistoryEntity } from '../history/history.entity';
import { Problem } from '../http/problem';
import { Database } from '../storage/database';
import { EditEntity } from './edit.entity';

const MOST_ITEMS = 13_000;

const Item = z.strictObject({
  kind: z.enum(KIND_NAMES),
  id: EditId,
  /** The one that the writer has seen; 0: none yet. */
  revision: z.number().int().min(0),
  /** null deletes. */
  body: z.record(z.string(), z.unknown()).nullable(),
});

/** What a page sends: all of it is saved, or nothing. */
export const EditRequest = z.strictObject({
  id: EditId,
  label: z.string().min(1).max(200),
  /** Of the data that it was made for; left out by whoever does not keep edits. */
  dataId: z.string().max(80).optional(),
  items: z.array(Item).min(1).max(MOST_ITEMS),
});
export type EditRequest = z.infer<typeof EditRequest>;

/** Versions that were not taken, to be kept in the history under a name. */
export const AsideRequest = z.strictObject({
  id: EditId,
  name: z.string().min(1).max(200),
  dataId: z.string().max(80).optional(),
  items: z
    .array(Item.omit({ revision: true }))
    .min(1)
    .max(MOST_ITEMS),
});
export type AsideRequest = z.infer<typeof AsideRequest>;

/** What an edit is answered: everything saved, or nothing and why. */
export interface EditAnswer {
  id: string;
  dataId: string;
  /** Grows with every save. */
  serial: number;
  /** The revision that each item has now; 0: it was deleted. */
  items: { kind: Kind; id: string; revision: number }[];
}

/** The one way in which anything is saved. */
@Injectable()
export class EditsService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(BodiesService) private readonly bodies: BodiesService,
  ) {}

  /**
   * Saves an edit, all or nothing; sent again, it is answered as it was the first time.
   * @throws Problem `other-data`, `edit-changed`, `stale` (with every stale item and what stands there), `invalid`,
   * `broken-reference`, `in-use`
   */
  async save(request: EditRequest): Promise<EditAnswer> {
    this.checkData(request.dataId);
    const hash = hashOf(request.items.map(({ kind, id, body }) => ({ kind, id, body })));
    return this.database.write(async (manager) => {
      const before = await this.answered(manager, request.id, hash);
      if (before) return before;
      const changes = this.changesOf(request);
      const broken = brokenBy(this.bodies.bodies, changes, this.bodies.isUnreadable);
      if (broken) throw refused(broken, request);
      const at = new Date().toISOString();
      const revisions: number[] = [];
      for (const change of changes) revisions.push(await this.write(manager, change, request, at));
      const serial = await newestNumber(manager);
      const answer: EditAnswer = {
        id: request.id,
        dataId: this.bodies.dataId,
        serial,
        items: changes.map(({ kind, id, after }, i) => ({ kind, id, revision: after === null ? 0 : revisions[i] })),
      };
      await manager.insert(EditEntity, { id: request.id, hash, answer: JSON.stringify(answer), savedAt: at });
      return { answer, committed: () => this.bodies.committed(changes, revisions, at, serial) };
    }, isCommitted);
  }

  /** Saves one thing, for whoever names no edit. @returns what was saved; null: it was deleted. */
  async saveOne(kind: Kind, id: string, revision: number, body: unknown, label: string): Promise<Saved | null> {
    const items = [{ kind, id, revision, body: body as Record<string, unknown> | null }];
    await this.save({ id: randomUUID(), label, items });
    return this.bodies.saved(kind, id);
  }

  /** Keeps versions that were not taken under a name, for ever. @throws Problem `other-data`, `edit-changed` */
  async setAside(request: AsideRequest): Promise<EditAnswer> {
    this.checkData(request.dataId);
    const hash = hashOf(request.items);
    return this.database.write(async (manager) => {
      const before = await this.answered(manager, request.id, hash);
      if (before) return before;
      const savedAt = new Date().toISOString();
      for (const { kind, id, body } of request.items) {
        const about = { editId: request.id, label: 'set aside', name: request.name, savedAt };
        const text = body === null ? null : JSON.stringify(body);
        await manager.insert(HistoryEntity, {
          kind: tableOf(kind),
          aggregateId: id,
          revision: null,
          body: text,
          ...about,
        });
      }
      const serial = await newestNumber(manager);
      const answer: EditAnswer = { id: request.id, dataId: this.bodies.dataId, serial, items: [] };
      await manager.insert(EditEntity, { id: request.id, hash, answer: JSON.stringify(answer), savedAt });
      return { answer, committed: () => this.bodies.committed([], [], savedAt, serial) };
    }, isCommitted);
  }

  private checkData(dataId: string | undefined): void {
    if (dataId === undefined || dataId === this.bodies.dataId) return;
    throw new Problem(
      'other-data',
      'This edit was made for another data folder, or before a backup was brought back. Nothing was changed.',
      [],
      { dataId: this.bodies.dataId },
    );
  }

  private async answered(manager: EntityManager, id: string, hash: string): Promise<Committed | null> {
    const known = await manager.findOneBy(EditEntity, { id });
    if (!known) return null;
    if (known.hash !== hash)
      throw new Problem('edit-changed', 'An edit of this id with other content was saved before. Nothing was changed.');
    return { answer: JSON.parse(known.answer) as EditAnswer, committed: () => undefined };
  }

  private changesOf({ items }: EditRequest): Change[] {
    const seen = new Set<string>();
    const stale: object[] = [];
    const changes = items.map(({ kind, id, revision, body }, i): Change => {
      if (seen.has(`${kind} ${id}`))
        throw new Problem('invalid', `The edit names ${id} twice. Nothing was changed.`, ['items', i]);
      seen.add(`${kind} ${id}`);
      if (this.bodies.revisionOf(kind, id) !== revision) stale.push({ kind, id, current: this.bodies.saved(kind, id) });
      const after = body === null ? null : this.check(kind, id, body, ['items', i, 'body']);
      return { kind, id, before: bodyOf(this.bodies.bodies, kind, id), after } as Change;
    });
    if (stale.length > 0)
      throw new Problem('stale', 'It was changed elsewhere in the meantime. Nothing was overwritten.', [], {
        items: stale,
      });
    return changes;
  }

  private check(kind: Kind, id: string, input: unknown, path: (string | number)[]): Body {
    const parsed = KINDS[kind].schema.safeParse(input);
    if (!parsed.success) {
      const refusal = invalid(kind, id, parsed.error);
      throw new Problem('invalid', `${refusal.message}. Nothing was changed.`, [...path, ...refusal.path]);
    }
    if (parsed.data.id !== id)
      throw new Problem('id-mismatch', `The address says ${id}, the document ${parsed.data.id}. Nothing was changed.`, [
        ...path,
        'id',
      ]);
    return parsed.data;
  }

  /** @returns its revision now. */
  private async write(
    manager: EntityManager,
    { kind, id, after }: Change,
    { id: editId, label }: EditRequest,
    at: string,
  ): Promise<number> {
    const table = TABLES[kind];
    const present = this.bodies.revisionOf(kind, id);
    const about = { kind: tableOf(kind), aggregateId: id, savedAt: at, editId };
    const unread = this.bodies.unreadable.find((row) => row.kind === kind && row.id === id);
    // What nobody could read is kept beside what takes its place.
    if (unread)
      await manager.insert(HistoryEntity, {
        ...about,
        revision: null,
        body: unread.text,
        label,
        name: 'unreadable, before it was replaced',
      });
    // A thing that was deleted and comes back goes on counting, so that its history stays in one line.
    const revision = (present > 0 ? present : await lastRevision(manager, kind, id)) + 1;
    if (after === null) {
      if (present === 0) return revision;
      await manager.delete(table, { id });
    } else {
      const body = JSON.stringify(after);
      const createdAt = this.bodies.createdAt(kind, id) ?? at;
      await manager.upsert(table, { id, name: after.name, revision, body, createdAt, updatedAt: at }, ['id']);
    }
    await manager.insert(HistoryEntity, {
      ...about,
      revision,
      body: after === null ? null : JSON.stringify(after),
      label,
      name: null,
    });
    return revision;
  }
}

interface Committed {
  answer: EditAnswer;
  committed: () => void;
}

/** Once the transaction stands, the copy in memory follows; then the answer goes out. */
function isCommitted({ answer, committed }: Committed): EditAnswer {
  committed();
  return answer;
}

const hashOf = (items: object): string => createHash('sha256').update(JSON.stringify(items)).digest('hex');

function refused({ code, kind, id, path, message }: Refusal, { items }: EditRequest): Problem {
  const at = items.findIndex((item) => item.kind === kind && item.id === id);
  const where = code === 'in-use' ? 'nothing was deleted' : 'Nothing was changed';
  const words = code === 'in-use' ? `${message}; ${where}.` : `${message}. ${where}.`;
  return new Problem(
    code === 'in-use' ? 'in-use' : 'broken-reference',
    words,
    at < 0 ? [] : ['items', at, 'body', ...path],
    { kind, id },
  );
}

async function lastRevision(manager: EntityManager, kind: Kind, id: string): Promise<number> {
  const where = 'SELECT max("revision") AS "last" FROM "history" WHERE "kind" = ? AND "aggregateId" = ?';
  const [{ last }] = (await manager.query(where, [tableOf(kind), id])) as { last: number | null }[];
  return last ?? 0;
}
