import type { RoleInUse, Scope } from '@rackle/core/controls';
import {
  Binding,
  actionRange,
  type Action,
  withBindings,
  type Effect,
  type Layer,
  type PatchId,
  type Setlist,
  type Song,
  type SongId,
} from '@rackle/core/show';
import { useState } from 'react';
import { useEdit, useSetlist, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { ActionChoice } from './ActionChoice';
import { effectsOfSetlist } from './actionNames';

interface Props {
  role: RoleInUse;
  /** The song and patch that play, where a nearer use can be added. */
  here: { songId: SongId; patchId: PatchId } | null;
}

/** What the role does, nearest scope last; a use that a nearer one hides says where. */
export function RoleUses({ role, here }: Props) {
  const edit = useEdit();
  const setlist = useSetlist()!;
  const songs = useSongs();
  const change = (use: RoleInUse['uses'][number], next: Binding | null): void => {
    const swap = (bindings: Binding[]): Binding[] =>
      next === null
        ? bindings.filter((binding) => binding !== use.binding)
        : bindings.map((binding) => (binding === use.binding ? next : binding));
    const label = next === null ? `take a use off ${role.role}` : `change what ${role.role} does`;
    const mergeKey =
      next === null ? undefined : `use ${role.role} ${use.scope} ${use.songId ?? ''} ${use.patchId ?? ''}`;
    if (use.songId === null)
      return edit({ label, mergeKey, setlists: [{ ...setlist, bindings: swap(setlist.bindings) }] });
    edit({ label, mergeKey, songs: [withBindings(songs[use.songId], use.patchId, swap)] });
  };
  // A new use does nothing until it is said what.
  const [adding, setAdding] = useState<Scope | null>(null);
  const add = (scope: Scope, action: Action): void => {
    setAdding(null);
    const binding = Binding.parse({ role: role.role, action });
    const label = `give ${role.role} a use`;
    if (scope === 'setlist')
      return edit({ label, setlists: [{ ...setlist, bindings: [...setlist.bindings, binding] }] });
    if (here)
      edit({
        label,
        songs: [
          withBindings(songs[here.songId], scope === 'patch' ? here.patchId : null, (bindings) => [
            ...bindings,
            binding,
          ]),
        ],
      });
  };
  const hereSong = here ? songs[here.songId] : null;
  return (
    <section aria-label={`what ${role.role} does`}>
      <h3 className="text-[13px] font-bold text-ink2">
        what it does; the nearest wins: patch, then song, then setlist
      </h3>
      {role.uses.map((use, i) => (
        <Use
          key={i}
          use={use}
          layers={layersOf(use, setlist, songs)}
          setlistEffects={effectsOfSetlist(setlist)}
          where={scopeWords(use, songs)}
          hidden={use.hiddenIn.map(({ songId, patchId }) => placeName(songs[songId], patchId)).join(', ')}
          onChange={(next) => change(use, next)}
        />
      ))}
      {adding && (
        <p className="mt-1.5 leading-7">
          <b>
            {adding === 'setlist' ? 'whole setlist' : placeName(hereSong!, adding === 'patch' ? here!.patchId : null)}:
          </b>{' '}
          <ActionChoice
            value={null}
            layers={adding === 'setlist' ? setlist.layers : (hereSong?.layers ?? [])}
            setlistEffects={effectsOfSetlist(setlist)}
            onChange={(action) => add(adding, action)}
          />{' '}
          <span className="text-ink2">nothing yet: choose what it does there</span>{' '}
          <Button look="plain" onClick={() => setAdding(null)}>
            leave it
          </Button>
        </p>
      )}
      {role.uses.length === 0 && !adding && <p className="mt-1">Nothing yet. Say what it does, and where.</p>}
      <p className="mt-2 flex flex-wrap gap-2 text-[13px]">
        <Button look="plain" onClick={() => setAdding('setlist')}>
          in the whole setlist
        </Button>
        <Button look="plain" disabled={!hereSong} onClick={() => setAdding('song')}>
          in {hereSong?.name ?? 'a song'}
        </Button>
        <Button look="plain" disabled={!hereSong} onClick={() => setAdding('patch')}>
          in its patch {hereSong?.patches.find((patch) => patch.id === here?.patchId)?.name ?? ''}
        </Button>
      </p>
    </section>
  );
}

/** What a hand moves of a layer, and a recall may bring back. */
const MOVED_BY_HAND: ReadonlySet<Binding['action']['kind']> = new Set([
  'layerValue',
  'layerSwitch',
  'presetStep',
  'effectValue',
  'effectOnOff',
]);

function Use({
  use,
  layers,
  setlistEffects,
  where,
  hidden,
  onChange,
}: {
  use: RoleInUse['uses'][number];
  layers: readonly Layer[];
  setlistEffects: readonly Effect[];
  where: string;
  hidden: string;
  onChange: (next: Binding | null) => void;
}) {
  const { binding } = use;
  const { action } = binding;
  const effects =
    'layerId' in action ? (layers.find(({ id }) => id === action.layerId)?.effects ?? []) : setlistEffects;
  const range = actionRange(
    action,
    'effectId' in action ? (effects.find(({ id }) => id === action.effectId)?.kind ?? null) : null,
  );
  return (
    <p className="mt-1.5 leading-7">
      <b>{where}:</b>{' '}
      <ActionChoice
        value={action}
        layers={layers}
        setlistEffects={setlistEffects}
        onChange={(next) => onChange(Binding.parse({ ...binding, action: next, low: null, high: null }))}
      />
      {range &&
        (['low', 'high'] as const).map((end) => (
          <span key={end}>
            {end === 'low' ? ', from ' : ' to '}
            <NumberField
              label={end === 'low' ? 'value at the start' : 'value at the end'}
              value={binding[end] ?? range[end]}
              min={range.low}
              max={range.high}
              unit={range.unit === '' ? '' : ` ${range.unit}`}
              className="mono"
              onChange={(value) => onChange({ ...binding, [end]: value })}
            />
          </span>
        ))}
      {MOVED_BY_HAND.has(action.kind) && (
        <>
          ; a recall{' '}
          <Choice
            label="at a recall"
            value={binding.onRecall}
            items={[
              { value: 'stored', label: 'brings the stored value back' },
              { value: 'hand', label: 'leaves it as the hand left it' },
            ]}
            onChange={(onRecall) => onChange({ ...binding, onRecall })}
          />
        </>
      )}{' '}
      <Button look="plain" onClick={() => onChange(null)}>
        take away
      </Button>
      {hidden !== '' && (
        <span className="block text-[13px] leading-4 text-ink2">hidden in {hidden}, where a nearer use wins</span>
      )}
    </p>
  );
}

const layersOf = (
  use: RoleInUse['uses'][number],
  setlist: Setlist,
  songs: Readonly<Record<string, Song>>,
): readonly Layer[] => (use.songId === null ? setlist.layers : (songs[use.songId]?.layers ?? []));
const placeName = (song: Song | undefined, patchId: string | null): string =>
  !song
    ? 'a song that is gone'
    : patchId === null
      ? song.name
      : `${song.name}: ${song.patches.find((patch) => patch.id === patchId)?.name ?? 'a patch that is gone'}`;
const scopeWords = (use: RoleInUse['uses'][number], songs: Readonly<Record<string, Song>>): string =>
  use.songId === null ? 'whole setlist' : placeName(songs[use.songId], use.patchId);
