import { Entity } from 'typeorm';
import { AggregateEntity } from '../aggregates/aggregate.entity';

@Entity('setlists')
export class SetlistEntity extends AggregateEntity {}
