import { Injectable, Inject } from '@nestjs/common';
import { Shelf } from '@rackle/core';
import { AggregateStore } from '../aggregates/aggregate.store';
import { Database } from '../storage/database';
import { ShelfEntity } from './shelf.entity';

/** Stars, recent sounds and the player's own categories. */
@Injectable()
export class ShelvesStore extends AggregateStore<Shelf> {
  constructor(@Inject(Database) database: Database) {
    super(database, { kind: 'shelves', noun: 'shelf', entity: ShelfEntity, schema: Shelf });
  }
}
