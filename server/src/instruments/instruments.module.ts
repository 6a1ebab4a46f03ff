import { Module } from '@nestjs/common';
import { aggregateController } from '../aggregates/aggregate.controller';
import { StorageModule } from '../storage/storage.module';
import { InstrumentsStore } from './instruments.store';

@Module({
  imports: [StorageModule],
  controllers: [aggregateController('instruments', InstrumentsStore)],
  providers: [InstrumentsStore],
  exports: [InstrumentsStore],
})
export class InstrumentsModule {}
