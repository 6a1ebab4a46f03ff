import { Injectable, Inject } from '@nestjs/common';
import { Instrument } from '@rackle/core';
import type { EntityManager } from 'typeorm';
import { AggregateStore } from '../aggregates/aggregate.store';
import { namesPointingAt } from '../aggregates/pointingAt';
import { Problem } from '../http/problem';
import { SongEntity } from '../songs/song.entity';
import { Database } from '../storage/database';
import { InstrumentEntity } from './instrument.entity';

/** Outboard instruments with their name lists; one that a song plays cannot be deleted. */
@Injectable()
export class InstrumentsStore extends AggregateStore<Instrument> {
  constructor(@Inject(Database) database: Database) {
    super(database, { kind: 'instruments', noun: 'instrument', entity: InstrumentEntity, schema: Instrument, beforeDelete });
  }
}

async function beforeDelete(id: string, manager: EntityManager): Promise<void> {
  const songs = await namesPointingAt(manager, SongEntity, id);
  if (songs.length > 0) throw new Problem('in-use', `The instrument is played in ${songs.join(', ')}. Nothing was deleted.`);
}
