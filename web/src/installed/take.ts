/** Said to a service worker that waits: the player wants the version that it is of. */
export const TAKE = 'take';
