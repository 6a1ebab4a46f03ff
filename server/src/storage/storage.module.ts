import { Module } from '@nestjs/common';
import { Database } from './database';

/** The database, opened and locked. */
@Module({ providers: [Database], exports: [Database] })
export class StorageModule {}
