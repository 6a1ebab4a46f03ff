import { inputsOf, sourceInWords, type RoleInUse } from '@rackle/core/controls';
import { controlKey } from '@rackle/core/show';
import type { NameStyle } from '@rackle/core/midi';
import {
  Binding,
  actionRange,
  type Effect,
  type GearList,
  type Layer,
  type PatchId,
  type RoleSource,
  type Setlist,
  type Song,
  type SongId,
} from '@rackle/core/show';
import type { ControlState } from '../../protocol';
import { useEdit, useSetlist, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { ActionChoice } from './ActionChoice';
import { effectsOfSetlist } from './actionNames';
import { CurveView } from './CurveView';
import { withPort, withSource, withoutSource } from './gearEdits';

interface Props {
  role: RoleInUse;
  gear: GearList;
  sources: readonly RoleSource[];
  states: ReadonlyMap<string, ControlState>;
  style: NameStyle;
  here: { songId: SongId; patchId: PatchId } | null;
  onLearn: () => void;
}

/** Everything about one role: what it does in which scope, and how its controls move it. */
export function RoleDetail({ role, gear, sources, states, style, here, onLearn }: Props) {
  return (
    <div
      className="grid grid-cols-[1fr_1.1fr] gap-6 border-t border-dotted border-rule bg-ground2/50 px-3 py-3"
      data-testid="role-detail"
    >
      <Uses role={role} here={here} />
      <section aria-label={`controls of ${role.role}`}>
        <h3 className="text-[13px] font-bold text-ink2">what plays it</h3>
        {sources.map((source) => (
          <SourceDetail
            key={controlKey(source)}
            source={source}
            gear={gear}
            state={states.get(controlKey(source)) ?? null}
            style={style}
            isValue={role.isValue === true}
            onLearn={onLearn}
          />
        ))}
        <p className="mt-2">
          <Button onClick={onLearn}>{sources.length === 0 ? 'Learn its control' : 'Learn another control'}</Button>
        </p>
      </section>
    </div>
  );
}

/** What the role does, nearest scope last; a use that a nearer one hides says where. */
function Uses({ role, here }: Pick<Props, 'role' | 'here'>) {
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
  const add = (scope: 'setlist' | 'song' | 'patch'): void => {
    const binding = Binding.parse({
      role: role.role,
      action: role.uses.find((use) => use.scope === 'setlist')?.binding.action ?? { kind: 'nextStep' },
    });
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
      {role.uses.length === 0 && <p className="mt-1">Nothing yet. Say what it does, and where.</p>}
      <p className="mt-2 flex flex-wrap gap-2 text-[13px]">
        <Button look="plain" onClick={() => add('setlist')}>
          in the whole setlist
        </Button>
        <Button look="plain" disabled={!hereSong} onClick={() => add('song')}>
          in {hereSong?.name ?? 'a song'}
        </Button>
        <Button look="plain" disabled={!hereSong} onClick={() => add('patch')}>
          in its patch {hereSong?.patches.find((patch) => patch.id === here?.patchId)?.name ?? ''}
        </Button>
      </p>
    </section>
  );
}

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
      {(action.kind === 'layerValue' ||
        action.kind === 'layerSwitch' ||
        action.kind === 'presetStep' ||
        action.kind === 'effectValue' ||
        action.kind === 'effectOnOff') && (
        <>
          ; a recall{' '}
          <Choice
            label="at a recall"
            value={binding.onRecall}
            groups={[
              {
                name: '',
                items: [
                  { value: 'stored', label: 'brings the stored value back' },
                  { value: 'hand', label: 'leaves it as the hand left it' },
                ],
              },
            ]}
            onChange={(onRecall) => onChange({ ...binding, onRecall: onRecall as Binding['onRecall'] })}
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

/** Some senders do not send a number twice in a row: what works with them. */
function ProgramAdvice({ source, gear, onLearn }: { source: RoleSource; gear: GearList; onLearn: () => void }) {
  const edit = useEdit();
  const { source: control } = source;
  if (control.kind !== 'program') return null;
  const count = (direction: 'up' | 'down'): void => {
    const counting = withPort(gear, control.port, 'in', (port) =>
      port.direction === 'in'
        ? { ...port, programs: { kind: 'counter', channels: null, lowest: 0, highest: 127, guardMs: 120 } }
        : port,
    );
    edit({
      label: `let ${control.port} count`,
      gearLists: [
        {
          ...counting,
          roles: counting.roles.map((entry) =>
            entry.role === source.role && entry.source.kind === 'program' && entry.source.port === control.port
              ? { ...entry, source: { kind: 'count', port: control.port, channel: control.channel, direction } }
              : entry,
          ),
        },
      ],
    });
  };
  return (
    <span className="block text-[13px] leading-5 text-ink2">
      Does it stay silent when it is pressed twice? Then{' '}
      <Button look="plain" onClick={onLearn}>
        put a second pedal on the role
      </Button>{' '}
      and step on them in turn, or let the direction of its numbers count:{' '}
      <Button look="plain" onClick={() => count('up')}>
        a higher number plays it
      </Button>
      <Button look="plain" onClick={() => count('down')}>
        a lower one
      </Button>
    </span>
  );
}

function SourceDetail({
  source,
  gear,
  state,
  style,
  isValue,
  onLearn,
}: {
  source: RoleSource;
  gear: GearList;
  state: ControlState | null;
  style: NameStyle;
  isValue: boolean;
  onLearn: () => void;
}) {
  const edit = useEdit();
  const change = (label: string, next: Partial<RoleSource>): void =>
    edit({ label, mergeKey: `${label} ${controlKey(source)}`, gearLists: [withSource(gear, source, next)] });
  const { source: control } = source;
  const hit =
    control.kind === 'note' || control.kind === 'program' || control.kind === 'count' || control.kind === 'computerKey';
  const seven = (label: string, value: number, name: 'lowest' | 'highest') => (
    <NumberField
      label={label}
      value={value}
      min={0}
      max={127}
      className="mono"
      onChange={(next) => change('change the travel that counts', { [name]: next })}
    />
  );
  return (
    <div className="mt-1.5 flex gap-4 border-b border-rule pb-2">
      {isValue && !hit && (
        <CurveView
          source={source}
          stands={state?.stands ?? null}
          share={state?.does.find((does) => does.share !== null)?.share ?? null}
        />
      )}
      <p className="leading-7">
        {control.kind === 'computerKey' ? (
          <b>computer</b>
        ) : (
          <Choice
            label="port it comes by"
            className="font-bold"
            value={control.port}
            groups={[
              {
                name: '',
                items: [
                  ...new Set([...inputsOf(gear).map((port) => port.alias as string), control.port as string]),
                ].map((alias) => ({ value: alias, label: alias })),
              },
            ]}
            onChange={(port) =>
              change('change the port', { source: { ...control, port: port as typeof control.port } })
            }
          />
        )}
        , {sourceInWords(control, style)}
        {'number' in control && (
          <>
            {' '}
            · number{' '}
            <NumberField
              label="number on the wire"
              value={control.number}
              min={0}
              max={control.kind === 'controller14' ? 31 : control.kind === 'controller' ? 119 : 127}
              className="mono"
              onChange={(number) => change('change the number', { source: { ...control, number } })}
            />
          </>
        )}
        {control.kind === 'controller' && (
          <>
            {' '}
            ·{' '}
            <Choice
              label="how it sends"
              value={control.coding}
              groups={[
                {
                  name: '',
                  items: [
                    { value: 'absolute', label: 'says where it stands' },
                    { value: 'twos', label: 'turns, 127 is back' },
                    { value: 'offset', label: 'turns, 63 is back' },
                    { value: 'signed', label: 'turns, 65 is back' },
                  ],
                },
              ]}
              onChange={(coding) =>
                change('change how a control sends', {
                  source: { ...control, coding: coding as typeof control.coding },
                })
              }
            />
          </>
        )}
        {!isValue && (control.kind === 'controller' || control.kind === 'note') && (
          <>
            {' '}
            · acts{' '}
            <Choice
              label="how it acts"
              value={source.button}
              groups={[
                {
                  name: '',
                  items: [
                    { value: 'momentary', label: 'on the press' },
                    { value: 'latching', label: 'on each change' },
                  ],
                },
              ]}
              onChange={(button) => change('change how a switch acts', { button: button as RoleSource['button'] })}
            />
          </>
        )}
        {!isValue && (
          <>
            , not again within{' '}
            <NumberField
              label="guard time"
              value={source.guardMs}
              min={0}
              max={2000}
              step={10}
              unit=" ms"
              className="mono"
              onChange={(guardMs) => change('change the guard time', { guardMs })}
            />
          </>
        )}
        {isValue && !hit && (
          <>
            {' '}
            · {seven('lowest', source.lowest, 'lowest')}–{seven('highest', source.highest, 'highest')} counts,{' '}
            <Toggle
              on={source.reversed}
              name={source.reversed ? 'reversed' : 'not reversed'}
              onClick={() => change('turn a control round', { reversed: !source.reversed })}
            />
            , curve{' '}
            <NumberField
              label="curve"
              value={source.curve}
              min={-100}
              max={100}
              step={5}
              className="mono"
              onChange={(curve) => change('change the curve', { curve })}
            />
            , takes over{' '}
            <Choice
              label="pick-up"
              value={source.pickUp}
              groups={[
                {
                  name: '',
                  items: [
                    { value: 'atOnce', label: 'at once' },
                    { value: 'onMeeting', label: 'on meeting the value' },
                    { value: 'drawnIn', label: 'drawn in' },
                  ],
                },
              ]}
              onChange={(pickUp) => change('change the pick-up', { pickUp: pickUp as RoleSource['pickUp'] })}
            />
          </>
        )}
        {control.kind !== 'computerKey' && (
          <>
            {' '}
            ·{' '}
            <Toggle
              on={source.passOn}
              name={source.passOn ? 'also passed on' : 'used up here'}
              onClick={() => change('change whether it is passed on', { passOn: !source.passOn })}
            />
          </>
        )}
        {control.kind !== 'computerKey' && (
          <>
            ,{' '}
            <Choice
              label="channel it comes on"
              value={String(control.channel ?? 0)}
              groups={[
                {
                  name: '',
                  items: [
                    { value: '0', label: 'any channel' },
                    ...Array.from({ length: 16 }, (_, i) => ({ value: String(i + 1), label: `channel ${i + 1}` })),
                  ],
                },
              ]}
              onChange={(value) =>
                change('change the channel', { source: { ...control, channel: value === '0' ? null : Number(value) } })
              }
            />
          </>
        )}
        {control.kind === 'program' && <ProgramAdvice source={source} gear={gear} onLearn={onLearn} />}{' '}
        <Button
          look="plain"
          onClick={() => edit({ label: `take a control off ${source.role}`, gearLists: [withoutSource(gear, source)] })}
        >
          take it off
        </Button>
      </p>
    </div>
  );
}

const Toggle = ({ on, name, onClick }: { on: boolean; name: string; onClick: () => void }) => (
  <button
    type="button"
    aria-pressed={on}
    onClick={onClick}
    className="border-b border-dotted border-ink hover:border-solid"
  >
    {name}
  </button>
);

function withBindings(song: Song, patchId: string | null, change: (bindings: Binding[]) => Binding[]): Song {
  return patchId === null
    ? { ...song, bindings: change(song.bindings) }
    : {
        ...song,
        patches: song.patches.map((patch) =>
          patch.id === patchId ? { ...patch, bindings: change(patch.bindings) } : patch,
        ),
      };
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
