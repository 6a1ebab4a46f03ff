import { Column, Entity, PrimaryColumn } from 'typeorm';

/** What the database knows of itself. */
@Entity('meta')
export class MetaEntity {
  @PrimaryColumn('text') key: 'dataId';
  @Column('text') value: string;
}
