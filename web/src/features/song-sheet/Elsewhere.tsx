import type { Blend, Patch, Song } from '@rackle/core/show';
import { useAwaitsPlace, usePlaceAhead, useSong } from '../../state/hooks';
import { Button } from '../../ui/Button';

interface Props {
  song: Song;
  looked: Patch | null;
  blend: Blend | null;
  onLook: (next: { patchId: string; blendId: string | null }) => void;
  onRecall: (patchId: string, blendId: string | null) => void;
}

const nameOf = (patch: Patch, blend: Blend | null): string => (blend ? `${patch.name}, ${blend.name}` : patch.name);

/** What is live, when it is not what is looked at: which is which. */
export function Elsewhere({ song, looked, blend, onLook, onRecall }: Props) {
  // Known ahead it has its room at once, so that nothing under it moves when the running side is there.
  const { songId, patchId, blendId } = usePlaceAhead();
  const isAhead = useAwaitsPlace();
  const livesIn = useSong(songId);
  const live = livesIn?.patches.find(({ id }) => id === patchId);
  if (!livesIn || !live || !looked) return null;
  const isOfSong = livesIn.id === song.id;
  const lookedBlendId = blend?.id ?? null;
  if (isOfSong && live.id === looked.id && lookedBlendId === blendId) return null;
  const liveBlend = live.blends.find(({ id }) => id === blendId) ?? null;
  return (
    <p role="status" className="mt-2 flex flex-wrap items-center gap-x-2 border-l-4 border-ink bg-ground2 px-3">
      <span>
        Looked at: <b>{nameOf(looked, blend)}</b>. {isAhead ? 'Begins at' : 'Live'}:{' '}
        <b className="live-text">{nameOf(live, liveBlend)}</b>
        {!isOfSong && ` of ${livesIn.name}`}.
      </span>
      <Button look="plain" onClick={() => onRecall(looked.id, lookedBlendId)}>
        play this one
      </Button>
      {isOfSong && (
        <Button look="plain" onClick={() => onLook({ patchId: live.id, blendId })}>
          look at the live one
        </Button>
      )}
    </p>
  );
}
