import { describe, expect, it } from '@jest/globals';
import type { LastPlace, MovedByHand } from '@rackle/core/engine';
import { keepLastPlace, readLastPlace } from '../src/live/lastPlace';

class Shelf {
  readonly items = new Map<string, string>();
  getItem = (key: string): string | null => this.items.get(key) ?? null;
  setItem = (key: string, value: string): void => void this.items.set(key, value);
}

const hands: MovedByHand = {
  layers: [{ key: 'song layer', values: [-6, null, null, null], mute: -1, solo: -1, preset: -1, stays: 0 }],
  effects: [],
  whole: [],
  effectsOff: [],
  parameters: [],
  transpose: 2,
  latched: [],
};
const place: LastPlace = { setlistId: 's', entryId: 'e', patchId: 'p', blendId: null, counters: [], hands };

describe('the last place', () => {
  it('outlasts the browser; what hands had moved outlasts a reload, not the evening', () => {
    const storages = { lasting: new Shelf(), tab: new Shelf() };
    keepLastPlace(place, storages);
    expect(readLastPlace(storages)).toEqual(place);
    expect(readLastPlace({ ...storages, tab: new Shelf() })).toEqual({ ...place, hands: null });
  });

  it('that cannot be read, or was kept by an earlier version, counts as nothing kept', () => {
    const storages = { lasting: new Shelf(), tab: new Shelf() };
    expect(readLastPlace(storages)).toBe(null);
    keepLastPlace(place, storages);
    for (const kept of ['{"layers":', '{"layers":[]}', '7'])
      for (const key of storages.tab.items.keys()) {
        storages.tab.setItem(key, kept);
        expect(readLastPlace(storages)).toEqual({ ...place, hands: null });
      }
    for (const key of storages.lasting.items.keys()) storages.lasting.setItem(key, '{');
    expect(readLastPlace(storages)).toBe(null);
  });
});
