import type { RoleInUse, Scope } from '@rackle/core/controls';
import {
  Binding,
  actionRange,
  canBeInEvery,
  madeEvery,
  madeOfOne,
  type Effect,
  type Layer,
  type PatchId,
  type Setlist,
  type Song,
  type SongId,
} from '@rackle/core/show';
import { useState } from 'react';
import { useEdit, useEverySetlist, useSetlist, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { ActionChoice } from './ActionChoice';
import { effectsOfSetlist } from './actionNames';
import { useRoleUses } from './useRoleUses';

interface Props {
  role: RoleInUse;
  /** The song and patch that play, where a nearer use can be added. */
  here: { songId: SongId; patchId: PatchId } | null;
}

/** What the role does, widest scope first; a use that a nearer one hides says where. */
export function RoleUses({ role, here }: Props) {
  const setlist = useSetlist()!;
  const songs = useSongs();
  const { change, add } = useRoleUses(role, here);
  // A new use does nothing until it is said what; the first one is of every setlist if nothing else is said.
  const [adding, setAdding] = useState<Scope | null>(role.uses.length === 0 ? 'everySetlist' : null);
  const around: Around = { setlist, songs };
  const there = adding && placeOf(adding, here);
  return (
    <section aria-label={`what ${role.role} does`}>
      <h3 className="text-[13px] font-bold text-ink2">
        what it does; the nearest wins: patch, then song, then setlist, then every setlist
      </h3>
      {role.uses.map((use, i) => (
        <Use
          key={i}
          use={use}
          layers={layersOf(use, around)}
          setlistEffects={effectsIn(use, around)}
          where={scopeWords(use, around)}
          hidden={hiddenWords(use, songs)}
          onChange={(next) => change(use, next)}
        />
      ))}
      {there && (
        <p className="mt-1.5 leading-7">
          <b>{scopeWords(there, around)}:</b>{' '}
          <ActionChoice
            value={null}
            layers={layersOf(there, around)}
            setlistEffects={effectsIn(there, around)}
            onChange={(action) => {
              setAdding(null);
              add(there.scope, action);
            }}
          />{' '}
          <span className="text-ink2">nothing yet: choose what it does there</span>{' '}
          <Button look="plain" onClick={() => setAdding(null)}>
            leave it
          </Button>
        </p>
      )}
      {role.uses.length === 0 && !adding && <p className="mt-1">Nothing yet. Say what it does, and where.</p>}
      <p className="mt-2 flex flex-wrap gap-2 text-[13px]">
        {(['everySetlist', 'setlist', 'song', 'patch'] as const).map((scope) => (
          <Button
            key={scope}
            look="plain"
            disabled={here === null && (scope === 'song' || scope === 'patch')}
            onClick={() => setAdding(scope)}
          >
            in {scopeName(scope, here, around)}
          </Button>
        ))}
        <MovedUses role={role} setlist={setlist} />
      </p>
    </section>
  );
}

/** What a role does in this setlist can be so in every one, and the other way round. */
function MovedUses({ role: { role, uses }, setlist }: { role: RoleInUse; setlist: Setlist }) {
  const edit = useEdit();
  const every = useEverySetlist();
  const own = uses.filter(({ scope }) => scope === 'setlist');
  const isEvery = uses.some(({ scope }) => scope === 'everySetlist');
  const move = (label: string, moved: ReturnType<typeof madeEvery>): void =>
    edit({ label, setlists: [moved.setlist], everySetlist: [moved.everySetlist] });
  if (own.length > 0 && own.every(({ binding }) => canBeInEvery(binding.action)))
    return (
      <Button look="plain" onClick={() => move(`let ${role} do so in every setlist`, madeEvery(setlist, every, role))}>
        let it do so in every setlist
      </Button>
    );
  if (own.length > 0 || !isEvery) return null;
  return (
    <Button
      look="plain"
      onClick={() => move(`let ${role} do so in ${setlist.name} only`, madeOfOne(setlist, every, role))}
    >
      let it do so in {setlist.name} only
    </Button>
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

/** Where a use stands. */
type PlaceOfUse = Pick<RoleInUse['uses'][number], 'scope' | 'songId' | 'patchId'>;

interface Around {
  setlist: Setlist;
  songs: Readonly<Record<string, Song>>;
}

const placeOf = (scope: Scope, here: Props['here']): PlaceOfUse => ({
  scope,
  songId: scope === 'song' || scope === 'patch' ? (here?.songId ?? null) : null,
  patchId: scope === 'patch' ? (here?.patchId ?? null) : null,
});
const layersOf = ({ scope, songId }: PlaceOfUse, { setlist, songs }: Around): readonly Layer[] => {
  if (scope === 'everySetlist') return [];
  return songId === null ? setlist.layers : (songs[songId]?.layers ?? []);
};
const effectsIn = ({ scope }: PlaceOfUse, { setlist }: Around): readonly Effect[] =>
  scope === 'everySetlist' ? [] : effectsOfSetlist(setlist);
const placeName = (song: Song | undefined, patchId: string | null): string =>
  !song
    ? 'a song that is gone'
    : patchId === null
      ? song.name
      : `${song.name}: ${song.patches.find((patch) => patch.id === patchId)?.name ?? 'a patch that is gone'}`;
const scopeWords = ({ scope, songId, patchId }: PlaceOfUse, { setlist, songs }: Around): string => {
  if (scope === 'everySetlist') return 'every setlist';
  return songId === null ? setlist.name : placeName(songs[songId], patchId);
};
/** What a further use would be of. */
const scopeName = (scope: Scope, here: Props['here'], around: Around): string => {
  if (scope === 'everySetlist' || scope === 'setlist') return scopeWords(placeOf(scope, here), around);
  const song = here && around.songs[here.songId];
  if (!song) return scope === 'song' ? 'a song' : 'a patch';
  return scope === 'song' ? song.name : `its patch ${song.patches.find(({ id }) => id === here.patchId)?.name ?? ''}`;
};
const hiddenWords = ({ hiddenIn }: RoleInUse['uses'][number], songs: Readonly<Record<string, Song>>): string =>
  [
    ...new Set(
      hiddenIn.map(({ songId, patchId }) => (songId === null ? 'this setlist' : placeName(songs[songId], patchId))),
    ),
  ].join(', ');
