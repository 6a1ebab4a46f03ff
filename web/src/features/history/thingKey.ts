import type { Thing } from '@rackle/core/show';

/** A thing as one word: `patches/chorus/parts/strings`. */
export const thingKey = (thing: Thing): string =>
  thing.map((step) => (typeof step === 'string' ? step : step.key)).join('/');
