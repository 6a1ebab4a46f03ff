import { Module, type DynamicModule } from '@nestjs/common';
import { AggregatesModule } from '../aggregates/aggregates.module';
import { FilesModule } from '../files/files.module';
import { ShowsController } from './shows.controller';
import { ShowZip } from './showZip';

/** Opening and handing out whole shows. */
@Module({})
export class ShowsModule {
  /** @param folder where banks and recordings are. */
  static in(folder: string): DynamicModule {
    return {
      module: ShowsModule,
      imports: [AggregatesModule, FilesModule.in(folder)],
      controllers: [ShowsController],
      providers: [ShowZip],
    };
  }
}
