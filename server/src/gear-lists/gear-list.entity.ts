import { Entity } from 'typeorm';
import { AggregateEntity } from '../aggregates/aggregate.entity';

@Entity('gear_lists')
export class GearListEntity extends AggregateEntity {}
