import type { KnownInstrument, Layer, OutboardInstrument } from '../../show';
import { addressFor, addressOf } from '../recall/addresses';
import { PEDAL_CONTROLLERS } from '../state/inputs';
import { VALUE_SLOTS } from '../state/limits';
import type { Address } from './compiled';

const isPedal = (controller: number): boolean => PEDAL_CONTROLLERS.includes(controller as 64);

interface Folder {
  places: ReadonlyMap<string, number>;
  addresses: readonly Address[];
}

/** A name list as preset steps walk along it. */
interface Folders {
  /** By preset, the folder that it is in. */
  folderOf: ReadonlyMap<string, string>;
  byName: Map<string | null, Folder>;
}

/** Equal tables are one table. They do not depend on the gear; what is made of an instrument goes when it goes. */
export class SharedTables {
  private readonly bytes = new Map<string, Uint8Array>();
  private readonly foldersOf = new WeakMap<OutboardInstrument, Folders>();
  private readonly placesOf = new WeakMap<KnownInstrument['presets'], ReadonlyMap<string, number>>();

  flags(key: string, make: () => Uint8Array): Uint8Array {
    const known = this.bytes.get(key) ?? make();
    this.bytes.set(key, known);
    return known;
  }

  /** Where a layer's controllers leave under another number; pedals stay what they are. Null: nowhere. */
  remap({ remapped }: Layer): Uint8Array | null {
    const pairs = remapped.filter(({ from, to }) => from !== to && !isPedal(from) && !isPedal(to));
    if (pairs.length === 0) return null;
    return this.flags(`remap ${pairs.map(({ from, to }) => `${from}>${to}`).join(' ')}`, () => {
      const table = Uint8Array.from({ length: VALUE_SLOTS }, (_, slot) => slot);
      for (const { from, to } of pairs) table[from] = to;
      return table;
    });
  }

  /** Place of a preset among those of an instrument in this machine, −1 when it has none such. */
  placeOf({ presets }: KnownInstrument, presetId: string): number {
    let places = this.placesOf.get(presets);
    if (!places) {
      places = new Map(presets.map((preset, i) => [preset.id as string, i]));
      this.placesOf.set(presets, places);
    }
    return places.get(presetId) ?? -1;
  }

  /**
   * What preset steps walk along, and where a preset stands in it: the folder of the name list that the preset is in.
   * A counted instrument has but one way through its list, the whole of it: there the place stands for the program.
   */
  presets(
    instrument: OutboardInstrument,
    presetId: string,
  ): { count: number; own: number; addresses: readonly Address[] } {
    const { folderOf, byName } = this.folders(instrument);
    const name = instrument.counted ? null : (folderOf.get(presetId) ?? '');
    const folder = byName.get(name) ?? folderNamed(instrument, name);
    byName.set(name, folder);
    return { count: folder.addresses.length, own: folder.places.get(presetId) ?? -1, addresses: folder.addresses };
  }

  private folders(instrument: OutboardInstrument): Folders {
    let known = this.foldersOf.get(instrument);
    if (!known) {
      known = {
        folderOf: new Map(instrument.names.map(({ id, folder }) => [id as string, folder])),
        byName: new Map(),
      };
      this.foldersOf.set(instrument, known);
    }
    return known;
  }
}

/** @param name null: the whole list. */
function folderNamed(instrument: OutboardInstrument, name: string | null): Folder {
  const names = name === null ? instrument.names : instrument.names.filter(({ folder }) => folder === name);
  return {
    places: new Map(names.map(({ id }, i) => [id as string, i])),
    addresses: names.map((entry, i) => (name === null ? addressFor(-1, -1, i, entry.also) : addressOf(entry))),
  };
}
