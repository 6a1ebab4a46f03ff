import { Module, type DynamicModule } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HistoryEntity } from './aggregates/history.entity';
import { FileEntity } from './files/file.entity';
import { FilesModule } from './files/files.module';
import { GearListEntity } from './gear-lists/gear-list.entity';
import { GearListsModule } from './gear-lists/gear-lists.module';
import { InstrumentEntity } from './instruments/instrument.entity';
import { InstrumentsModule } from './instruments/instruments.module';
import { LibraryItemEntity } from './library-items/library-item.entity';
import { LibraryItemsModule } from './library-items/library-items.module';
import { SetlistEntity } from './setlists/setlist.entity';
import { SetlistsModule } from './setlists/setlists.module';
import { ShelfEntity } from './shelves/shelf.entity';
import { ShelvesModule } from './shelves/shelves.module';
import { ShowsModule } from './shows/shows.module';
import { SongEntity } from './songs/song.entity';
import { SongsModule } from './songs/songs.module';
import { MIGRATIONS } from './storage/migrations';

interface PragmaDatabase {
  pragma(text: string): unknown;
}

@Module({})
export class AppModule {
  /**
   * @param file path of the SQLite file; made and migrated when it is new. @param filesFolder for banks and recordings.
   */
  static on(file: string, filesFolder: string): DynamicModule {
    return {
      module: AppModule,
      imports: [
        TypeOrmModule.forRoot({
          type: 'better-sqlite3',
          database: file,
          entities: [
            SongEntity,
            SetlistEntity,
            InstrumentEntity,
            GearListEntity,
            LibraryItemEntity,
            ShelfEntity,
            FileEntity,
            HistoryEntity,
          ],
          migrations: MIGRATIONS,
          migrationsRun: true,
          synchronize: false,
          retryAttempts: 0,
          timeout: 2000,
          // What has been acknowledged survives a kill: the write-ahead log is synced at each commit.
          prepareDatabase: (database: unknown) => {
            for (const pragma of ['journal_mode = WAL', 'synchronous = FULL', 'foreign_keys = ON'])
              (database as PragmaDatabase).pragma(pragma);
          },
        }),
        SongsModule,
        SetlistsModule,
        InstrumentsModule,
        GearListsModule,
        LibraryItemsModule,
        ShelvesModule,
        FilesModule.in(filesFolder),
        ShowsModule,
      ],
    };
  }
}
