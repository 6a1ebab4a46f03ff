import { Module } from '@nestjs/common';
import { KIND_NAMES } from '@rackle/core/show';
import { EditsController } from '../edits/edits.controller';
import { EditsService } from '../edits/edits.service';
import { HistoryController } from '../history/history.controller';
import { HistoryService } from '../history/history.service';
import { StatesController } from '../history/states.controller';
import { StatesService } from '../history/states.service';
import { ShowsService } from '../shows/shows.service';
import { BackupsController } from '../storage/backups.controller';
import { BackupsService } from '../storage/backups.service';
import { StorageModule } from '../storage/storage.module';
import { aggregateController } from './aggregate.controller';
import { BodiesService } from './bodies.service';

/** The show: its aggregates, the edits that change them, and what is kept of their past. */
@Module({
  imports: [StorageModule],
  controllers: [
    ...KIND_NAMES.map(aggregateController),
    EditsController,
    HistoryController,
    StatesController,
    BackupsController,
  ],
  providers: [BodiesService, EditsService, HistoryService, StatesService, ShowsService, BackupsService],
  exports: [BodiesService, ShowsService],
})
export class AggregatesModule {}
