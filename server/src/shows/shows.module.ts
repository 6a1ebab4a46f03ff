import { Module } from '@nestjs/common';
import { GearListsModule } from '../gear-lists/gear-lists.module';
import { InstrumentsModule } from '../instruments/instruments.module';
import { LibraryItemsModule } from '../library-items/library-items.module';
import { SetlistsModule } from '../setlists/setlists.module';
import { ShelvesModule } from '../shelves/shelves.module';
import { SongsModule } from '../songs/songs.module';
import { StorageModule } from '../storage/storage.module';
import { ShowsController } from './shows.controller';
import { ShowsService } from './shows.service';

@Module({
  imports: [
    StorageModule,
    SongsModule,
    SetlistsModule,
    InstrumentsModule,
    GearListsModule,
    LibraryItemsModule,
    ShelvesModule,
  ],
  controllers: [ShowsController],
  providers: [ShowsService],
  exports: [ShowsService],
})
export class ShowsModule {}
