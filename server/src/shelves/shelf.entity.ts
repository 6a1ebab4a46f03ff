import { Entity } from 'typeorm';
import { AggregateEntity } from '../aggregates/aggregate.entity';

@Entity('shelves')
export class ShelfEntity extends AggregateEntity {}
