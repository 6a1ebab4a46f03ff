import { z } from 'zod';

/** A finding of the soundcheck that the player has said is meant so: by its rule, its cause and its place. */
export const Meant = z.strictObject({
  rule: z.string().min(1).max(60),
  cause: z.string().max(600),
  place: z.string().max(600),
  /** Why, in the player's own words. */
  note: z.string().max(500).default(''),
});
export type Meant = z.infer<typeof Meant>;
