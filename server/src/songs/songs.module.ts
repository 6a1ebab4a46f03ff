import { Module } from '@nestjs/common';
import { aggregateController } from '../aggregates/aggregate.controller';
import { StorageModule } from '../storage/storage.module';
import { SongsStore } from './songs.store';

@Module({
  imports: [StorageModule],
  controllers: [aggregateController('songs', SongsStore)],
  providers: [SongsStore],
  exports: [SongsStore],
})
export class SongsModule {}
