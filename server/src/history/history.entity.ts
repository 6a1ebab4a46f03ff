import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** A state that an aggregate was saved in, or that was set aside; a body of null is its deletion. */
@Entity('history')
export class HistoryEntity {
  @PrimaryGeneratedColumn() number: number;
  @Column('text') kind: string;
  @Column('text') aggregateId: string;
  /** null: it was set aside, and never stood. */
  @Column('integer', { nullable: true }) revision: number | null;
  @Column('text', { nullable: true }) body: string | null;
  /** ISO 8601. */
  @Column('text') savedAt: string;
  /** The edit that made it, and what it was called; null for states older than edits. */
  @Column('text', { nullable: true }) editId: string | null;
  @Column('text', { nullable: true }) label: string | null;
  /** A name that the player or Rackle gave it; such a state is kept for ever. */
  @Column('text', { nullable: true }) name: string | null;
}
