import { createSelector } from '@reduxjs/toolkit';
import { createContext, useContext } from 'react';
import {
  everySetlistOf,
  finishingTimes,
  playingOrder,
  type EverySetlist,
  type GearList,
  type GearPort,
  type Place,
  type Setlist,
  type Song,
} from '@rackle/core/show';
import { numberText } from '@rackle/core/programs';
import { useDispatch, useSelector } from 'react-redux';
import type { HostConnection, PortState } from '../protocol';
import type { Proving } from '../checks/proving';
import type { MonitorLog } from '../live/monitorLog';
import { edited, type Edit } from '../show/edits';
import { gearIn, isAmong } from './gearIn';
import type { RootState, Store } from './store';

/** Reads the store. */
export const useApp = useSelector.withTypes<RootState>();
/** Dispatches to the store. */
export const useAct = useDispatch.withTypes<Store['dispatch']>();

/** The connection to the host. */
export const HostContext = createContext<HostConnection | null>(null);

/** The monitor’s log. */
export const LogContext = createContext<MonitorLog | null>(null);

/** What takes its time: playing every pair of recalls beside the pages, and measuring the levels of all patches. */
export const ProvingContext = createContext<Pick<Proving, 'simulation' | 'leveling'> | null>(null);

/** Items in which a version of the past differs from now, for the pages that show it; none on what stands now. */
export const DiffersContext = createContext<ReadonlySet<string>>(new Set());

/** What takes its time. @throws Error outside of its provider. */
export function useProving(): Pick<Proving, 'simulation' | 'leveling'> {
  const proving = useContext(ProvingContext);
  if (!proving) throw new Error('nothing is proven here');
  return proving;
}

/** The monitor's lines. @throws Error outside of their provider. */
export function useLog(): MonitorLog {
  const log = useContext(LogContext);
  if (!log) throw new Error('there is no monitor log here');
  return log;
}

/** @throws Error outside of the host's provider. */
export function useHost(): HostConnection {
  const host = useContext(HostContext);
  if (!host) throw new Error('there is no connection to the host here');
  return host;
}

/** Makes an edit: at once on the page and in the sound, saved by itself, undone as one step. */
export function useEdit(): (edit: Edit) => void {
  const act = useAct();
  return (edit) => void act(edited(edit));
}

/** The setlist that is played; null: there is none. */
export const useSetlist = (): Setlist | null =>
  useApp(({ show }) => (show.setlistId === null ? null : (show.working.setlists[show.setlistId] ?? null)));
/** What is done in every setlist. */
export const useEverySetlist = (): EverySetlist => useApp(({ show }) => everySetlistOf(show.working));

/** All songs by id. */
export const useSongs = (): Record<string, Song> => useApp(({ show }) => show.working.songs);
/** A song by its id. */
export const useSong = (id: string | null | undefined): Song | null =>
  useApp(({ show }) => (id ? (show.working.songs[id] ?? null) : null));
/** Tonight’s gear list; null: there is none. */
export const useGear = (): GearList | null => useApp(gearIn);

const portsHereIn = createSelector(
  [({ live }: RootState) => live.ports, ({ live }: RootState) => live.host.where],
  // The bench at least is always there; a window that does not play hears of no ports.
  (ports, where) => (ports.length === 0 && where !== 'elsewhere' ? null : ports.filter(({ alive }) => alive)),
);
/** What is plugged in; null until the running side has said so. */
export const usePortsHere = (): PortState[] | null => useApp(portsHereIn);

/** Whether this window knows what is plugged in: one that does not play, or not yet, hears of no ports. */
export const useKnowsPorts = (): boolean =>
  useApp(({ live }) => live.ports.length > 0 && live.host.where !== 'elsewhere');

/** Whether what a port of the gear list stands for is here now; what is not known counts as here. */
export function useIsAlive(): (port: GearPort) => boolean {
  const ports = useApp(({ live }) => live.ports);
  const isKnown = useKnowsPorts();
  return (port) => !isKnown || isAmong(ports, port);
}

// What runs through the whole show is worked out once for all pages, and again only when it has changed.

const setlistIn = ({ show }: RootState): Setlist | null =>
  show.setlistId === null ? null : (show.working.setlists[show.setlistId] ?? null);
const songsIn = ({ show }: RootState): Record<string, Song> => show.working.songs;

const entriesIn = (state: RootState): Setlist['entries'] | undefined => setlistIn(state)?.entries;
const startIn = (state: RootState): string => setlistIn(state)?.startsAt ?? '00:00';
const programsIn = (state: RootState): Setlist['programs'] | undefined => setlistIn(state)?.programs;
const programsFromIn = (state: RootState): number => setlistIn(state)?.programsFrom ?? 0;

// By the parts of the setlist that they are made of: another name makes none of them anew.
const placesIn = createSelector([entriesIn, songsIn], (entries, songs) =>
  entries ? playingOrder({ entries }, songs) : [],
);
const timesIn = createSelector([entriesIn, startIn, songsIn], (entries, startsAt, songs) =>
  entries ? finishingTimes({ entries, startsAt }, songs) : { startsAt: [], overAt: 0, playsSeconds: 0 },
);
const numbersIn = createSelector([programsIn, programsFromIn], (programs, programsFrom) => {
  const numbers = new Map(
    programs?.map((line) => [
      `${line.target.songId} ${line.target.patchId ?? ''} ${line.target.blendId ?? ''}`,
      numberText(line, programsFrom === 0 ? 0 : 1),
    ]),
  );
  return (songId: string, patchId: string, blendId: string | null): string | null =>
    numbers.get(`${songId} ${patchId} ${blendId ?? ''}`) ?? null;
});

const placesByEntryIn = createSelector([placesIn], (places) => {
  const byEntry = new Map<string, Place[]>();
  for (const place of places) {
    const there = byEntry.get(place.entry.id);
    if (there) there.push(place);
    else byEntry.set(place.entry.id, [place]);
  }
  return byEntry;
});
const NO_PLACES: readonly Place[] = [];
/** Where each entry of the setlist is played, by its id. */
export const usePlacesByEntry = (): ReadonlyMap<string, readonly Place[]> => useApp(placesByEntryIn);
/** Where one entry of the setlist is played. */
export const usePlacesOf = (entryId: string): readonly Place[] =>
  useApp((state) => placesByEntryIn(state).get(entryId) ?? NO_PLACES);

/** Everything that can be recalled, in running order. */
export const usePlaces = (): Place[] => useApp(placesIn);

const awaitsPlaceIn = (state: RootState): boolean =>
  state.live.place.songId === null && state.live.host.where !== 'elsewhere' && placesIn(state).length > 0;
/** Whether the running side is still to say what is played; what depends on that is not to be pressed yet. */
export const useAwaitsPlace = (): boolean => useApp(awaitsPlaceIn);

/** What is played, or will be as soon as the running side is there: where the set was left, else its first patch. */
export const usePlaceAhead = (): Pick<RootState['live']['place'], 'songId' | 'patchId' | 'blendId'> =>
  useApp(placeAheadIn);
const placeAheadIn = createSelector(
  [({ live }: RootState) => live.place, ({ live }: RootState) => live.left, placesIn, setlistIn, awaitsPlaceIn],
  (place, left, places, setlist, isAwaited) => {
    if (!isAwaited) return place;
    const isLeft = ({ entry, patch, blend }: Place): boolean =>
      left?.setlistId === setlist?.id &&
      entry.id === left?.entryId &&
      patch.id === left.patchId &&
      (blend?.id ?? null) === left.blendId;
    const { song, patch, blend } = places.find(isLeft) ?? places[0];
    return { songId: song.id, patchId: patch.id, blendId: blend?.id ?? null };
  },
);

/** When each entry begins, and when all is over, if the evening begins on time. */
export const useTimes = (): ReturnType<typeof finishingTimes> => useApp(timesIn);

/** Program number of a target as the player counts, or null when it has none. */
export const useNumbers = (): ((songId: string, patchId: string, blendId: string | null) => string | null) =>
  useApp(numbersIn);
