import { Injectable, Inject } from '@nestjs/common';
import { Instrument } from '@rackle/core';
import type { EntityManager } from 'typeorm';
import { AggregateStore } from '../aggregates/aggregate.store';
import { namesPointingAt } from '../aggregates/pointingAt';
import { Problem } from '../http/problem';
import { LibraryItemEntity } from '../library-items/library-item.entity';
import { SongEntity } from '../songs/song.entity';
import { Database } from '../storage/database';
import { InstrumentEntity } from './instrument.entity';

/** Outboard instruments, own presets, banks and recordings; one that a song or the library plays cannot be deleted. */
@Injectable()
export class InstrumentsStore extends AggregateStore<Instrument> {
  constructor(@Inject(Database) database: Database) {
    super(database, {
      kind: 'instruments',
      noun: 'instrument',
      entity: InstrumentEntity,
      schema: Instrument,
      beforeDelete,
    });
  }
}

async function beforeDelete(id: string, manager: EntityManager): Promise<void> {
  const songs = [
    ...(await namesPointingAt(manager, SongEntity, id)),
    ...(await namesPointingAt(manager, LibraryItemEntity, id)).map((name) => `${name} (in the library)`),
  ];
  if (songs.length > 0)
    throw new Problem('in-use', `The instrument is played in ${songs.join(', ')}. Nothing was deleted.`);
}
