import { toast } from 'sonner';
import {
  changePatch,
  patchItem,
  patchWithLayers,
  withDuplicatedPatch,
  withMovedPatch,
  withPatchFrom,
  withoutBlend,
  withoutPatch,
  type Blend,
  type BlendId,
  type LayerId,
  type LibraryItemId,
  type Patch,
  type PatchId,
  type Song,
} from '@rackle/core/show';
import { useApp, useEdit, useSetlist } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { NumberField } from '../../ui/NumberField';

interface Props {
  song: Song;
  patch: Patch;
  blend: Blend | null;
  onChange: (label: string, next: Song, mergeKey?: string) => void;
  onChoose: (next: { patchId?: string; blendId?: string | null }) => void;
}

const mint = {
  layer: () => newId<LayerId>('layer'),
  patch: () => newId<PatchId>('patch'),
  blend: () => newId<BlendId>('blend'),
};

/** The chosen patch or blend by name, and what can be done with it as a whole. */
export function PatchBar(props: Props) {
  const { song, patch, blend, onChange } = props;
  const setBlend = (label: string, next: Partial<Blend>, mergeKey?: string): void =>
    onChange(
      label,
      changePatch(song, patch.id, (current) => ({
        ...current,
        blends: current.blends.map((item) => (item.id === blend?.id ? { ...item, ...next } : item)),
      })),
      mergeKey,
    );
  return (
    <div className="mb-2 flex flex-wrap items-center gap-x-2">
      {blend ? (
        <EditableText
          label="name of the blend"
          value={blend.name}
          className="named text-2xl"
          onChange={(name) => setBlend('rename', { name })}
        />
      ) : (
        <EditableText
          label="name of the patch"
          value={patch.name}
          className="named text-2xl"
          onChange={(name) =>
            onChange(
              'rename',
              changePatch(song, patch.id, (current) => ({ ...current, name })),
            )
          }
        />
      )}
      {blend && <BlendWords patch={patch} blend={blend} setBlend={setBlend} />}
      <span className="ml-auto flex flex-wrap text-[13px]">
        {blend ? (
          <Button look="plain" onClick={() => onChange('remove a blend', withoutBlend(song, patch.id, blend.id))}>
            remove blend
          </Button>
        ) : (
          <PatchTools {...props} />
        )}
      </span>
    </div>
  );
}

/** Of which patch it is a blend, how long it takes to get there, and whether next stops at it. */
function BlendWords({
  patch,
  blend,
  setBlend,
}: {
  patch: Patch;
  blend: Blend;
  setBlend: (label: string, next: Partial<Blend>, mergeKey?: string) => void;
}) {
  return (
    <span className="text-ink2">
      blend of {patch.name}, in{' '}
      <NumberField
        label="time of the blend"
        value={blend.timeMs}
        min={0}
        max={60_000}
        step={50}
        unit=" ms"
        className="mono"
        onChange={(timeMs) => setBlend('change the time of a blend', { timeMs }, `blend ${blend.id}`)}
      />{' '}
      ·{' '}
      <label>
        <input
          type="checkbox"
          checked={blend.isStep}
          onChange={(event) => setBlend('change a step', { isStep: event.target.checked })}
        />{' '}
        a step
      </label>
    </span>
  );
}

function PatchTools(props: Props) {
  const { song, patch, onChange, onChoose } = props;
  const edit = useEdit();
  const at = song.patches.indexOf(patch);
  const keep = (): void => {
    const item = patchItem(song, patch.id, {
      id: newId<LibraryItemId>('item'),
      description: patch.note,
      keptAt: new Date().toISOString(),
      isTemplate: false,
    });
    if (!item) return;
    edit({ label: `keep ${patch.name} in the library`, libraryItems: [item] });
    toast(`A copy of “${patch.name}” is in the library.`);
  };
  return (
    <>
      <label className="flex items-center gap-1 px-2">
        <input
          type="checkbox"
          checked={patch.isStep}
          onChange={(event) =>
            onChange(
              'change a step',
              changePatch(song, patch.id, (current) => ({ ...current, isStep: event.target.checked })),
            )
          }
        />{' '}
        a step
      </label>
      <Button
        look="plain"
        disabled={at <= 0}
        onClick={() => onChange('move a patch', withMovedPatch(song, at, at - 1))}
      >
        earlier
      </Button>
      <Button
        look="plain"
        disabled={at >= song.patches.length - 1}
        onClick={() => onChange('move a patch', withMovedPatch(song, at, at + 1))}
      >
        later
      </Button>
      <Button
        look="plain"
        onClick={() => {
          const id = newId<PatchId>('patch');
          onChange('duplicate a patch', withDuplicatedPatch(song, patch.id, id, mint.blend));
          onChoose({ patchId: id, blendId: null });
        }}
      >
        duplicate
      </Button>
      <Button look="plain" onClick={keep}>
        keep in the library
      </Button>
      <Copies {...props} />
      <Button look="plain" onClick={() => onChange('remove a patch', withoutPatch(song, patch.id))}>
        remove
      </Button>
    </>
  );
}

/** Copies into other songs, and from the library. */
function Copies({ song, patch, onChange, onChoose }: Props) {
  const edit = useEdit();
  const songs = useApp(({ show }) => show.working.songs);
  const library = useApp(({ show }) => show.working.libraryItems);
  const setlist = useSetlist();
  const order = (setlist?.entries ?? []).flatMap((entry) => (entry.kind === 'song' ? [entry.songId as string] : []));
  const others = [...new Set([...order, ...Object.keys(songs)])].filter((id) => id !== song.id && songs[id]);
  const patches = Object.values(library).filter((item) => item.kind === 'patch');
  const copyTo = (id: string): void => {
    const target = songs[id];
    const content = patchWithLayers(song, patch.id);
    if (!target || !content) return;
    edit({
      label: `copy ${patch.name} into ${target.name}`,
      songs: [withPatchFrom(target, content, target.patches.length - 1, mint).song],
    });
    toast(`A copy of “${patch.name}” is the last patch of ${target.name}.`);
  };
  const takeFrom = (id: string): void => {
    const item = library[id];
    if (item?.kind !== 'patch') return;
    const taken = withPatchFrom(song, item, song.patches.indexOf(patch), mint, item.id);
    onChange(`start a patch from ${item.name}`, taken.song);
    onChoose({ patchId: taken.patchId, blendId: null });
  };
  return (
    <span className="px-2 py-2">
      <Choice
        label="copy into another song"
        value="-"
        items={[{ value: '-', label: 'copy into …' }, ...others.map((id) => ({ value: id, label: songs[id].name }))]}
        onChange={(id) => {
          if (id !== '-') copyTo(id);
        }}
      />
      {patches.length > 0 && (
        <>
          {' '}
          ·{' '}
          <Choice
            label="start from the library"
            value="-"
            items={[
              { value: '-', label: 'from the library …' },
              ...patches.map((item) => ({ value: item.id as string, label: item.name })),
            ]}
            onChange={(id) => {
              if (id !== '-') takeFrom(id);
            }}
          />
        </>
      )}
    </span>
  );
}
