import { Entity } from 'typeorm';
import { AggregateEntity } from '../aggregates/aggregate.entity';

@Entity('instruments')
export class InstrumentEntity extends AggregateEntity {}
