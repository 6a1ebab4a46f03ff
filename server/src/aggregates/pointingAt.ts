import type { EntityManager, EntityTarget } from 'typeorm';
import type { AggregateEntity } from './aggregate.entity';

/** Names of the rows whose body has this id as one of its values. */
export async function namesPointingAt(
  manager: EntityManager,
  entity: EntityTarget<AggregateEntity>,
  id: string,
): Promise<string[]> {
  const rows = await manager
    .createQueryBuilder(entity, 'row')
    .where('EXISTS (SELECT 1 FROM json_tree(row.body) WHERE json_tree.value = :id AND json_tree.key <> :own)', {
      id,
      own: 'id',
    })
    .orderBy('row.name')
    .getMany();
  return rows.map((row) => row.name);
}
