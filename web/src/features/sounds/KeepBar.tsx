import { useNavigate } from 'react-router';
import { withPatchesOf, type LayerId, type PatchId } from '@rackle/core/show';
import { useApp, useEdit } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import type { FoundSound, SoundOf } from './soundIndex';
import type { useAudition } from './useAudition';

const MOST_PATCHES = 128;

interface Props {
  chosen: FoundSound | null;
  audition: ReturnType<typeof useAudition>;
  /** A shelf of the player's own that is shown; null: none is. */
  listed: readonly FoundSound[] | null;
  onKeep: () => void;
  onNewLayer: (sound: SoundOf) => void;
}

/** What can be done with the sound that is gone to, and with a list of favourites as a whole. */
export function KeepBar({ chosen, audition, listed, onKeep, onNewLayer }: Props) {
  const sound = chosen?.sound ?? null;
  return (
    <p className="flex min-h-14 flex-wrap items-center gap-2 border-t border-ink py-1.5">
      <Button large look="filled" disabled={!chosen || (sound !== null && !audition)} onClick={onKeep}>
        {sound === null && chosen ? 'Start from it' : `Keep for ${audition?.layer.name ?? 'a layer'}`}
      </Button>
      <Button
        large
        disabled={!sound || !audition?.addLayer}
        onClick={() => {
          if (sound) onNewLayer(sound);
        }}
      >
        As a new layer
      </Button>
      <span className="min-w-0 flex-1 truncate text-[13px] text-ink2">
        {chosen
          ? chosen.name
          : 'go to a sound by the arrow keys, or press it: Enter keeps, Esc brings back what was there'}
      </span>
      {listed && audition && <MakePatches listed={listed} songId={audition.song.id} />}
    </p>
  );
}

/** The sounds of a shelf, in their order, as patches of the song. */
function MakePatches({ listed, songId }: { listed: readonly FoundSound[]; songId: string }) {
  const song = useApp(({ show }) => show.working.songs[songId]);
  const instruments = useApp(({ show }) => show.working.instruments);
  const edit = useEdit();
  const navigate = useNavigate();
  const sounds = listed.flatMap(({ sound }) => sound ?? []).slice(0, MOST_PATCHES);
  if (!song || sounds.length === 0) return null;
  const make = (): void => {
    const mint = { layer: () => newId<LayerId>('layer'), patch: () => newId<PatchId>('patch') };
    edit({
      label: `make ${sounds.length} ${sounds.length === 1 ? 'patch' : 'patches'} of sounds`,
      songs: [withPatchesOf(song, sounds, mint, (id) => instruments[id])],
    });
    void navigate(`/songs/${song.id}`, { state: { stays: true } });
  };
  return (
    <Button large onClick={make}>
      Make patches of these {sounds.length}, in {song.name}
    </Button>
  );
}
