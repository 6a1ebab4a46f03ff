import { z } from 'zod';
import { Binding } from './control';
import { EverySetlistId } from './ids';
import { Name } from './values';

/** What the player's hands and feet do in every setlist, where none of them says otherwise. There is one. */
export const EverySetlist = z.strictObject({
  id: EverySetlistId,
  name: Name.default('Every setlist'),
  /** In the order of the page. */
  roles: z.array(Name).max(256).default([]),
  /** Of no layer and no effect: those belong to a song or to one setlist. */
  bindings: z.array(Binding).max(256).default([]),
});
export type EverySetlist = z.infer<typeof EverySetlist>;
