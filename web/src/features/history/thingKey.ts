import type { Thing } from '@rackle/core/show';

/** A thing as one word: `patches/chorus/parts/strings`. */
export const thingKey = (thing: Thing): string =>
  thing.map((step) => (typeof step === 'string' ? step : step.key)).join('/');

/** The item that is marked where it is drawn: that of a field, or of a list of it, is the item itself. */
export const markedItem = (thing: Thing): string =>
  thingKey(thing.slice(0, thing.findLastIndex((step) => typeof step !== 'string') + 1));
