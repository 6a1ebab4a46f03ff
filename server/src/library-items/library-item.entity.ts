import { Entity } from 'typeorm';
import { AggregateEntity } from '../aggregates/aggregate.entity';

@Entity('library_items')
export class LibraryItemEntity extends AggregateEntity {}
