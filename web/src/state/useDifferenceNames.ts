import { soundName, type DifferenceNames } from '@rackle/core/show';
import { useApp } from './hooks';

/** Names of songs and sounds, for what differs in words. */
export function useDifferenceNames(): DifferenceNames {
  const songs = useApp(({ show }) => show.working.songs);
  const instruments = useApp(({ show }) => show.working.instruments);
  return {
    song: (id) => songs[id]?.name ?? null,
    sound: (instrumentId, presetId) => soundName({ instrumentId, presetId } as never, (id) => instruments[id]).preset,
  };
}
