import { keyName, parseKeyName } from '@rackle/core/midi';
import { assertNever } from '@rackle/core/result';
import {
  BUILT_INS,
  changeLayer,
  effectChanges,
  knownInstrument,
  neighboursOf,
  withJoinedLayers,
  withRunOn,
  withBlendEffects,
  withCrossover,
  withDuplicatedLayer,
  withEffectChanges,
  withLayerEffects,
  withMovedLayer,
  withSplitRun,
  withStanding,
  withStandingInSetlist,
  withoutLayer,
  withoutPart,
  type Blend,
  type Instrument,
  type InstrumentId,
  type Layer,
  type LayerId,
  type Part,
  type PresetId,
  type Song,
} from '@rackle/core/show';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { BENCH_INPUT } from '../../protocol';
import { useApp, useEdit, useGear, useSetlist } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { Choice, type ChoiceGroup } from '../../ui/Choice';
import { dbText, panText, shiftText } from '../../ui/format';
import { NumberField } from '../../ui/NumberField';
import { TapeLetter, letterOf } from '../../ui/Tape';
import { EffectSeries } from '../effects';
import { LayerTools } from './LayerTools';
import { PlayKeys } from './PlayKeys';
import { SoundParameters } from './SoundParameters';
import { VelocityCurve } from './VelocityCurve';

type Balance = Partial<
  Pick<Blend['values'][number], 'levelDb' | 'pan' | 'mute' | 'room' | 'echo' | 'sends' | 'articulation' | 'parameters'>
>;

interface Props {
  song: Song;
  layer: Layer;
  part: Part;
  blend: Blend | null;
  /** The patch that is looked at. */
  patchId: string;
  stands: boolean;
  middleC: 'C3' | 'C4';
  onSong: (label: string, next: Song, mergeKey?: string) => void;
  onPart: (label: string, apply: (part: Part) => Part, mergeKey?: string) => void;
  onBalance: (label: string, values: Balance, mergeKey: string) => void;
}

const velocityWords = (low: number, high: number): string =>
  low <= 1 && high >= 127 ? 'soft to hard' : low <= 1 ? 'soft' : high >= 127 ? 'hard' : 'middle';
const percent = (value: number): string => `${Math.round(value)} %`;
const MOST_LISTED = 300;
const CROSSED_KEYS = 6;
const CROSSED_VELOCITIES = 24;

/** Presets as choices, instrument by instrument; long lists are left to the Sounds page. */
function soundGroups(stored: Readonly<Record<string, Instrument>>, layer: Layer): ChoiceGroup[] {
  const presets = (instrument: Instrument): readonly { id: string; name: string }[] =>
    instrument.kind === 'outboard' ? instrument.names : instrument.presets;
  return [
    ...BUILT_INS.map((instrument) => ({
      name: `${instrument.name}: ${instrument.about}`,
      items: instrument.presets.map((preset) => ({ value: `${instrument.id}|${preset.id}`, label: preset.name })),
    })),
    ...Object.values(stored).map((instrument) => ({
      name: instrument.name,
      items: presets(instrument)
        .filter((preset, i) => i < MOST_LISTED || preset.id === layer.sound.presetId)
        .map((preset) => ({ value: `${instrument.id}|${preset.id}`, label: preset.name })),
    })),
  ];
}

/**
 * A layer's path as one readable line, edited in its place: keys → shift → sound → effects → sends → level → output.
 */
export function SignalLine({ song, layer, part, blend, patchId, stands, middleC, onSong, onPart, onBalance }: Props) {
  const stored = useApp(({ show }) => show.working.instruments);
  const loading = useApp(({ live }) => live.sound.loading);
  const waiting = useApp(({ live }) => live.hands.waiting);
  const gear = useGear();
  const setlist = useSetlist();
  const navigate = useNavigate();
  const edit = useEdit();
  const [toolsOpen, setToolsOpen] = useState(
    part.arpeggio !== null || part.chord.length > 0 || layer.remapped.length > 0,
  );
  const row = song.layers.indexOf(layer);
  const outputs: string[] = gear?.sound.outputs.filter((output) => !output.hidden).map((output) => output.name) ?? [
    'Main',
  ];
  const at = `${stands ? 'standing' : patchId} ${layer.id} ${blend?.id ?? ''}`;
  const change = blend?.values.find((value) => value.layerId === layer.id);
  const balance = {
    levelDb: change?.levelDb ?? part.levelDb,
    pan: change?.pan ?? part.pan,
    mute: change?.mute ?? part.mute,
    room: change?.room ?? part.room,
    echo: change?.echo ?? part.echo,
  };
  const sends = change?.sends ?? part.sends;
  const setLayer = (label: string, next: Partial<Layer>, mergeKey?: string): void =>
    onSong(
      label,
      changeLayer(song, layer.id, (current) => ({ ...current, ...next })),
      mergeKey,
    );
  const known = knownInstrument(layer.sound.instrumentId, (id) => stored[id]);
  const instrument = stored[layer.sound.instrumentId];
  const outboard = instrument?.kind === 'outboard' ? instrument : null;
  const live = layer.source.kind === 'live' ? layer.source : null;
  const inside = outboard === null || live !== null;
  const zone = (label: string, next: Partial<Part['zone']>): void =>
    onPart(label, (current) => ({ ...current, zone: { ...current.zone, ...next } }), `${label} ${at}`);
  const key = (label: string, value: number, min: number, max: number, apply: (value: number) => void) => (
    <NumberField
      label={label}
      value={value}
      min={min}
      max={max}
      show={(number) => keyName(number, middleC)}
      read={(text) => parseKeyName(text, middleC)}
      className="mono"
      onChange={apply}
    />
  );
  const differs = (name: keyof typeof balance): string =>
    change && change[name] !== undefined && change[name] !== part[name] ? 'border-b-2 !border-solid font-bold' : '';
  const number = (
    label: string,
    name: keyof Omit<typeof balance, 'mute'>,
    min: number,
    max: number,
    step: number,
    show: (value: number) => string,
  ) => (
    <NumberField
      label={label}
      value={balance[name]}
      min={min}
      max={max}
      step={step}
      show={show}
      className={differs(name)}
      onChange={(value) => onBalance(`change ${label}`, { [name]: value }, `${name} ${at}`)}
    />
  );
  const patch = song.patches.find(({ id }) => id === patchId);
  const crossings =
    stands || !patch
      ? []
      : neighboursOf(patch, layer.id).map(({ layerId, by }) => ({
          words: `${song.layers.find(({ id }) => id === layerId)?.name ?? ''}, ${by === 'keys' ? `over ${CROSSED_KEYS} keys` : `over ${CROSSED_VELOCITIES} steps of velocity`}`,
          cross: () =>
            onSong(
              'cross two layers over',
              withCrossover(song, patchId, layer.id, layerId, by, by === 'keys' ? CROSSED_KEYS : CROSSED_VELOCITIES),
            ),
        }));
  const others = song.layers.filter(
    (other) => other.id !== layer.id && withJoinedLayers(song, layer.id, other.id) !== null,
  );
  return (
    <div>
      <div className="flex items-center gap-2">
        <TapeLetter tape={layer.tape} letter={letterOf(song.layers.indexOf(layer))} />
        <h2 className="named min-w-0 truncate text-2xl">{layer.name}</h2>
        {loading.some(({ layerId }) => layerId === layer.id) && (
          <span role="status" className="text-[13px] text-ink2">
            loading …
          </span>
        )}
        {waiting.some(({ layerId }) => layerId === layer.id) && (
          <b role="status" className="bg-ink px-1.5 text-[13px] text-ground">
            waiting for the beat
          </b>
        )}
        <span className="ml-auto flex text-[13px]">
          <Toggle
            on={balance.mute}
            name="mute"
            onClick={() =>
              onBalance(balance.mute ? 'unmute' : 'mute', { mute: !balance.mute }, `mute ${at} ${String(balance.mute)}`)
            }
          />
          <Toggle
            on={part.solo}
            name="solo"
            onClick={() => onPart('solo', (current) => ({ ...current, solo: !current.solo }))}
          />
        </span>
      </div>
      <p className="mt-2 text-[17px] leading-8">
        {live ? (
          <>
            Live sound from{' '}
            <LiveInput
              input={live.input}
              onChange={(input) =>
                setLayer('change the live input', { source: { ...live, input: input as typeof live.input } })
              }
            />
            ,{' '}
            <Choice
              label="channels of the live sound"
              value={live.mono ? 'mono' : 'stereo'}
              groups={[
                {
                  name: '',
                  items: [
                    { value: 'mono', label: 'mono, to both sides' },
                    { value: 'stereo', label: 'left and right as they come' },
                  ],
                },
              ]}
              onChange={(value) => setLayer('change the live sound', { source: { ...live, mono: value === 'mono' } })}
            />
          </>
        ) : (
          <>
            Keys{' '}
            {key('lowest key', part.zone.lowKey, 0, part.zone.highKey, (lowKey) => zone('change a zone', { lowKey }))}{' '}
            to{' '}
            {key('highest key', part.zone.highKey, part.zone.lowKey, 127, (highKey) =>
              zone('change a zone', { highKey }),
            )}
            , {velocityWords(part.zone.lowVelocity, part.zone.highVelocity)}{' '}
            <NumberField
              label="lowest velocity"
              value={part.zone.lowVelocity}
              min={1}
              max={part.zone.highVelocity}
              className="mono"
              onChange={(lowVelocity) => zone('change velocities', { lowVelocity })}
            />
            –
            <NumberField
              label="highest velocity"
              value={part.zone.highVelocity}
              min={part.zone.lowVelocity}
              max={127}
              className="mono"
              onChange={(highVelocity) => zone('change velocities', { highVelocity })}
            />{' '}
            ·{' '}
            <NumberField
              label="shift"
              value={part.shift}
              min={-72}
              max={72}
              show={shiftText}
              read={readShift}
              onChange={(shift) => onPart('change the shift', (current) => ({ ...current, shift }), `shift ${at}`)}
            />{' '}
            · {known?.name ?? 'no instrument'},{' '}
            <Choice
              label="preset"
              value={`${layer.sound.instrumentId}|${layer.sound.presetId}`}
              groups={soundGroups(stored, layer)}
              onChange={(value) => {
                const [instrumentId, presetId] = value.split('|');
                setLayer('change the sound', {
                  sound: {
                    ...layer.sound,
                    instrumentId: instrumentId as InstrumentId,
                    presetId: presetId as PresetId,
                    channel: instrumentId === layer.sound.instrumentId ? layer.sound.channel : null,
                  },
                });
              }}
            />{' '}
            <Button
              look="plain"
              className="!min-h-0 text-[13px]"
              onClick={() => void navigate('/sounds', { state: { songId: song.id, layerId: layer.id } })}
            >
              find one
            </Button>
            {outboard && (
              <>
                {' '}
                on {outboard.port}, channel{' '}
                <NumberField
                  label="channel"
                  value={layer.sound.channel ?? outboard.channel}
                  min={1}
                  max={16}
                  className="mono"
                  onChange={(channel) => setLayer('change the channel', { sound: { ...layer.sound, channel } })}
                />
              </>
            )}
          </>
        )}
        {blend && outboard && (
          <>
            {' '}
            · here as{' '}
            <Choice
              label="articulation"
              value={change?.articulation ?? '-'}
              groups={[
                {
                  name: '',
                  items: [
                    { value: '-', label: 'in the patch' },
                    ...outboard.names
                      .slice(0, MOST_LISTED)
                      .map((name) => ({ value: name.id as string, label: name.name })),
                  ],
                },
              ]}
              onChange={(value) =>
                onBalance(
                  'change the articulation',
                  { articulation: value === '-' ? undefined : (value as PresetId) },
                  `articulation ${at}`,
                )
              }
            />
          </>
        )}
        {inside && (
          <>
            {' '}
            · room {number('room', 'room', 0, 100, 1, percent)} · echo {number('echo', 'echo', 0, 100, 1, percent)}
          </>
        )}
        {inside &&
          setlist?.sharedEffects.map((shared) => (
            <span key={shared.id}>
              {' '}
              · {shared.name}{' '}
              <NumberField
                label={`send to ${shared.name}`}
                value={sends.find((send) => send.to === shared.name)?.percent ?? 0}
                min={0}
                max={100}
                show={percent}
                onChange={(value) =>
                  onBalance(
                    `change what goes to ${shared.name}`,
                    {
                      sends: [
                        ...sends.filter((send) => send.to !== shared.name),
                        ...(value > 0 ? [{ to: shared.name, percent: value }] : []),
                      ],
                    },
                    `send ${shared.name} ${at}`,
                  )
                }
              />
            </span>
          ))}{' '}
        · {number('level', 'levelDb', -60, 6, 0.5, dbText)}, {number('pan', 'pan', -100, 100, 1, panText)}
        {outboard && !live ? (
          <>
            {' '}
            ·{' '}
            <Choice
              label="level by controllers"
              value={layer.sendsLevel ? 'yes' : 'no'}
              groups={[
                {
                  name: '',
                  items: [
                    { value: 'no', label: 'level and pan as they are there' },
                    { value: 'yes', label: 'level and pan sent as controllers 7 and 10' },
                  ],
                },
              ]}
              onChange={(value) => setLayer('change how the level is sent', { sendsLevel: value === 'yes' })}
            />
          </>
        ) : (
          <>
            {' '}
            ·{' '}
            <Choice
              label="output"
              value={layer.output}
              groups={[
                {
                  name: '',
                  items: [...new Set([...outputs, layer.output as string])].map((name) => ({
                    value: name,
                    label: name,
                  })),
                },
              ]}
              onChange={(output) => setLayer('change the output', { output: output as Layer['output'] })}
            />
          </>
        )}
      </p>
      {!live && (
        <p>
          <PlayKeys
            keys={2}
            onKeys={([a, b]) => zone('play the ends of a zone', { lowKey: Math.min(a, b), highKey: Math.max(a, b) })}
          >
            play its end keys
          </PlayKeys>
        </p>
      )}
      {!live && (
        <section aria-label="sound in this patch" className="mt-2 border-t border-rule pt-1">
          <SoundParameters
            part={part.parameters}
            blend={blend ? (change?.parameters ?? []) : null}
            outboard={outboard !== null}
            onChange={(label, parameters) =>
              onBalance(
                label,
                { parameters: blend && parameters.length === 0 ? undefined : parameters },
                `${label} ${at}`,
              )
            }
          />
        </section>
      )}
      {inside && (
        <section aria-label="effects" className="mt-2 border-t border-rule pt-1">
          <EffectSeries
            effects={withEffectChanges(layer.effects, change?.effects)}
            differs={
              blend ? effectChanges(layer.effects, withEffectChanges(layer.effects, change?.effects)) : undefined
            }
            onChange={(effects, label) =>
              onSong(
                label,
                blend
                  ? withBlendEffects(song, patchId, blend.id, layer.id, effects)
                  : withLayerEffects(song, layer.id, effects),
                `${label} ${at}`,
              )
            }
          />
        </section>
      )}
      {!live && (
        <details
          className="mt-2 border-t border-rule pt-1"
          open={toolsOpen}
          onToggle={(event) => setToolsOpen(event.currentTarget.open)}
        >
          <summary className="min-h-9 cursor-pointer py-1 text-[13px] font-bold text-ink2">
            what it does with what is played
          </summary>
          {toolsOpen && (
            <div className="flex gap-4">
              <div className="min-w-0 flex-1">
                <LayerTools
                  layer={layer}
                  part={part}
                  gear={gear}
                  at={at}
                  crossings={crossings}
                  onPart={onPart}
                  onLayer={setLayer}
                />
              </div>
              <div className="text-[13px]">
                <VelocityCurve part={part} />
                <p className="mt-1">
                  curve{' '}
                  <NumberField
                    label="velocity curve"
                    value={part.velocity.curve}
                    min={-100}
                    max={100}
                    className="mono"
                    onChange={(curve) =>
                      onPart(
                        'change the velocity curve',
                        (current) => ({ ...current, velocity: { ...current.velocity, curve } }),
                        `curve ${at}`,
                      )
                    }
                  />
                </p>
                <p>
                  from{' '}
                  <NumberField
                    label="softest"
                    value={part.velocity.lowest}
                    min={1}
                    max={part.velocity.highest}
                    className="mono"
                    onChange={(lowest) =>
                      onPart(
                        'change the velocity curve',
                        (current) => ({ ...current, velocity: { ...current.velocity, lowest } }),
                        `curve ${at}`,
                      )
                    }
                  />{' '}
                  to{' '}
                  <NumberField
                    label="hardest"
                    value={part.velocity.highest}
                    min={part.velocity.lowest}
                    max={127}
                    className="mono"
                    onChange={(highest) =>
                      onPart(
                        'change the velocity curve',
                        (current) => ({ ...current, velocity: { ...current.velocity, highest } }),
                        `curve ${at}`,
                      )
                    }
                  />
                </p>
              </div>
            </div>
          )}
        </details>
      )}
      <p className="mt-2 border-t border-rule pt-1 text-ink2">
        At a recall its held notes{' '}
        <Choice
          label="carry"
          value={layer.carry.kind}
          groups={[
            {
              name: '',
              items: [
                { value: 'hold', label: 'hold until released' },
                { value: 'fade', label: 'fade' },
                { value: 'cut', label: 'are cut' },
              ],
            },
          ]}
          onChange={(kind) =>
            setLayer('change the carry', {
              carry: kind === 'fade' ? { kind: 'fade', fadeMs: 1500 } : { kind: kind as 'hold' | 'cut' },
            })
          }
        />
        {layer.carry.kind === 'fade' && (
          <>
            {' '}
            over{' '}
            <NumberField
              label="fade time"
              value={layer.carry.fadeMs}
              min={0}
              max={60_000}
              step={100}
              unit=" ms"
              onChange={(fadeMs) => setLayer('change the fade', { carry: { kind: 'fade', fadeMs } })}
            />
          </>
        )}
        .
        {!live && (
          <>
            {' '}
            While it is not ready, new notes{' '}
            <Choice
              label="while it is not ready"
              value={layer.notReady ?? '-'}
              groups={[{ name: '', items: notReadyItems(outboard !== null) }]}
              onChange={(value) =>
                setLayer('change what it does while it is not ready', {
                  notReady: value === '-' ? null : (value as Layer['notReady']),
                })
              }
            />
            .
          </>
        )}{' '}
        {live
          ? null
          : outboard
            ? `${outboard.name} takes ${outboard.switchMs} ms to switch.`
            : known && (
                <>
                  {known.name} takes {known.memoryMb} MB and {known.loadMs} ms to load.
                </>
              )}
        {blend && (
          <>
            {' '}
            Level, pan, mute, sends, what the sound and its effects are set to, and articulation belong to the blend “
            {blend.name}”; what differs from the patch is underlined.
          </>
        )}
      </p>
      <p className="mt-1 text-[13px]">
        {stands ? (
          <Button
            look="plain"
            onClick={() => onSong('let a layer stand no longer', withStanding(song, patchId, layer.id, false))}
          >
            let it play in this patch only
          </Button>
        ) : (
          <>
            <Button
              look="plain"
              onClick={() => onSong('take a layer out of a patch', withoutPart(song, patchId, layer.id))}
            >
              silent in this patch
            </Button>
            <Button
              look="plain"
              disabled={withRunOn(song, patchId, layer.id) === song}
              onClick={() => onSong('let a layer run on', withRunOn(song, patchId, layer.id))}
            >
              run on into the next
            </Button>
            <Button
              look="plain"
              onClick={() => onSong('split a run', withSplitRun(song, patchId, layer.id, newId<LayerId>('layer')))}
            >
              its own layer from here
            </Button>
            <Button
              look="plain"
              onClick={() => onSong('let a layer stand', withStanding(song, patchId, layer.id, true))}
            >
              stand through the song
            </Button>
          </>
        )}
        {setlist && (
          <Button
            look="plain"
            onClick={() => {
              const stood = withStandingInSetlist(setlist, song, patchId, layer.id, newId<LayerId>('layer'));
              if (stood)
                edit({
                  label: 'let a layer stand through the evening',
                  songs: [stood.song],
                  setlists: [stood.setlist],
                });
            }}
          >
            through the evening
          </Button>
        )}
        <Button
          look="plain"
          disabled={row <= 0}
          onClick={() => onSong('move a layer', withMovedLayer(song, row, row - 1))}
        >
          up
        </Button>
        <Button
          look="plain"
          disabled={row >= song.layers.length - 1}
          onClick={() => onSong('move a layer', withMovedLayer(song, row, row + 1))}
        >
          down
        </Button>
        <Button
          look="plain"
          onClick={() => onSong('duplicate a layer', withDuplicatedLayer(song, layer.id, newId<LayerId>('layer')))}
        >
          duplicate
        </Button>
        {others.length > 0 && (
          <Choice
            label="join with another layer"
            value="-"
            groups={[
              {
                name: '',
                items: [
                  { value: '-', label: 'join with …' },
                  ...others.map((other) => ({ value: other.id as string, label: other.name })),
                ],
              },
            ]}
            onChange={(id) => {
              const joined = id === '-' ? null : withJoinedLayers(song, layer.id, id);
              if (joined) onSong('join two layers', joined);
            }}
          />
        )}{' '}
        <Button
          look="plain"
          onClick={() =>
            setLayer(live ? 'play an instrument again' : 'take live sound', {
              source: live ? { kind: 'midi' } : { kind: 'live', input: BENCH_INPUT as Layer['name'], mono: true },
            })
          }
        >
          {live ? 'an instrument instead' : 'live sound instead'}
        </Button>
        <Button look="plain" onClick={() => onSong('remove a layer', withoutLayer(song, layer.id))}>
          remove from the song
        </Button>
      </p>
    </div>
  );
}

function notReadyItems(isOutboard: boolean): { value: string; label: string }[] {
  const words = (kind: NonNullable<Layer['notReady']>): string => {
    switch (kind) {
      case 'atOnce':
        return 'go out at once';
      case 'wait':
        return 'wait for it, a quarter of a second at most';
      case 'silent':
        return 'are silent';
      case 'stay':
        return 'play the sound of the patch before';
      default:
        return assertNever(kind);
    }
  };
  const usual = isOutboard ? 'wait' : 'stay';
  return [
    { value: '-', label: `${words(usual)}, as usual` },
    ...(['atOnce', 'wait', 'silent', ...(isOutboard ? [] : (['stay'] as const))] as const).map((kind) => ({
      value: kind,
      label: words(kind),
    })),
  ];
}

/** An audio input, by the name that the machine has for it. */
function LiveInput({ input, onChange }: { input: string; onChange: (input: string) => void }) {
  return (
    <input
      aria-label="audio input"
      list="audio-inputs"
      key={input}
      defaultValue={input}
      size={Math.max(6, input.length)}
      className="border-b border-dotted border-ink bg-transparent focus:border-solid focus:outline-none"
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
      }}
      onBlur={(event) => {
        const name = event.target.value.trim().slice(0, 120);
        if (name !== '' && name !== input) onChange(name);
        else event.target.value = input;
      }}
    />
  );
}

/** “+12”, “-7”, “up 3”, “down an octave”: in semitones. */
function readShift(text: string): number | null {
  const number = Number(
    text
      .replace('−', '-')
      .replace(/^\s*down\s*/i, '-')
      .replace(/^\s*up\s*/i, '')
      .replace(/an octave/i, '12'),
  );
  return text.trim() === '' || !Number.isInteger(number) ? null : number;
}

function Toggle({ on, name, onClick }: { on: boolean; name: string; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={`min-h-9 px-2 ${on ? 'bg-ink font-bold text-ground' : 'underline decoration-dotted underline-offset-4'}`}
    >
      {name}
    </button>
  );
}
