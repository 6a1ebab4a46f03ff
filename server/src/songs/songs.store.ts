import { Injectable, Inject } from '@nestjs/common';
import { Song, songFaults } from '@rackle/core';
import type { EntityManager } from 'typeorm';
import { AggregateStore } from '../aggregates/aggregate.store';
import { Problem } from '../http/problem';
import { SetlistEntity } from '../setlists/setlist.entity';
import { namesPointingAt } from '../aggregates/pointingAt';
import { Database } from '../storage/database';
import { SongEntity } from './song.entity';

/** Songs; one that stands in a setlist cannot be deleted. */
@Injectable()
export class SongsStore extends AggregateStore<Song> {
  constructor(@Inject(Database) database: Database) {
    super(database, { kind: 'songs', noun: 'song', entity: SongEntity, schema: Song, beforeSave, beforeDelete });
  }
}

function beforeSave(song: Song): Promise<void> {
  const [fault] = songFaults(song);
  if (fault) throw new Problem('broken-reference', `${fault.message}. Nothing was changed.`, fault.path);
  return Promise.resolve();
}

async function beforeDelete(id: string, manager: EntityManager): Promise<void> {
  const setlists = await namesPointingAt(manager, SetlistEntity, id);
  if (setlists.length > 0)
    throw new Problem(
      'in-use',
      `The song stands in ${setlists.join(', ')}. Take it out there first; nothing was deleted.`,
    );
}
