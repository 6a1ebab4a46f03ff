import MiniSearch from 'minisearch';
import { BUILT_INS, type Instrument, type LayerSound } from '@rackle/core';

/** One preset that can be found: of a built-in instrument, or a name of an outboard one. */
export interface FoundSound {
  id: string;
  name: string;
  instrumentId: string;
  instrument: string;
  /** What it is in plain words, or the folder of the name list. */
  about: string;
  kind: 'built-in' | 'outboard';
  /** Address on the wire, outboard only. */
  address: { msb: number | null; lsb: number | null; program: number } | null;
  sound: Pick<LayerSound, 'instrumentId' | 'presetId'>;
}

/** Every preset that there is, built-in ones first. */
export function allSounds(instruments: readonly Instrument[]): FoundSound[] {
  return [
    ...BUILT_INS.flatMap((instrument) => instrument.presets.map((preset): FoundSound => ({
      id: preset.id, name: preset.name, instrumentId: instrument.id, instrument: instrument.name, about: instrument.about, kind: 'built-in', address: null, sound: { instrumentId: instrument.id, presetId: preset.id },
    }))),
    ...instruments.flatMap((instrument) => instrument.names.map((name): FoundSound => ({
      id: `${instrument.id} ${name.id}`, name: name.name, instrumentId: instrument.id, instrument: instrument.name, about: name.folder, kind: 'outboard',
      address: { msb: name.msb, lsb: name.lsb, program: name.program }, sound: { instrumentId: instrument.id, presetId: name.id },
    }))),
  ];
}

export interface SoundIndex {
  /** Ranked; an empty query gives everything in its order. At most `most`. */
  find(query: string, filter: { kind: string; instrumentId: string }, most: number): { hits: FoundSound[]; total: number };
}

const RANKED_FROM = 3;

/** An index over names, instruments and folders that forgives a slip of the finger. */
export function indexSounds(sounds: readonly FoundSound[]): SoundIndex {
  const byId = new Map(sounds.map((sound) => [sound.id, sound]));
  const texts = sounds.map((sound) => ` ${sound.name} ${sound.instrument} ${sound.about}`.toLowerCase());
  const search = new MiniSearch<FoundSound>({ fields: ['name', 'instrument', 'about'], idField: 'id' });
  search.addAll(sounds);
  return {
    find(query, { kind, instrumentId }, most) {
      const passes = (sound: FoundSound): boolean => (kind === '' || sound.kind === kind) && (instrumentId === '' || sound.instrumentId === instrumentId);
      const words = query.trim();
      // One or two letters begin too many words for ranking to mean anything: all that have them, in their order.
      const few = ` ${words.toLowerCase()}`;
      const found = words === '' ? sounds.filter(passes) : words.length < RANKED_FROM ? sounds.filter((sound, i) => texts[i].includes(few) && passes(sound)) : search.search(words, {
        boost: { name: 3 }, prefix: true, combineWith: 'AND', fuzzy: (term) => (term.length > 3 ? 0.25 : false), filter: (result) => passes(byId.get(result.id as string)!),
      }).map((result) => byId.get(result.id as string)!);
      return { hits: found.slice(0, most), total: found.length };
    },
  };
}
