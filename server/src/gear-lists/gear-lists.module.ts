import { Module } from '@nestjs/common';
import { aggregateController } from '../aggregates/aggregate.controller';
import { StorageModule } from '../storage/storage.module';
import { GearListsStore } from './gear-lists.store';

@Module({
  imports: [StorageModule],
  controllers: [aggregateController('gear-lists', GearListsStore)],
  providers: [GearListsStore],
  exports: [GearListsStore],
})
export class GearListsModule {}
