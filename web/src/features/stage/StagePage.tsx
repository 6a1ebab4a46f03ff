import { useState } from 'react';
import { keyName } from '@rackle/core/midi';
import type { Layer, Part, Place } from '@rackle/core/show';
import { useApp, usePlaces, useSetlist } from '../../state/hooks';
import { useEvening } from '../../state/useEvening';
import { useLayersNow } from '../../state/useLayersNow';
import { shiftNote } from '../../ui/format';
import { KeyRuler, type RulerZone } from '../../ui/KeyRuler';
import { letterOf } from '../../ui/Tape';
import { useHeldPress } from '../../ui/useHeldPress';
import { FittedName } from './FittedName';
import { StageControls } from './StageControls';
import { StageHands } from './StageHands';
import { StageTouch } from './StageTouch';
import { StageSide } from './StageSide';

/** More layers than these share lines on the ruler. */
const OWN_LINES = 5;

/** Black, and the patch's name as large as fits: where you are, what is next, what is wrong. */
export function StagePage() {
  const position = useApp(({ live }) => live.place.position);
  const controls = useApp(({ live }) => live.controls);
  const setlist = useSetlist();
  const places = usePlaces();
  const [handsOpen, setHandsOpen] = useState(false);
  const here = places[position] ?? null;
  if (!setlist || !here)
    return (
      <p className="named p-8 text-4xl">
        {places.length === 0 ? 'Nothing to play yet. The setlist has no patches.' : 'The running side is starting …'}
      </p>
    );
  const { song, patch, blend } = here;
  return (
    <div
      className="flex h-full flex-col px-6 pb-2 max-[899px]:h-auto max-[899px]:min-h-full max-[699px]:px-3"
      data-testid="stage"
      data-focus="player"
    >
      <div className="relative flex min-h-72 flex-1 max-[899px]:min-h-fit max-[899px]:flex-col">
        <div className="flex min-h-56 min-w-0 flex-1 flex-col pr-6 pt-3 max-[899px]:pr-0">
          <p className="named truncate text-4xl font-medium text-ink2">
            {song.name}
            {blend && <> · {patch.name}</>}
          </p>
          <FittedName text={blend ? blend.name : patch.name} />
          <div className="flex items-end gap-3">
            <Then here={here} places={places} />
            <StageTouch handsOpen={handsOpen} onHands={() => setHandsOpen(!handsOpen)} />
          </div>
        </div>
        <StageSide here={here} />
        {handsOpen && <StageHands here={here} />}
        <Edge onHeld={() => setHandsOpen(true)} />
      </div>
      <StageControls controls={controls.controls} />
      <div className="border-t border-rule pt-2">
        <Zones here={here} middleC={setlist.middleC} />
      </div>
    </div>
  );
}

/** The right edge: a finger that is held there draws the faders in. */
function Edge({ onHeld }: { onHeld: () => void }) {
  const { handlers } = useHeldPress(onHeld, () => true);
  return (
    <span
      aria-hidden
      {...handlers}
      onKeyDown={undefined}
      className="absolute inset-y-0 -right-6 z-20 hidden w-6 touch-none any-pointer-coarse:block max-[699px]:-right-3"
    />
  );
}

/** What comes next, or where the cursor stands. */
function Then({ here, places }: { here: Place; places: readonly Place[] }) {
  const { nextPosition, cursor } = useApp(({ live }) => live.place);
  const pointed = cursor >= 0 ? places[cursor] : undefined;
  const next = places[nextPosition];
  return (
    <p className="named min-w-0 truncate pb-2 text-4xl font-medium text-ink2">
      {pointed ? (
        <>
          cursor on <b className="text-ink">{placeName(pointed, here.song.id)}</b>
        </>
      ) : next ? (
        <>
          then <b className="text-ink">{placeName(next, here.song.id)}</b>
        </>
      ) : (
        'last patch of the night'
      )}
    </p>
  );
}

/** The keyboard as it is laid out now. */
function Zones({ here: { entry, song, patch, blend }, middleC }: { here: Place; middleC: 'C3' | 'C4' }) {
  const { keys, transpose } = useApp(({ live }) => live.hands);
  const shift = song.transpose + entry.keyShift + transpose;
  const layersNow = useLayersNow(song.id);
  const evening = useEvening(song.id);
  const zoneOf = (layer: Layer | undefined, part: Part, at: number): RulerZone[] => {
    if (!layer || part.keys === 'none') return [];
    const now = layersNow.get(layer.id);
    return [
      {
        id: layer.id,
        letter: letterOf(at),
        name: now?.steppedTo ? `${layer.name}: ${now.steppedTo}` : layer.name,
        tape: layer.tape,
        lowKey: part.zone.lowKey,
        highKey: part.zone.highKey,
        note: shiftNote(part.shift + (layer.followsTranspose ? shift : 0)),
        chosen: false,
        muted: now?.isMuted ?? blend?.values.find(({ layerId }) => layerId === layer.id)?.mute ?? part.mute,
      },
    ];
  };
  const zones = [
    ...[...patch.parts, ...song.standing].flatMap((part) => {
      const at = song.layers.findIndex(({ id }) => id === part.layerId);
      return zoneOf(song.layers[at], part, at);
    }),
    ...evening.flatMap(({ layer, part, at }) => zoneOf(layer, part, song.layers.length + at)),
  ];
  const isPacked = zones.length > OWN_LINES;
  return (
    <KeyRuler
      lowest={21}
      highest={108}
      zones={zones}
      keys={keys}
      nameOf={(key) => keyName(key, middleC)}
      barHeight={isPacked ? 16 : 23}
      packed={isPacked}
    />
  );
}

const placeName = (
  place: { song: { id: string; name: string }; patch: { name: string }; blend: { name: string } | null },
  songId: string,
): string =>
  place.song.id === songId ? (place.blend?.name ?? place.patch.name) : `${place.song.name}: ${place.patch.name}`;
