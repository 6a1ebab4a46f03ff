import { Module } from '@nestjs/common';
import { aggregateController } from '../aggregates/aggregate.controller';
import { StorageModule } from '../storage/storage.module';
import { LibraryItemsStore } from './library-items.store';

@Module({
  imports: [StorageModule],
  controllers: [aggregateController('library-items', LibraryItemsStore)],
  providers: [LibraryItemsStore],
  exports: [LibraryItemsStore],
})
export class LibraryItemsModule {}
