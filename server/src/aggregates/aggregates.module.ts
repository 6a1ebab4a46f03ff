import { Module } from '@nestjs/common';
import { KIND_NAMES } from '@rackle/core/show';
import { EditsController } from '../edits/edits.controller';
import { EditsService } from '../edits/edits.service';
import { HistoryService } from '../history/history.service';
import { ShowsService } from '../shows/shows.service';
import { BackupsService } from '../storage/backups.service';
import { StorageModule } from '../storage/storage.module';
import { aggregateController } from './aggregate.controller';
import { BodiesService } from './bodies.service';

/** The show: its aggregates, the edits that change them, and what is kept of their past. */
@Module({
  imports: [StorageModule],
  controllers: [...KIND_NAMES.map(aggregateController), EditsController],
  providers: [BodiesService, EditsService, HistoryService, ShowsService, BackupsService],
  exports: [BodiesService, ShowsService],
})
export class AggregatesModule {}
