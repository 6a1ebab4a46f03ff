import { Module } from '@nestjs/common';
import { aggregateController } from '../aggregates/aggregate.controller';
import { StorageModule } from '../storage/storage.module';
import { SetlistsStore } from './setlists.store';

@Module({
  imports: [StorageModule],
  controllers: [aggregateController('setlists', SetlistsStore)],
  providers: [SetlistsStore],
  exports: [SetlistsStore],
})
export class SetlistsModule {}
