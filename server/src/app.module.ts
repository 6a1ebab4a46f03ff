import { Module, type DynamicModule } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { TABLES } from './aggregates/aggregate.entity';
import { EditEntity } from './edits/edit.entity';
import { FileEntity } from './files/file.entity';
import { HistoryEntity } from './history/history.entity';
import { StateEntity, StateVersionEntity } from './history/state.entity';
import { ShowsModule } from './shows/shows.module';
import { MetaEntity } from './storage/meta.entity';
import { MIGRATIONS } from './storage/migrations';

interface PragmaDatabase {
  pragma(text: string): unknown;
}

/** The server’s parts. */
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
            ...Object.values(TABLES),
            FileEntity,
            HistoryEntity,
            EditEntity,
            MetaEntity,
            StateEntity,
            StateVersionEntity,
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
        ShowsModule.in(filesFolder),
      ],
    };
  }
}
