import { Inject, Injectable, Logger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { KINDS, type Kind } from '@rackle/core/show';
import { In } from 'typeorm';
import { tableOf } from '../aggregates/aggregate.entity';
import { readBody, type Saved } from '../aggregates/bodies.service';
import { Problem } from '../http/problem';
import { Database } from '../storage/database';
import { HistoryEntity } from './history.entity';
import { overBound, thinned } from './thinning';

/** A saved state as a list shows it. `revision` null: it was set aside under its name. */
export interface Version {
  revision: number | null;
  savedAt: string;
  deleted: boolean;
  label: string | null;
  name: string | null;
}

const THIN_EVERY_MS = 3_600_000;
/** Bodies of the whole history together. */
const BOUND_BYTES = 256 * 1024 * 1024;

/** Every state that is kept of the past, thinned as it ages, beside the saving. */
@Injectable()
export class HistoryService implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly log = new Logger('history');
  private timer: NodeJS.Timeout | null = null;

  constructor(@Inject(Database) private readonly database: Database) {}

  onApplicationBootstrap(): void {
    const thin = (): void => void this.thin(new Date()).catch((cause: unknown) => this.log.warn(String(cause)));
    this.timer = setInterval(thin, THIN_EVERY_MS);
    this.timer.unref();
    setImmediate(thin);
  }

  onApplicationShutdown(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** Newest first. */
  versions(kind: Kind, id: string): Promise<Version[]> {
    return this.database.read(async (manager) => {
      const rows = await manager.find(HistoryEntity, {
        where: { kind: tableOf(kind), aggregateId: id },
        order: { number: 'DESC' },
      });
      return rows.map(({ revision, savedAt, body, label, name }) => ({
        revision,
        savedAt,
        deleted: body === null,
        label,
        name,
      }));
    });
  }

  /** @throws Problem `not-found` */
  async version(kind: Kind, id: string, revision: number): Promise<Saved> {
    const where = { kind: tableOf(kind), aggregateId: id, revision };
    const row = await this.database.read((manager) => manager.findOneBy(HistoryEntity, where));
    const read = row?.body == null ? null : readBody(kind, row.body);
    if (!row || !read?.ok)
      throw new Problem('not-found', `There is no version ${revision} of this ${KINDS[kind].noun}.`);
    return { revision, updatedAt: row.savedAt, body: read.body };
  }

  /** Takes away what is too old to be kept so closely, one aggregate at a time. @returns how many states went. */
  async thin(now: Date, boundBytes = BOUND_BYTES): Promise<number> {
    const groups = await this.database.read(
      (manager) =>
        manager.query('SELECT DISTINCT "kind", "aggregateId" FROM "history"') as Promise<
          { kind: string; aggregateId: string }[]
        >,
    );
    let gone = 0;
    for (const where of groups)
      gone += await this.database.write(async (manager) => {
        const rows = await manager.query(
          `SELECT "number", "savedAt", "body" IS NULL AS "deleted", "name" IS NOT NULL AS "named", length("body") AS "bytes"
           FROM "history" WHERE "kind" = ? AND "aggregateId" = ? ORDER BY "number"`,
          [where.kind, where.aggregateId],
        );
        return this.drop(manager, thinned(rows as Parameters<typeof thinned>[0], now));
      });
    return gone + (await this.bound(boundBytes));
  }

  private bound(boundBytes: number): Promise<number> {
    return this.database.write(async (manager) => {
      const [{ total }] = (await manager.query(
        'SELECT coalesce(sum(length("body")), 0) AS "total" FROM "history"',
      )) as {
        total: number;
      }[];
      if (total <= boundBytes) return 0;
      const rows = await manager.query(
        `SELECT "number", "kind" || ' ' || "aggregateId" AS "of", "body" IS NULL AS "deleted", "name" IS NOT NULL AS "named",
         coalesce(length("body"), 0) AS "bytes" FROM "history" ORDER BY "number"`,
      );
      const { drop, isOver } = overBound(rows as Parameters<typeof overBound>[0], boundBytes);
      if (isOver)
        this.log.warn('What is kept of the past under a name takes more room than the history is meant to have.');
      return this.drop(manager, drop);
    });
  }

  private async drop(manager: Parameters<Parameters<Database['write']>[0]>[0], numbers: number[]): Promise<number> {
    for (let i = 0; i < numbers.length; i += 500)
      await manager.delete(HistoryEntity, { number: In(numbers.slice(i, i + 500)) });
    return numbers.length;
  }
}
