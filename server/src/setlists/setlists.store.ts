import { Injectable, Inject } from '@nestjs/common';
import { Setlist } from '@rackle/core';
import { In, type EntityManager } from 'typeorm';
import { AggregateStore } from '../aggregates/aggregate.store';
import { Problem } from '../http/problem';
import { SongEntity } from '../songs/song.entity';
import { Database } from '../storage/database';
import { SetlistEntity } from './setlist.entity';

/** Setlists; their songs must be there. */
@Injectable()
export class SetlistsStore extends AggregateStore<Setlist> {
  constructor(@Inject(Database) database: Database) {
    super(database, { kind: 'setlists', noun: 'setlist', entity: SetlistEntity, schema: Setlist, beforeSave });
  }
}

async function beforeSave(setlist: Setlist, manager: EntityManager): Promise<void> {
  const ids = setlist.entries.flatMap((entry) => (entry.kind === 'song' ? [entry.songId as string] : []));
  const found = new Set<string>();
  for (let i = 0; i < ids.length; i += 500) {
    for (const row of await manager.find(SongEntity, {
      select: { id: true },
      where: { id: In(ids.slice(i, i + 500)) },
    }))
      found.add(row.id);
  }
  const missing = setlist.entries.findIndex((entry) => entry.kind === 'song' && !found.has(entry.songId));
  if (missing >= 0)
    throw new Problem('broken-reference', `Entry ${missing + 1} is a song that is not there. Nothing was changed.`, [
      'entries',
      missing,
      'songId',
    ]);
}
