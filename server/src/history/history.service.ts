import { Inject, Injectable, Logger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { KINDS, KIND_NAMES, type Body, type Kind } from '@rackle/core/show';
import { In } from 'typeorm';
import { tableOf } from '../aggregates/aggregate.entity';
import { readBody, type Saved } from '../aggregates/bodies.service';
import { Problem } from '../http/problem';
import { Database } from '../storage/database';
import { HistoryEntity } from './history.entity';
import { overBound, thinned } from './thinning';

/** A saved state as a list shows it. `revision` null: it was set aside under its name. */
export interface Version {
  /** Of its row: grows with every save of anything. */
  number: number;
  kind: Kind;
  id: string;
  /** What it was called then; null where nobody can read that. */
  of: string | null;
  revision: number | null;
  savedAt: string;
  deleted: boolean;
  label: string | null;
  /** A note of the player's, or why it was set aside; a state with one is kept for ever. */
  name: string | null;
}

/** A saved state with its body; null: it was deleted. */
export interface VersionWithBody extends Version {
  body: Body | null;
}

/** Which states: of one thing or of all, older than a row. */
export interface VersionsAsked {
  kind?: Kind;
  id?: string;
  before?: number;
}

/** So many at once. */
const PAGE = 200;

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

  /** Newest first, by number whatever the clock said; at most so many as a page of them holds. */
  versions({ kind, id, before }: VersionsAsked): Promise<{ versions: Version[]; isMore: boolean }> {
    return this.database.read(async (manager) => {
      const rows = await manager
        .createQueryBuilder()
        .select(COLUMNS)
        .from(HistoryEntity, 'h')
        .where(
          [
            'h.number < :before',
            ...(kind === undefined ? [] : ['h.kind = :kind']),
            ...(id === undefined ? [] : ['h.aggregateId = :id']),
          ].join(' AND '),
          { before: before ?? Number.MAX_SAFE_INTEGER, kind: kind && tableOf(kind), id },
        )
        .orderBy('h.number', 'DESC')
        .limit(PAGE + 1)
        .getRawMany<Row>();
      return { versions: rows.slice(0, PAGE).flatMap(versionOf), isMore: rows.length > PAGE };
    });
  }

  /** Things that are there no more, with the last state that they had: the newest deletion first. */
  deleted(): Promise<Version[]> {
    return this.database.read(async (manager) => {
      const rows = (await manager.query(
        `SELECT ${COLUMNS.join(', ')}, gone."savedAt" AS "goneAt", gone."label" AS "goneBy" FROM "history" h
         JOIN (SELECT "kind", "aggregateId", max("number") AS "last" FROM "history" WHERE "revision" IS NOT NULL
               GROUP BY "kind", "aggregateId") newest ON newest."kind" = h."kind" AND newest."aggregateId" = h."aggregateId"
         JOIN "history" gone ON gone."number" = newest."last" AND gone."body" IS NULL
         WHERE h."number" = (SELECT max("number") FROM "history" WHERE "kind" = h."kind" AND
           "aggregateId" = h."aggregateId" AND "revision" IS NOT NULL AND "body" IS NOT NULL)
         ORDER BY gone."number" DESC`,
      )) as (Row & { goneAt: string; goneBy: string | null })[];
      return rows.flatMap((row) => versionOf({ ...row, savedAt: row.goneAt, label: row.goneBy }));
    });
  }

  /** @throws Problem `not-found`, `unreadable` */
  async one(number: number): Promise<VersionWithBody> {
    const row = await this.database.read((manager) => manager.findOneBy(HistoryEntity, { number }));
    const [version] = row ? versionOf({ ...row, of: null, deleted: row.body === null ? 1 : 0 }) : [];
    if (!row || !version) throw new Problem('not-found', `There is no version ${number}.`);
    if (row.body === null) return { ...version, body: null };
    const read = readBody(version.kind, row.body);
    if (!read.ok)
      throw new Problem(
        'unreadable',
        `This version cannot be read: ${read.problem}. A newer Rackle may have saved it. It stays as it is.`,
      );
    return { ...version, of: read.body.name, body: read.body };
  }

  /** Gives a state a note, for which it is kept for ever; '' takes it away. @throws Problem `not-found` */
  async annotate(number: number, note: string): Promise<void> {
    const { affected } = await this.database.write((manager) =>
      manager.update(HistoryEntity, { number }, { name: note === '' ? null : note }),
    );
    if (affected === 0) throw new Problem('not-found', `There is no version ${number}.`);
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
          `SELECT "number", "savedAt", "body" IS NULL AS "deleted", ("name" IS NOT NULL OR "number" IN (SELECT "version" FROM "state_versions")) AS "named", length("body") AS "bytes"
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
        `SELECT "number", "kind" || ' ' || "aggregateId" AS "of", "body" IS NULL AS "deleted", ("name" IS NOT NULL OR "number" IN (SELECT "version" FROM "state_versions")) AS "named",
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

/** What of a row a list shows. */
const COLUMNS = [
  'h."number" AS "number"',
  'h."kind" AS "kind"',
  'h."aggregateId" AS "aggregateId"',
  'h."revision" AS "revision"',
  'h."savedAt" AS "savedAt"',
  'h."label" AS "label"',
  'h."name" AS "name"',
  'h."body" IS NULL AS "deleted"',
  `CASE WHEN json_valid(h."body") THEN json_extract(h."body", '$.name') END AS "of"`,
];

type Row = Pick<HistoryEntity, 'number' | 'kind' | 'aggregateId' | 'revision' | 'savedAt' | 'label' | 'name'> & {
  deleted: number;
  of: string | null;
};

/** None for a kind that this Rackle does not know. */
function versionOf({
  number,
  kind: table,
  aggregateId: id,
  revision,
  savedAt,
  label,
  name,
  deleted,
  of,
}: Row): Version[] {
  const kind = KIND_NAMES.find((one) => tableOf(one) === table);
  return kind ? [{ number, kind, id, of, revision, savedAt, deleted: deleted === 1, label, name }] : [];
}
