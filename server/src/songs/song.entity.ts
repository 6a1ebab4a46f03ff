import { Entity } from 'typeorm';
import { AggregateEntity } from '../aggregates/aggregate.entity';

@Entity('songs')
export class SongEntity extends AggregateEntity {}
