/** A pure step from one version of the show file to the next. */
export interface Migration {
  from: number;
  step: (document: unknown) => unknown;
}

type Loose = Record<string, unknown>;
const isLoose = (value: unknown): value is Loose =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const mapped = (value: unknown, change: (item: unknown) => unknown): unknown =>
  Array.isArray(value) ? value.map(change) : value;

/**
 * Up to version 1 a binding's action was a bare name. Also for setlists that were stored by themselves; newer ones stay
 * as they are.
 */
export const setlistWithActionKinds = (setlist: unknown): unknown =>
  !isLoose(setlist)
    ? setlist
    : {
        ...setlist,
        ...(setlist.bindings === undefined
          ? {}
          : {
              bindings: mapped(setlist.bindings, (binding) =>
                isLoose(binding) && typeof binding.action === 'string'
                  ? { ...binding, action: { kind: binding.action === 'firstStep' ? 'firstSong' : binding.action } }
                  : binding,
              ),
            }),
      };

/** Up to version 4 a song had one tempo and one meter. Also for songs that were stored by themselves. */
export const songWithMap = (song: unknown): unknown => {
  if (!isLoose(song) || song.map !== undefined) return song;
  const { tempoBpm = 120, meter = {}, bars = 64, ...rest } = song;
  const { beats = 4, unit = 4 } = isLoose(meter) ? meter : {};
  const map = {
    tempos: [{ atTick: 0, bpm: tempoBpm, ramp: false }],
    meters: [{ bar: 1, beats, unit, early: 0 }],
    upbeatTicks: 0,
    bars,
  };
  return { ...rest, map };
};

/** The same for a song that is kept in the library. */
export const itemWithMap = (item: unknown): unknown =>
  isLoose(item) && item.kind === 'song' ? { ...item, song: songWithMap(item.song) } : item;

/** In order, without gaps: the first leads from version 1 to 2. */
export const migrations: readonly Migration[] = [
  {
    from: 1,
    step: (document) => ({
      ...(document as Loose),
      version: 2,
      setlists: mapped((document as Loose).setlists, setlistWithActionKinds),
    }),
  },
  // What version 3 adds has defaults.
  { from: 2, step: (document) => ({ ...(document as Loose), version: 3 }) },
  // And what version 4 adds: what is done in every setlist, dates and places, keys for tonight.
  { from: 3, step: (document) => ({ ...(document as Loose), version: 4 }) },
  {
    from: 4,
    step: (document) => ({
      ...(document as Loose),
      version: 5,
      songs: mapped((document as Loose).songs, songWithMap),
      libraryItems: mapped((document as Loose).libraryItems, itemWithMap),
    }),
  },
  // And what version 6 adds: sections, cues of every kind, what happens at the end of a song.
  { from: 5, step: (document) => ({ ...(document as Loose), version: 6 }) },
  // And what version 7 adds: backing parts, lyrics, bank bytes ahead of their program.
  { from: 6, step: (document) => ({ ...(document as Loose), version: 7 }) },
  // And what version 8 adds: when an output gets its clock, by which note a tempo is counted.
  { from: 7, step: (document) => ({ ...(document as Loose), version: 8 }) },
  // And what version 9 adds: by how much later the timeline sends to an output.
  { from: 8, step: (document) => ({ ...(document as Loose), version: 9 }) },
  // And what version 10 adds: rotary speakers, attack and release of compressors.
  { from: 9, step: (document) => ({ ...(document as Loose), version: 10 }) },
  // And what version 11 adds: what is meant so, which keys a keyboard has, pedals that do not repeat themselves, tonight's tempo and
  // note of an entry.
  { from: 10, step: (document) => ({ ...(document as Loose), version: 11 }) },
];
