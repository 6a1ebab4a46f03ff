import { useState, type KeyboardEvent, type ReactNode } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { songFromItem, withPatchFrom, type BlendId, type LayerId, type PatchId, type SongId } from '@rackle/core/show';
import { useApp, useAwaitsPlace, useEdit } from '../../state/hooks';
import { newId } from '../../state/ids';
import { useStartSong } from '../../state/useStartSong';
import { isMidiFile, useMidiFileIn } from '../midi-file';
import { Categories } from './Categories';
import { HeardInPlaceOf } from './HeardInPlaceOf';
import { InstrumentShelf } from './InstrumentShelf';
import { KeepBar } from './KeepBar';
import { SoundFilters } from './SoundFilters';
import { SoundHits } from './SoundHits';
import { soundKey, type FoundSound } from './soundIndex';
import { useAudition } from './useAudition';
import { useBringIn } from './useBringIn';
import { useShelf } from './useShelf';
import { EVERY, useSoundSearch } from './useSoundSearch';

/** Keys that go through the hits. */
const STEPS: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 };

/**
 * One field over everything that sounds: type, go through the hits by the arrow keys and hear each at once, keep one by
 * Enter.
 */
export function SoundsPage() {
  const shelf = useShelf();
  const search = useSoundSearch(shelf);
  const { hits, sounds, shown } = search;
  const { running, take, breakOff } = useBringIn();
  const midiIn = useMidiFileIn(null);
  const [at, setAt] = useState(-1);
  const [layerId, setLayerId] = useState<string | null>(null);
  const navigate = useNavigate();
  // A song sheet that asks for the sound of a layer is gone back to once one is kept.
  const asked = useLocation().state as { songId: string; layerId: string } | null;
  const audition = useAudition(layerId ?? asked?.layerId ?? null, asked?.songId ?? null);
  const takeItem = useTakeItem(audition);
  const own = audition
    ? (sounds.find(({ sound }) => sound !== null && soundKey(sound) === soundKey(audition.layer.sound)) ?? null)
    : null;
  const chosen = hits[at] ?? null;
  const go = (next: number): void => {
    if (hits.length === 0) return;
    const to = Math.max(0, Math.min(hits.length - 1, next));
    setAt(to);
    const { sound } = hits[to];
    if (sound) audition?.hear(sound);
    else audition?.restore();
  };
  const restore = (): void => {
    setAt(-1);
    audition?.restore();
  };
  const keep = (hit: FoundSound | null): void => {
    if (!hit) return;
    if (hit.itemId !== null) takeItem(hit.itemId);
    else if (hit.sound) audition?.keep(hit.sound, shelf.withUsed(hit.sound));
    setAt(-1);
    if (asked && hit.sound) void navigate(`/songs/${asked.songId}`, { state: { stays: true } });
  };
  const filter = (change: () => void): void => {
    change();
    restore();
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key in STEPS) {
      event.preventDefault();
      go(at + STEPS[event.key]);
    } else if (event.key === 'Enter') {
      // The key that keeps must press nothing that comes up by it.
      event.preventDefault();
      keep(chosen);
    } else if (event.key === '*' && chosen?.sound) {
      event.preventDefault();
      shelf.toggleStar(chosen.sound);
    } else if (event.key === 'Escape') {
      event.stopPropagation();
      restore();
    }
  };
  return (
    <div
      className="flex h-full min-h-0"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const files = [...event.dataTransfer.files];
        const sounds = files.filter((file) => !isMidiFile(file));
        if (sounds.length < files.length) midiIn.take(files);
        if (sounds.length > 0) take(sounds);
      }}
    >
      {midiIn.preview}
      <div className="flex min-w-0 flex-1 flex-col px-4">
        <div className="flex items-end gap-4 border-b border-ink pb-2 pt-3">
          <h1 className="named text-4xl">Sounds</h1>
          <input
            autoFocus
            type="text"
            role="combobox"
            aria-expanded
            aria-controls="hits"
            aria-activedescendant={at >= 0 ? `hit-${at}` : undefined}
            aria-label="find a sound"
            placeholder="a name, an instrument, a folder"
            value={search.query}
            onChange={(event) => filter(() => search.setQuery(event.target.value))}
            onKeyDown={onKeyDown}
            className="min-w-0 flex-1 border-b border-ink bg-transparent pb-1 text-xl [field-sizing:fixed] focus:outline-none"
          />
        </div>
        <SoundFilters search={search} shelf={shelf} onFilter={filter} />
        <SoundHits
          hits={hits}
          at={at}
          ownId={own?.id ?? null}
          shelf={shelf}
          nothing={nothingIn(shown)}
          onGo={go}
          onKeep={keep}
          onKeyDown={onKeyDown}
        />
        <KeepBar
          chosen={chosen}
          audition={audition}
          listed={isOwnShelf(shown) ? hits : null}
          onKeep={() => keep(chosen)}
          onNewLayer={(sound) => {
            audition?.addLayer?.(sound, shelf.withUsed(sound));
            setAt(-1);
            if (audition) void navigate(`/songs/${audition.song.id}`, { state: { stays: true } });
          }}
        />
      </div>
      <aside className="w-72 shrink-0 overflow-y-auto border-l border-ink px-4 py-3">
        <OncePlaceIsKnown>
          <HeardInPlaceOf
            audition={audition}
            own={own}
            onLayer={(id) => {
              restore();
              setLayerId(id);
            }}
          />
          <Categories shelf={shelf} chosen={chosen?.sound ? { name: chosen.name, sound: chosen.sound } : null} />
          <InstrumentShelf running={running} onFiles={take} onBreakOff={breakOff} />
        </OncePlaceIsKnown>
      </aside>
    </div>
  );
}

/** How high the list of layers is, is known with what is played: what stands under it comes with it, and never moves. */
function OncePlaceIsKnown({ children }: { children: ReactNode }) {
  return useAwaitsPlace() ? <p className="text-ink2">The running side is starting …</p> : children;
}

/** Stars, or a category of the player's own. */
const isOwnShelf = (shown: string): boolean => shown === 'starred' || shown.startsWith('in ');

function nothingIn(shown: string): string {
  if (shown === 'starred') return 'No stars yet. Go to a sound and press *.';
  return shown === EVERY ? 'Nothing is called that. Try fewer letters.' : 'Nothing here yet.';
}

/** Takes a song or patch from the library: a song is started, a patch goes behind the present one. */
function useTakeItem(audition: ReturnType<typeof useAudition>): (itemId: string) => void {
  const library = useApp(({ show }) => show.working.libraryItems);
  const edit = useEdit();
  const startSong = useStartSong();
  return (itemId) => {
    const item = library[itemId];
    if (item?.kind === 'song')
      return startSong(songFromItem(item, newId<SongId>('song')), `start a song from ${item.name}`);
    if (!item || !audition) return;
    const position = audition.song.patches.findIndex(({ id }) => id === audition.patchId);
    const mint = {
      layer: () => newId<LayerId>('layer'),
      patch: () => newId<PatchId>('patch'),
      blend: () => newId<BlendId>('blend'),
    };
    edit({
      label: `start a patch from ${item.name}`,
      songs: [withPatchFrom(audition.song, item, position, mint, item.id).song],
    });
    toast(`A copy of “${item.name}” stands behind the present patch of ${audition.song.name}.`);
  };
}
