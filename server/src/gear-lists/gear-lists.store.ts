import { Injectable, Inject } from '@nestjs/common';
import { GearList } from '@rackle/core';
import type { EntityManager } from 'typeorm';
import { AggregateStore } from '../aggregates/aggregate.store';
import { namesPointingAt } from '../aggregates/pointingAt';
import { Problem } from '../http/problem';
import { SetlistEntity } from '../setlists/setlist.entity';
import { Database } from '../storage/database';
import { GearListEntity } from './gear-list.entity';

/** Gear lists; the one that a setlist has chosen cannot be deleted. */
@Injectable()
export class GearListsStore extends AggregateStore<GearList> {
  constructor(@Inject(Database) database: Database) {
    super(database, { kind: 'gear_lists', noun: 'gear list', entity: GearListEntity, schema: GearList, beforeDelete });
  }
}

async function beforeDelete(id: string, manager: EntityManager): Promise<void> {
  const setlists = await namesPointingAt(manager, SetlistEntity, id);
  if (setlists.length > 0)
    throw new Problem('in-use', `The gear list is chosen in ${setlists.join(', ')}. Nothing was deleted.`);
}
