import { useCallback } from 'react';
import { keyName } from '@rackle/core/midi';
import { changePatch, withSplitAt, type Part, type Patch, type Song } from '@rackle/core/show';
import { useApp, useEdit, useGear, usePlaceAhead, useSetlist } from '../../state/hooks';
import { useEvening, withEveningZone } from '../../state/useEvening';
import { useLayersNow, type LayerNow } from '../../state/useLayersNow';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { shiftNote } from '../../ui/format';
import { KeyRuler, type RulerZone } from '../../ui/KeyRuler';
import { letterOf } from '../../ui/Tape';
import { HandsHere } from '../hands';
import { Capacity } from './Capacity';
import { FoldNote } from './FoldNote';
import { PatchBar } from './PatchBar';
import { PatchMessages } from './PatchMessages';
import { PlayKeys } from './PlayKeys';
import { SIZES, type KeyboardSize } from './sizes';
import type { useSongSheet } from './useSongSheet';

type SongSheet = ReturnType<typeof useSongSheet>;

/** The key ruler of the patch that is looked at, and what belongs to the patch as a whole. */
export function ZonesSection({
  song,
  patch,
  sheet,
  size,
  onSize,
}: {
  song: Song;
  patch: Patch;
  sheet: SongSheet;
  size: KeyboardSize;
  onSize: (size: KeyboardSize) => void;
}) {
  const keys = useApp(({ live }) => live.hands.keys);
  const middleC = useSetlist()?.middleC ?? 'C4';
  const nameOf = useCallback((key: number) => keyName(key, middleC), [middleC]);
  const { blend, parts, layer, look, change, setPart, actions } = sheet;
  const layersNow = useLayersNow(song.id);
  const place = usePlaceAhead();
  const isLive = place.patchId === patch.id && place.blendId === (blend?.id ?? null);
  const zones = parts.flatMap((part) =>
    zoneOf(song, part, layer?.id ?? null, isLive ? layersNow.get(part.layerId) : undefined),
  );
  const edit = useEdit();
  const setlist = useSetlist();
  const evening = useEvening(song.id);
  const isOfEvening = (id: string): boolean => evening.some(({ layer: of }) => of.id === id);
  const eveningZones = evening
    .filter(({ part }) => part.keys !== 'none')
    .map(({ layer: of, part, at }): RulerZone => ({
      id: of.id,
      letter: letterOf(song.layers.length + at),
      name: `${of.name}, through the evening${part.keys === 'taken' ? ', takes its keys' : ''}`,
      tape: of.tape,
      lowKey: part.zone.lowKey,
      highKey: part.zone.highKey,
      note: shiftNote(part.shift),
      chosen: false,
      muted: (isLive ? layersNow.get(of.id)?.isMuted : undefined) ?? part.mute,
    }));
  const setZone = (id: string, lowKey: number, highKey: number): void => {
    if (setlist && isOfEvening(id))
      edit({
        label: 'change a zone',
        mergeKey: `evening zone ${id}`,
        setlists: [withEveningZone(setlist, id, { lowKey, highKey })],
      });
    else
      setPart(
        id,
        'change a zone',
        (current) => ({ ...current, zone: { ...current.zone, lowKey, highKey } }),
        `zone ${patch.id} ${id}`,
      );
  };
  return (
    <section aria-label="zones" className="min-w-0 flex-[3]">
      <PatchBar song={song} patch={patch} blend={blend} onChange={change} onChoose={look} />
      <KeyRuler
        lowest={size.lowest}
        highest={size.highest}
        zones={[...zones, ...eveningZones]}
        keys={keys}
        nameOf={nameOf}
        onChoose={(layerId) => {
          if (!isOfEvening(layerId)) look({ layerId });
        }}
        onZone={setZone}
      />
      {zones.length === 0 && (
        <p className="text-ink2">
          No keys play in this patch. Click an empty cell above, or{' '}
          <Button look="plain" onClick={actions.addLayer}>
            add a layer
          </Button>
        </p>
      )}
      {isLive && <HandsHere />}
      <FoldNote song={song} patch={patch} {...size} middleC={middleC} onChange={change} />
      <p className="flex flex-wrap items-center gap-x-2 text-[13px] text-ink2">
        <span>
          on{' '}
          <Choice
            label="size of the keyboard"
            value={String(size.keys)}
            items={SIZES.map((item) => ({ value: String(item.keys), label: `${item.keys} keys` }))}
            onChange={(value) => onSize(SIZES.find((item) => String(item.keys) === value) ?? SIZES[0])}
          />
        </span>
        <span>drag an end, or the whole strip</span>
        <SplitByKey song={song} patch={patch} sheet={sheet} />
        <span>{patch.note}</span>
      </p>
      <Capacity song={song} patch={patch} />
      {!blend && <MessagesOfPatch song={song} patch={patch} change={change} />}
    </section>
  );
}

function zoneOf(song: Song, part: Part, chosen: string | null, now: LayerNow | undefined): RulerZone[] {
  const index = song.layers.findIndex(({ id }) => id === part.layerId);
  const layer = song.layers[index];
  if (layer?.source.kind !== 'midi' || part.keys === 'none') return [];
  return [
    {
      id: layer.id,
      letter: letterOf(index),
      name: part.keys === 'taken' ? `${layer.name}, takes its keys` : layer.name,
      tape: layer.tape,
      lowKey: part.zone.lowKey,
      highKey: part.zone.highKey,
      note: shiftNote(part.shift),
      chosen: layer.id === chosen,
      muted: now?.isMuted ?? part.mute,
    },
  ];
}

/** Of two layers, the one looked at takes the keys from a struck one up. */
function SplitByKey({ song, patch, sheet }: { song: Song; patch: Patch; sheet: SongSheet }) {
  const { layer, part, isStanding, change } = sheet;
  if (!layer || !part || isStanding(layer.id) || layer.source.kind !== 'midi') return null;
  const others = patch.parts.filter(
    ({ layerId }) => layerId !== layer.id && song.layers.find(({ id }) => id === layerId)?.source.kind === 'midi',
  );
  if (others.length !== 1) return null;
  const [{ layerId: lower }] = others;
  return (
    <PlayKeys
      keys={1}
      onKeys={([key]) => change('split by a key', withSplitAt(song, patch.id, lower, layer.id, key))}
    >{`split: ${layer.name} from a key up`}</PlayKeys>
  );
}

function MessagesOfPatch({ song, patch, change }: { song: Song; patch: Patch; change: SongSheet['change'] }) {
  const gear = useGear();
  const setlist = useSetlist();
  const style = { programsFrom: setlist?.programsFrom ?? 1, middleC: setlist?.middleC ?? 'C4' } as const;
  return (
    <div className="mt-2 text-[13px]">
      {(['entering', 'leaving'] as const).map((when) => (
        <PatchMessages
          key={when}
          when={when}
          messages={patch[when]}
          gear={gear}
          style={style}
          onChange={(label, messages) =>
            change(
              label,
              changePatch(song, patch.id, (current) => ({ ...current, [when]: messages })),
              `${when} ${patch.id}`,
            )
          }
        />
      ))}
    </div>
  );
}
