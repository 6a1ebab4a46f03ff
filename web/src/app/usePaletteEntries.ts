import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import { soundName } from '@rackle/core/show';
import { setlistChosen } from '../show/showSlice';
import { useStartSong } from '../state/useStartSong';
import { useAct, useApp, useHost, useNumbers, usePlaces, useSongs } from '../state/hooks';
import { chose, toggled } from '../state/uiSlice';
import { useGoTo } from '../state/useGoTo';
import { useLatest } from '../ui/useLatest';
import { PAGES } from './pages';
import type { PaletteEntry } from './paletteEntries';

/** Everything that the palette finds: patches in their order, songs, sounds in use, actions. */
export function usePaletteEntries(): PaletteEntry[] {
  const patches = usePatchEntries();
  const songs = useSongEntries();
  const actions = useActionEntries();
  return useMemo(() => [...patches, ...songs, ...actions], [patches, songs, actions]);
}

function useGo(): (path: string) => void {
  const navigate = useNavigate();
  return useLatest((path: string): void => void navigate(path));
}

function usePatchEntries(): PaletteEntry[] {
  const goTo = useGoTo();
  const places = usePlaces();
  const numberOf = useLatest(useNumbers());
  return useMemo(
    () =>
      places.map((place): PaletteEntry => {
        const { position, song, patch, blend } = place;
        return {
          id: `patch ${position}`,
          group: 'Patches',
          words: `${song.name} ${patch.name} ${blend?.name ?? ''} ${position}`,
          name: blend ? `${patch.name}, ${blend.name}` : patch.name,
          isNamed: true,
          aside: song.name,
          number: () => numberOf(song.id, patch.id, blend?.id ?? null),
          act: () => goTo(place),
        };
      }),
    [places, numberOf, goTo],
  );
}

function useSongEntries(): PaletteEntry[] {
  const act = useAct();
  const go = useGo();
  const songs = useSongs();
  const instruments = useApp(({ show }) => show.working.instruments);
  return useMemo(() => {
    const all = Object.values(songs);
    const sheets = all.map((song): PaletteEntry => ({
      id: `song ${song.id}`,
      group: 'Songs',
      words: `song ${song.name}`,
      name: song.name,
      isNamed: true,
      aside: 'open its sheet',
      act: () => go(`/songs/${song.id}`),
    }));
    const sounds = all.flatMap((song) =>
      song.layers.map((layer): PaletteEntry => {
        const { instrument, preset } = soundName(layer.sound, (id) => instruments[id]);
        return {
          id: `sound ${song.id} ${layer.id}`,
          group: 'Sounds in use',
          words: `${instrument} ${preset} ${song.name} ${layer.name}`,
          name: `${instrument}, ${preset}`,
          isNamed: false,
          aside: song.name,
          act: () => {
            act(chose({ songId: song.id, layerId: layer.id }));
            go(`/songs/${song.id}`);
          },
        };
      }),
    );
    return [...sheets, ...sounds];
  }, [songs, instruments, go, act]);
}

function useActionEntries(): PaletteEntry[] {
  const act = useAct();
  const host = useHost();
  const go = useGo();
  const setlists = useApp(({ show }) => show.working.setlists);
  const startSong = useLatest(useStartSong());
  return useMemo(() => {
    const action = (name: string, work: () => unknown, words = name): PaletteEntry => ({
      id: words,
      group: 'Actions',
      words,
      name,
      isNamed: false,
      act: () => void work(),
    });
    return [
      ...PAGES.map(([name, path]) => action(name, () => go(path), `go to ${name}`)),
      ...Object.values(setlists).map((setlist): PaletteEntry => ({
        ...action(setlist.name, () => act(setlistChosen(setlist.id)), `setlist ${setlist.name}`),
        id: `setlist ${setlist.id}`,
        isNamed: true,
        aside: 'setlist',
      })),
      action('Start a new song', () => startSong()),
      action('All songs and the library', () => go('/library')),
      action('All setlists, and another one', () => go('/setlists')),
      action('History: every save, named states, what was deleted, backups', () => go('/history')),
      action('Panic: end every note', () => host.post({ type: 'perform', action: 'panic' })),
      action('Lock or unlock the stage', () => act(toggled('locked'))),
      action('Open or fold the bench', () => act(toggled('benchOpen'))),
      action('Open or fold the monitor', () => act(toggled('monitorOpen'))),
    ];
  }, [setlists, go, startSong, host, act]);
}
