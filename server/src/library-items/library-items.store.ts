import { Injectable, Inject } from '@nestjs/common';
import { LibraryItem } from '@rackle/core';
import { AggregateStore } from '../aggregates/aggregate.store';
import { Database } from '../storage/database';
import { LibraryItemEntity } from './library-item.entity';

/**
 * Patches and songs that are kept apart from any setlist. What was started from one is a copy, so that it may go at any
 * time.
 */
@Injectable()
export class LibraryItemsStore extends AggregateStore<LibraryItem> {
  constructor(@Inject(Database) database: Database) {
    super(database, { kind: 'library_items', noun: 'library item', entity: LibraryItemEntity, schema: LibraryItem });
  }
}
