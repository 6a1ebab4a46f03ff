import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A state of the whole show under a name, as the player gave it. */
@Entity('states')
export class StateEntity {
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  /** ISO 8601. */
  @Column('text') savedAt: string;
}

/** Of which rows of the history a state is made; they are kept as long as it is. */
@Entity('state_versions')
export class StateVersionEntity {
  @PrimaryColumn('text') state: string;
  @PrimaryColumn('integer') version: number;
}
