import { Column, PrimaryColumn } from 'typeorm';

/** A row of any aggregate: the columns that queries need, and the body that Zod has checked. */
export abstract class AggregateEntity {
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  /** Counts the saves, from 1. */
  @Column('integer') revision: number;
  /** JSON. */
  @Column('text') body: string;
  /** ISO 8601. */
  @Column('text') createdAt: string;
  @Column('text') updatedAt: string;
}
