import MiniSearch from 'minisearch';
import { otherWordsFor } from './synonyms';
import { assertNever } from '@rackle/core/result';
import { BUILT_INS, OF_EVERY_KIND, type Instrument, type LayerSound, type LibraryItem } from '@rackle/core/show';

/** Where a sound comes from. */
export type SoundKind = 'built-in' | 'own' | 'bank' | 'recordings' | 'outboard' | 'library';
/** A preset of an instrument, as a layer names it. */
export type SoundOf = Pick<LayerSound, 'instrumentId' | 'presetId'>;

/** One thing that can be found: a preset of any instrument, or a patch or song of the library. */
export interface FoundSound {
  id: string;
  name: string;
  instrumentId: string;
  instrument: string;
  /** What it is in plain words, or the folder of the name list. */
  about: string;
  kind: SoundKind;
  /** Address on the wire, outboard only. */
  address: { msb: number | null; lsb: number | null; program: number } | null;
  /** Null: it is no single sound. */
  sound: SoundOf | null;
  itemId: string | null;
}

/** Equal for equal sounds. */
export const soundKey = ({ instrumentId, presetId }: SoundOf): string => `${instrumentId} ${presetId}`;

const entry = (
  instrument: { id: string; name: string },
  preset: { id: SoundOf['presetId']; name: string },
  kind: SoundKind,
  about: string,
  address: FoundSound['address'] = null,
): FoundSound => ({
  id: `${instrument.id} ${preset.id}`,
  name: preset.name,
  instrumentId: instrument.id,
  instrument: instrument.name,
  about,
  kind,
  address,
  sound: { instrumentId: instrument.id as SoundOf['instrumentId'], presetId: preset.id },
  itemId: null,
});

/** Every preset that there is, built-in ones first, and what the library holds. */
export function allSounds(instruments: readonly Instrument[], library: readonly LibraryItem[] = []): FoundSound[] {
  return [
    ...BUILT_INS.flatMap((instrument) =>
      instrument.presets.map((preset) => entry(instrument, preset, 'built-in', instrument.about)),
    ),
    ...instruments.flatMap((instrument): FoundSound[] => {
      switch (instrument.kind) {
        case 'outboard':
          return instrument.names.map((name) =>
            entry(
              instrument,
              name,
              'outboard',
              name.folder,
              name.program === null ? null : { msb: name.msb, lsb: name.lsb, program: name.program },
            ),
          );
        case 'own':
          return instrument.presets.map((preset) =>
            entry(instrument, preset, 'own', BUILT_INS.find(({ id }) => id === instrument.of)?.about ?? ''),
          );
        case 'bank':
          return instrument.presets.map((preset) =>
            entry(instrument, preset, 'bank', preset.bank === 128 ? 'drums' : `bank ${preset.bank}`),
          );
        case 'recordings':
          return instrument.presets.map((preset) =>
            entry(instrument, preset, 'recordings', RECORDING_WORDS[preset.plays]),
          );
        default:
          return assertNever(instrument);
      }
    }),
    ...library.map((item): FoundSound => ({
      id: `library ${item.id}`,
      name: item.name,
      instrumentId: 'library',
      instrument: `Library, ${item.kind}`,
      about: item.description.split('\n')[0],
      kind: 'library',
      address: null,
      sound: null,
      itemId: item.id,
    })),
  ];
}

/** How a recording plays, in words. */
export const RECORDING_WORDS = {
  whileHeld: 'while the key is held',
  oneShot: 'once through',
  loop: 'loop, round and round',
} as const;

/** A word with two neighbouring letters the other way round, as a quick hand types it: each that it could have been. */
const swaps = (word: string): string[] =>
  Array.from(
    { length: Math.max(0, word.length - 1) },
    (_, i) => word.slice(0, i) + word[i + 1] + word[i] + word.slice(i + 2),
  );

/** Among which sounds is searched. */
export interface Filter {
  kind: string;
  instrumentId: string;
  /** Only these, by `soundKey`; null: all. */
  among: ReadonlySet<string> | null;
}

/** Finds sounds by words. */
export interface SoundIndex {
  /** Ranked; an empty query gives everything in its order. At most `most`. */
  find(query: string, filter: Filter, most: number): { hits: FoundSound[]; total: number };
}

/** With fewer hits than this, names that are only like what was typed are looked for too. */
const FEW = 20;

/** All of General MIDI comes last: it has something of every name. */
const ownFirst = (found: readonly FoundSound[]): FoundSound[] => [
  ...found.filter(({ instrumentId }) => instrumentId !== OF_EVERY_KIND),
  ...found.filter(({ instrumentId }) => instrumentId === OF_EVERY_KIND),
];

/**
 * An index over names, instruments and folders, and the trade's other words for them. What has every word (or its beginning) comes first: names that begin
 * with it, then names,
 * then the rest. Where that is not much, a slip of the finger is forgiven.
 */
export function indexSounds(sounds: readonly FoundSound[]): SoundIndex {
  const byId = new Map(sounds.map((sound) => [sound.id, sound]));
  const names = sounds.map((sound) => ` ${sound.name}`.toLowerCase());
  const texts = sounds.map((sound) => ` ${sound.name} ${sound.instrument} ${sound.about}`.toLowerCase());
  const search = new MiniSearch<FoundSound>({ fields: ['name', 'instrument', 'about'], idField: 'id' });
  search.addAll(sounds);
  const like = (words: readonly string[], passes: (sound: FoundSound) => boolean): FoundSound[] => {
    const options = {
      boost: { name: 3 },
      prefix: true,
      filter: (result: { id: string }) => passes(byId.get(result.id)!),
    };
    const found = search.search(words.join(' '), {
      ...options,
      combineWith: 'AND',
      fuzzy: (term) => (term.length > 3 ? 0.25 : false),
    });
    const swapped =
      found.length > 0
        ? found
        : search.search(
            {
              combineWith: 'AND',
              queries: words.map((word) => ({ combineWith: 'OR', queries: [word, ...swaps(word)] })),
            },
            options,
          );
    return swapped.map((result) => byId.get(result.id as string)!);
  };
  /** What has every word, or its beginning. */
  const exactly = (typed: string, passes: (sound: FoundSound) => boolean): FoundSound[] => {
    const beginnings = typed.split(/\s+/).map((word) => ` ${word}`);
    const ranks: FoundSound[][] = [[], [], []];
    sounds.forEach((sound, i) => {
      if (!beginnings.every((word) => texts[i].includes(word)) || !passes(sound)) return;
      ranks[names[i].startsWith(` ${typed}`) ? 0 : beginnings.every((word) => names[i].includes(word)) ? 1 : 2].push(
        sound,
      );
    });
    return ownFirst(ranks.flat());
  };
  return {
    find(query, { kind, instrumentId, among }, most) {
      const passes = (sound: FoundSound): boolean =>
        (kind === '' || sound.kind === kind) &&
        (instrumentId === '' || sound.instrumentId === instrumentId) &&
        (among === null || (sound.sound !== null && among.has(soundKey(sound.sound))));
      const typed = query.trim().toLowerCase();
      if (typed === '') {
        const all = sounds.filter(passes);
        return { hits: all.slice(0, most), total: all.length };
      }
      const found = new Set(exactly(typed, passes));
      for (const word of otherWordsFor(typed)) for (const sound of exactly(word, passes)) found.add(sound);
      if (found.size < FEW) for (const sound of like(typed.split(/\s+/), passes)) found.add(sound);
      return { hits: [...found].slice(0, most), total: found.size };
    },
  };
}
