import { mintId } from '@rackle/core/show';

/** A new id from the browser's own random numbers. */
export const newId = <T extends string>(prefix: string): T =>
  mintId<T>(prefix, () => crypto.getRandomValues(new Uint32Array(1))[0] / 2 ** 32);
