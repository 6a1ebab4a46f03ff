import {
  addressFrom,
  addressNumber,
  buttonsByTarget,
  controllerSheets,
  freeBehind,
  programConflicts,
  targetKey,
  withoutNumber,
} from '@rackle/core/programs';
import type { Place, ProgramLine, RecallTarget, Setlist, Song } from '@rackle/core/show';
import { useMemo } from 'react';
import { useApp, useEdit, useGear, usePlaces, useSongs } from '../../state/hooks';
import { tapesOf } from '../../state/tapes';

type SheetButton = ReturnType<typeof buttonsByTarget> extends ReadonlyMap<string, infer Button> ? Button : never;

/** A line of the program map: what can be recalled, and the number that recalls it. */
export interface MapRow {
  key: string;
  target: RecallTarget;
  /** Where it is recalled; for a song's own number its first place. */
  place: Place;
  isSong: boolean;
  /** The row above is of another song. */
  startsSong: boolean;
  line: ProgramLine | null;
  /** Another line has the same number. */
  isTwice: boolean;
  /** On a controller's sheet. */
  button: SheetButton | null;
}

/** The program map of a setlist: its rows, and what can be done to it. */
export function useProgramMap(setlist: Setlist) {
  const songs = useSongs();
  const places = usePlaces();
  const gear = useGear();
  const edit = useEdit();
  const position = useApp(({ live }) => live.place.position);
  const { programs } = setlist;
  const tables = useMemo(() => {
    const byId = new Map(Object.entries(songs));
    const lines = new Map([...programs].reverse().map((line) => [targetKey(line.target), line]));
    const twice = new Set(programConflicts(programs).flat());
    const buttons = buttonsByTarget(gear ? controllerSheets(setlist, byId, gear) : []);
    const rows = targetsOf(places, lines).map((row, i, all): MapRow => {
      const line = lines.get(row.key) ?? null;
      return {
        ...row,
        startsSong: i === 0 || all[i - 1].place.song !== row.place.song,
        line,
        isTwice: line !== null && twice.has(line),
        button: buttons.get(row.key) ?? null,
      };
    });
    return { byId, lines, twice, rows, missing: withoutNumber(setlist, byId).length };
  }, [setlist, programs, songs, places, gear]);
  const lineOf = (target: RecallTarget): ProgramLine | null => tables.lines.get(targetKey(target)) ?? null;
  const change = (label: string, next: ProgramLine[]): void =>
    edit({ label, setlists: [{ ...setlist, programs: next }] });
  const setLine = (label: string, line: ProgramLine, next: Partial<ProgramLine>): void =>
    change(
      label,
      programs.map((other) => (other === line ? { ...other, ...next } : other)),
    );
  const shown = new Set(tables.rows.map(({ key }) => key));
  const live = places.find((place) => place.position === position) ?? null;
  return {
    ...tables,
    lineOf,
    /** The number of what plays. */
    liveLine: live ? lineOf({ songId: live.song.id, patchId: live.patch.id, blendId: live.blend?.id ?? null }) : null,
    /** Numbers that lead to what is not in this setlist. */
    strays: programs.filter((line) => !shown.has(targetKey(line.target))),
    change,
    setLine,
    placeAt: (target: RecallTarget, address: number): void => {
      const line = lineOf(target);
      if (line) return setLine('change a number', line, addressFrom(address));
      const added = { target, ...addressFrom(address), pinned: false, port: null, channel: null };
      change('give a number', [...programs, added]);
    },
    /** The next free address behind the nearest one before it in the order; the lowest free where there is none. */
    freeFor: (key: string): number => freeFor(tables.rows, key, programs),
    /** The first row without a number; null: all have one. */
    firstWithout: tables.rows.find(({ line, isSong }) => line === null && !isSong)?.key ?? null,
    nameOf: (target: RecallTarget): string => nameOf(songs[target.songId], target),
    tapeOf: ({ target }: ProgramLine): string => {
      const song = songs[target.songId];
      return (song && tapesOf(song, target.patchId ?? song.patches[0]?.id ?? '')[0]) ?? 'bone';
    },
  };
}

function freeFor(rows: readonly MapRow[], key: string, programs: readonly ProgramLine[]): number {
  const at = rows.findIndex((row) => row.key === key);
  const neighbour = rows.slice(0, Math.max(0, at)).findLast((row) => row.line !== null)?.line ?? null;
  return freeBehind(neighbour ? addressNumber(neighbour) : -1, programs) ?? freeBehind(-1, programs) ?? 0;
}

function nameOf(song: Song | undefined, { patchId, blendId }: RecallTarget): string {
  const patch = song?.patches.find(({ id }) => id === patchId);
  const blend = patch?.blends.find(({ id }) => id === blendId);
  return [song?.name ?? 'a song that is gone', patch?.name, blend?.name].filter(Boolean).join(', ');
}

/** Every song's own number (where it has one), every patch and blend, once each, in playing order. */
function targetsOf(
  places: readonly Place[],
  lines: ReadonlyMap<string, ProgramLine>,
): Pick<MapRow, 'key' | 'target' | 'place' | 'isSong'>[] {
  const rows = new Map<string, Pick<MapRow, 'key' | 'target' | 'place' | 'isSong'>>();
  for (const place of places) {
    const song: RecallTarget = { songId: place.song.id, patchId: null, blendId: null };
    const songKey = targetKey(song);
    if (!rows.has(songKey) && lines.has(songKey))
      rows.set(songKey, { key: songKey, target: song, place, isSong: true });
    const target: RecallTarget = { songId: place.song.id, patchId: place.patch.id, blendId: place.blend?.id ?? null };
    const key = targetKey(target);
    if (!rows.has(key)) rows.set(key, { key, target, place, isSong: false });
  }
  return [...rows.values()];
}
