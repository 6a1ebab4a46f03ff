import { Module, type DynamicModule } from '@nestjs/common';
import { StorageModule } from '../storage/storage.module';
import { FilesController } from './files.controller';
import { FILES_FOLDER, FilesService } from './files.service';

/** Banks and recordings. */
@Module({})
export class FilesModule {
  /** @param folder where the bytes are; made when it is not there. */
  static in(folder: string): DynamicModule {
    return {
      module: FilesModule,
      imports: [StorageModule],
      controllers: [FilesController],
      providers: [FilesService, { provide: FILES_FOLDER, useValue: folder }],
      exports: [FilesService, FILES_FOLDER],
    };
  }
}
