import { Command } from 'cmdk';
import { useNavigate } from 'react-router';
import { newSetlist, soundName, type SetlistId } from '@rackle/core';
import { edited } from '../show/edits';
import { setlistChosen } from '../show/showSlice';
import { newId } from '../state/ids';
import { useStartSong } from '../state/useStartSong';
import { useAct, useApp, useDoor, useGear, useNumbers, usePlaces, useSongs } from '../state/hooks';
import { chose, closed, toggled } from '../state/uiSlice';
import { PAGES } from './pages';

/**
 * How well a name answers to what was typed, 0–1: as a whole, at its start, somewhere in it, or with every word
 * somewhere.
 */
export function answersTo(name: string, typed: string): number {
  const value = name.toLowerCase();
  const words = typed.toLowerCase().trim();
  if (value === words) return 1;
  if (value.startsWith(words)) return 0.9;
  if (value.includes(words)) return 0.7;
  return words.split(/\s+/).every((word) => value.includes(word)) ? 0.5 : 0;
}

/** Finds songs, patches, sounds and actions by a few letters. */
export function Palette() {
  const open = useApp(({ ui }) => ui.paletteOpen);
  const act = useAct();
  const door = useDoor();
  const navigate = useNavigate();
  const places = usePlaces();
  const songs = useSongs();
  const numberOf = useNumbers();
  const setlists = useApp(({ show }) => show.working.setlists);
  const instruments = useApp(({ show }) => show.working.instruments);
  const startSong = useStartSong();
  const gear = useGear();
  const startSetlist = (): void => {
    const setlist = { ...newSetlist(newId<SetlistId>('setlist'), 'New setlist'), gearListId: gear?.id ?? null };
    act(edited({ label: 'start a setlist', setlists: [setlist] }));
    act(setlistChosen(setlist.id));
    void navigate('/setlist');
  };
  const done = (work: () => void) => () => {
    act(closed('paletteOpen'));
    work();
  };
  const item =
    'flex min-h-9 cursor-pointer items-center gap-3 px-3 data-[selected=true]:bg-ink data-[selected=true]:text-ground';
  const heading =
    '[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-ink2';
  return (
    <Command.Dialog
      filter={answersTo}
      open={open}
      onOpenChange={(now) => {
        if (!now) act(closed('paletteOpen'));
      }}
      label="Find"
      overlayClassName="fixed inset-0 z-40 bg-black/40"
      contentClassName="slip-in fixed left-1/2 top-[12vh] z-50 w-[min(640px,94vw)] -translate-x-1/2 border border-ink bg-ground text-ink"
    >
      <Command.Input
        placeholder="Find a song, a patch, a sound, an action"
        className="named w-full border-b border-ink bg-transparent px-3 py-2.5 text-2xl focus:outline-none"
      />
      <Command.List className="max-h-[56vh] overflow-y-auto pb-2">
        <Command.Empty className="p-3 text-ink2">Nothing of that name.</Command.Empty>
        <Command.Group heading="Patches" className={heading}>
          {places.map((place) => (
            <Command.Item
              key={place.position}
              value={`${place.song.name} ${place.patch.name} ${place.blend?.name ?? ''} ${place.position}`}
              className={item}
              onSelect={done(() => {
                door.post({ type: 'recall', position: place.position });
                act(chose({ songId: place.song.id, patchId: place.patch.id, blendId: place.blend?.id ?? null }));
              })}
            >
              <span className="mono w-8 text-right text-xs">
                {numberOf(place.song.id, place.patch.id, place.blend?.id ?? null)}
              </span>
              <span className="named text-lg">
                {place.patch.name}
                {place.blend ? `, ${place.blend.name}` : ''}
              </span>
              <span className="ml-auto text-[13px] opacity-70">{place.song.name}</span>
            </Command.Item>
          ))}
        </Command.Group>
        <Command.Group heading="Songs" className={heading}>
          {Object.values(songs).map((song) => (
            <Command.Item
              key={song.id}
              value={`song ${song.name}`}
              className={item}
              onSelect={done(() => void navigate(`/songs/${song.id}`))}
            >
              <span className="named text-lg">{song.name}</span>
              <span className="ml-auto text-[13px] opacity-70">open its sheet</span>
            </Command.Item>
          ))}
        </Command.Group>
        <Command.Group heading="Sounds in use" className={heading}>
          {Object.values(songs).flatMap((song) =>
            song.layers.map((layer) => {
              const { instrument, preset } = soundName(layer.sound, (id) => instruments[id]);
              return (
                <Command.Item
                  key={layer.id}
                  value={`${instrument} ${preset} ${song.name} ${layer.id}`}
                  className={item}
                  onSelect={done(() => {
                    act(chose({ songId: song.id, layerId: layer.id }));
                    void navigate(`/songs/${song.id}`);
                  })}
                >
                  <span>
                    {instrument}, {preset}
                  </span>
                  <span className="ml-auto text-[13px] opacity-70">{song.name}</span>
                </Command.Item>
              );
            }),
          )}
        </Command.Group>
        <Command.Group heading="Actions" className={heading}>
          {PAGES.map(([name, path]) => (
            <Command.Item
              key={path}
              value={`go to ${name}`}
              className={item}
              onSelect={done(() => void navigate(path))}
            >
              {name}
            </Command.Item>
          ))}
          {Object.values(setlists).map((setlist) => (
            <Command.Item
              key={setlist.id}
              value={`setlist ${setlist.name} ${setlist.id}`}
              className={item}
              onSelect={done(() => void act(setlistChosen(setlist.id)))}
            >
              Setlist <span className="named text-lg">{setlist.name}</span>
            </Command.Item>
          ))}
          <Command.Item className={item} onSelect={done(() => startSong())}>
            Start a new song
          </Command.Item>
          <Command.Item className={item} onSelect={done(() => void navigate('/library'))}>
            All songs and the library
          </Command.Item>
          <Command.Item className={item} onSelect={done(startSetlist)}>
            Start another setlist
          </Command.Item>
          <Command.Item className={item} onSelect={done(() => door.post({ type: 'perform', action: 'panic' }))}>
            Panic: end every note
          </Command.Item>
          <Command.Item className={item} onSelect={done(() => void act(toggled('locked')))}>
            Lock or unlock the stage
          </Command.Item>
          <Command.Item className={item} onSelect={done(() => void act(toggled('benchOpen')))}>
            Open or fold the bench
          </Command.Item>
          <Command.Item className={item} onSelect={done(() => void act(toggled('monitorOpen')))}>
            Open or fold the monitor
          </Command.Item>
        </Command.Group>
      </Command.List>
    </Command.Dialog>
  );
}
