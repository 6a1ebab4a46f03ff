import { KINDS, KIND_NAMES, type Kind } from '@rackle/core/show';
import { EntitySchema } from 'typeorm';

/** A row of any aggregate: the columns that queries need, and the body that Zod has checked. */
export interface AggregateRow {
  id: string;
  name: string;
  /** Counts the saves, from 1. */
  revision: number;
  /** JSON. */
  body: string;
  /** ISO 8601. */
  createdAt: string;
  updatedAt: string;
}

/** Name of a kind's table, and of the kind in its history. */
export const tableOf = (kind: Kind): string => KINDS[kind].path.replace('-', '_');

/** The tables of the aggregates, one a kind. */
export const TABLES = Object.fromEntries(
  KIND_NAMES.map((kind) => [
    kind,
    new EntitySchema<AggregateRow>({
      name: kind,
      tableName: tableOf(kind),
      columns: {
        id: { type: 'text', primary: true },
        name: { type: 'text' },
        revision: { type: 'integer' },
        body: { type: 'text' },
        createdAt: { type: 'text' },
        updatedAt: { type: 'text' },
      },
    }),
  ]),
) as Record<Kind, EntitySchema<AggregateRow>>;
