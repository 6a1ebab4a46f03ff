import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** Every state that an aggregate was ever saved in; a body of null is its deletion. */
@Entity('history')
export class HistoryEntity {
  @PrimaryGeneratedColumn() number: number;
  @Column('text') kind: string;
  @Column('text') aggregateId: string;
  @Column('integer') revision: number;
  @Column('text', { nullable: true }) body: string | null;
  @Column('text') savedAt: string;
}
