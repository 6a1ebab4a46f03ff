import { Inject, Injectable } from '@nestjs/common';
import { KIND_NAMES, type Body, type Kind } from '@rackle/core/show';
import { tableOf } from '../aggregates/aggregate.entity';
import { readBody } from '../aggregates/bodies.service';
import { Problem } from '../http/problem';
import { Database } from '../storage/database';
import { StateEntity } from './state.entity';

/** A state of the whole show as a list shows it. */
export interface NamedState {
  id: string;
  name: string;
  savedAt: string;
  /** How many things it has. */
  things: number;
}

/** A whole show of the past. */
export interface PastShow {
  name: string;
  savedAt: string;
  bodies: Partial<Record<Kind, Body[]>>;
  /** Names of what nobody can read. */
  unreadable: string[];
}

const MOST_STATES = 500;

/** States of the whole show that the player has named: “as played at Tern Ledge”. */
@Injectable()
export class StatesService {
  constructor(@Inject(Database) private readonly database: Database) {}

  /** Newest first. */
  all(): Promise<NamedState[]> {
    return this.database.read(
      (manager) =>
        manager.query(
          `SELECT s."id", s."name", s."savedAt", count(v."version") AS "things" FROM "states" s
           LEFT JOIN "state_versions" v ON v."state" = s."id" GROUP BY s."id" ORDER BY s."savedAt" DESC, s.rowid DESC`,
        ) as Promise<NamedState[]>,
    );
  }

  /** Names what stands now; a state that is there only gets another name. @throws Problem `invalid` */
  name(id: string, name: string): Promise<void> {
    return this.database.write(async (manager) => {
      const { affected } = await manager.update(StateEntity, { id }, { name });
      if (affected !== 0) return;
      if ((await manager.count(StateEntity)) >= MOST_STATES)
        throw new Problem('invalid', `There are ${MOST_STATES} named states; delete one first. Nothing was changed.`);
      await manager.insert(StateEntity, { id, name, savedAt: new Date().toISOString() });
      await manager.query(
        `INSERT INTO "state_versions" ("state", "version") SELECT ?, h."number" FROM "history" h JOIN
         (SELECT max("number") AS "last" FROM "history" WHERE "revision" IS NOT NULL GROUP BY "kind", "aggregateId") n
         ON n."last" = h."number" WHERE h."body" IS NOT NULL`,
        [id],
      );
    });
  }

  /** Lets a name go; what it was made of thins out as all else. @throws Problem `not-found` */
  delete(id: string): Promise<void> {
    return this.database.write(async (manager) => {
      await manager.query('DELETE FROM "state_versions" WHERE "state" = ?', [id]);
      const { affected } = await manager.delete(StateEntity, { id });
      if (affected === 0) throw new Problem('not-found', 'There is no such state.');
    });
  }

  /** @throws Problem `not-found` */
  async one(id: string): Promise<PastShow> {
    const found = await this.database.read(async (manager) => {
      const state = await manager.findOneBy(StateEntity, { id });
      const rows = (await manager.query(
        `SELECT h."kind", h."aggregateId" AS "id", h."body" FROM "state_versions" v
         JOIN "history" h ON h."number" = v."version" WHERE v."state" = ? ORDER BY h."aggregateId"`,
        [id],
      )) as { kind: string; id: string; body: string }[];
      return state && { state, rows };
    });
    if (!found) throw new Problem('not-found', 'There is no such state.');
    return pastShow(found.state.name, found.state.savedAt, found.rows);
  }
}

/** @param rows with the name of their table as their kind */
export function pastShow(
  name: string,
  savedAt: string,
  rows: readonly { kind: string; id: string; body: string }[],
): PastShow {
  const show: PastShow = { name, savedAt, bodies: {}, unreadable: [] };
  for (const { kind: table, id, body } of rows) {
    const kind = KIND_NAMES.find((one) => tableOf(one) === table);
    const read = kind ? readBody(kind, body) : null;
    if (kind && read?.ok) (show.bodies[kind] ??= []).push(read.body);
    else show.unreadable.push(id);
  }
  return show;
}
