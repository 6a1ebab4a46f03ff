/**
 * That a sound cannot be loaded, and what stands in for it.
 * @param name null: it is the bank that ships with Rackle
 */
export const missingWords = (name: string | null, why: string): string =>
  name === null
    ? `The recordings that come with Rackle cannot be loaded (${why}). Made sounds stand in for them; all else goes on.`
    : `${name}: its sound cannot be loaded (${why}). An electric piano stands in.`;
