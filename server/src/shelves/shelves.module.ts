import { Module } from '@nestjs/common';
import { aggregateController } from '../aggregates/aggregate.controller';
import { StorageModule } from '../storage/storage.module';
import { ShelvesStore } from './shelves.store';

@Module({
  imports: [StorageModule],
  controllers: [aggregateController('shelves', ShelvesStore)],
  providers: [ShelvesStore],
  exports: [ShelvesStore],
})
export class ShelvesModule {}
