import { PLAYED_KINDS, newsBetween, type PlayedBodies } from '@rackle/core/show';
import { bodiesOf, type Show } from '@rackle/core/show';
import { Simulation } from '@rackle/core/simulate';
import { RingSink, unevenShowOf } from './figureShows';

const SIZES = [10, 100, 1000];
const EDITS = 25;
const WARM_UP = 8;

/** Milliseconds by number of songs: the median of CPU times. */
export interface EditMs {
  /** A zone of one song is moved. */
  song: Record<string, number>;
  /** A song, its setlist and its gear list come again, other objects that say the same. */
  identity: Record<string, number>;
  setlistName: Record<string, number>;
}

/** What an edit costs the thread that plays: from what a page sends to the engine playing by it. */
export function editMs(): EditMs {
  const figures: EditMs = { song: {}, identity: {}, setlistName: {} };
  for (const songs of SIZES) {
    const show = unevenShowOf(songs, 4, 4);
    for (const [what, edit] of Object.entries(EDIT)) figures[what as keyof EditMs][songs] = medianMs(show, edit);
  }
  return figures;
}

type Edited = (show: Show, turn: number) => Show;

const EDIT: Record<keyof EditMs, Edited> = {
  song: (show, turn) => ({
    ...show,
    songs: show.songs.map((song, s) =>
      s !== turn % show.songs.length
        ? song
        : {
            ...song,
            patches: song.patches.map((patch, p) =>
              p > 0
                ? patch
                : {
                    ...patch,
                    parts: patch.parts.map((part) => ({ ...part, zone: { ...part.zone, highKey: 80 + (turn % 40) } })),
                  },
            ),
          },
    ),
  }),
  identity: (show, turn) => {
    const at = turn % show.songs.length;
    return {
      ...show,
      songs: show.songs.map((song, s) => (s === at ? structuredClone(song) : song)),
      setlists: structuredClone(show.setlists),
      gearLists: structuredClone(show.gearLists),
    };
  },
  setlistName: (show, turn) => ({
    ...show,
    setlists: show.setlists.map((setlist) => ({ ...setlist, name: `Night ${turn}` as typeof setlist.name })),
  }),
};

function medianMs(first: Show, edit: Edited): number {
  const simulation = new Simulation(first, first.setlists[0], first.gearLists[0], {
    sink: () => new RingSink(),
    records: false,
  });
  let show = first;
  const times: number[] = [];
  for (let turn = 0; turn < WARM_UP + EDITS; turn++) {
    const next = edit(show, turn);
    // As a page makes it: only what was touched is looked at; then it goes through a port, which copies it.
    const news = structuredClone(newsBetween(bodies(show), bodies(next), touched(show, next)));
    show = next;
    const before = process.cpuUsage();
    simulation.feed({ type: 'changed', news, setlistId: next.setlists[0].id }, turn);
    const { user, system } = process.cpuUsage(before);
    if (turn >= WARM_UP) times.push((user + system) / 1000);
  }
  return Math.round(times.sort((a, b) => a - b)[times.length >> 1] * 100) / 100;
}

const bodies = (show: Show): PlayedBodies => bodiesOf(show);

const touched = (before: Show, after: Show) =>
  PLAYED_KINDS.flatMap((kind) =>
    after[kind].flatMap((item, i) => (item === before[kind][i] ? [] : [{ kind, id: item.id as string }])),
  );
