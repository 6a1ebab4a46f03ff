import { TapeLetter, letterOf } from '../../ui/Tape';
import { AlsoIn } from '../shared-layers';
import type { FoundSound } from './soundIndex';
import { patchesWith } from '@rackle/core/show';
import { useGoTo, usePlaceOf } from '../../state/useGoTo';
import { Button } from '../../ui/Button';
import type { Audition, useAudition } from './useAudition';

/** Which layer of the song that plays gives way to what is heard. */
export function HeardInPlaceOf({
  audition,
  own,
  onLayer,
}: {
  audition: ReturnType<typeof useAudition>;
  /** What the layer sounds with as it is stored. */
  own: FoundSound | null;
  onLayer: (layerId: string) => void;
}) {
  return (
    <>
      <h2 className="text-[13px] font-bold text-ink2">heard in the place of</h2>
      {audition ? (
        <>
          <p className="named mt-1 text-xl">{audition.song.name}</p>
          <ul>
            {audition.song.layers.map((layer, i) => (
              <li key={layer.id}>
                <button
                  type="button"
                  aria-pressed={layer.id === audition.layer.id}
                  onClick={() => onLayer(layer.id)}
                  className={`flex min-h-9 w-full items-center gap-2 px-1 text-left ${layer.id === audition.layer.id ? 'bg-ground2 font-bold' : 'hover:bg-ground2'}`}
                >
                  <TapeLetter tape={layer.tape} letter={letterOf(i)} />
                  <span className="min-w-0 truncate">{layer.name}</span>
                </button>
              </li>
            ))}
          </ul>
          <AlsoIn song={audition.song} layerId={audition.layer.id} patchId={audition.patchId} />
          <NotHeard audition={audition} />
          <p className="mt-2 text-[13px] text-ink2">
            Zone, shift, level and effects stay the layer’s. It is{' '}
            {own ? (
              <>
                now <b className="text-ink">{own.name}</b>, {own.instrument}
              </>
            ) : (
              'without a sound'
            )}
            .
          </p>
        </>
      ) : (
        <p className="mt-1">No song is played, so nothing can be heard yet. Recall a patch in the strip above.</p>
      )}
    </>
  );
}

/** Why nothing is heard, and what would be: the layer's song, or a patch of it that has the layer. */
function NotHeard({ audition: { song, layer, isPlayed, patchId } }: { audition: Audition }) {
  const goTo = useGoTo();
  const placeOf = usePlaceOf(song.id);
  const sounding = patchesWith(song, layer.id);
  if (isPlayed && sounding.some(({ id }) => id === patchId)) return null;
  const place = sounding.map(({ id }) => placeOf(id, null)).find((found) => found !== null) ?? null;
  return (
    <p role="status" className="mt-1 border-l-4 border-ink bg-ground2 px-2 py-1 text-[13px]">
      {isPlayed ? `${layer.name} is silent in the patch that plays` : `${song.name} is not played now`}, so nothing is
      heard of it; what is kept is kept.{' '}
      {place ? (
        <Button look="plain" onClick={() => goTo(place)}>
          play {place.patch.name}
        </Button>
      ) : sounding.length === 0 ? (
        'No patch plays this layer.'
      ) : (
        'The song is not in this setlist.'
      )}
    </p>
  );
}
