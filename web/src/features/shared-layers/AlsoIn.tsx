import { patchesWith, type Song } from '@rackle/core/show';

const MOST_NAMED = 4;

/** That a layer plays in other patches too: what is changed of it may be meant there or not. */
export function AlsoIn({ song, layerId, patchId }: { song: Song; layerId: string; patchId: string | null }) {
  const stands = song.standing.some((part) => part.layerId === layerId);
  const others = patchesWith(song, layerId).filter(({ id }) => id !== patchId);
  if (stands) return <p className="text-[13px] text-ink2">stands through the song: every patch has it</p>;
  if (others.length === 0) return null;
  const more = others.length - MOST_NAMED;
  return (
    <p className="text-[13px] text-ink2" title={others.map(({ name }) => name).join(', ')}>
      also in{' '}
      <span className="text-ink">
        {others
          .slice(0, MOST_NAMED)
          .map(({ name }) => name)
          .join(', ')}
      </span>
      {more > 0 && ` and ${more} more`}
    </p>
  );
}
