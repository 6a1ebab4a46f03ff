import { knownInstrument, type Instrument, type KnownInstrument, type Layer } from '../../show';
import type { Registry } from '../state/registry';
import { PRESSURE_SLOT, VALUE_SLOTS, WHEEL_SLOT } from '../state/limits';
import { NotReady, Carry } from './carry';
import type { Address, CompiledLayer, CompileNote } from './compiled';
import type { Placed } from './placed';
import type { SongSurroundings } from './surroundings';

export function compileLayer(
  entry: Placed,
  owners: ChannelOwners,
  around: SongSurroundings,
  registry: Registry,
  notes: CompileNote[],
): CompiledLayer | null {
  const { layer, part, scope } = entry;
  const place = entry.place ?? 'standing';
  const { instrumentId, presetId } = layer.sound;
  const isLive = layer.source.kind === 'live';
  const inputFilter = around.keymaps.inputFilter(part.zone);
  const deaf = around.shared.flags(
    `deaf ${layer.ignoredControllers.join(' ')} ${layer.ignoresPressure} ${layer.ignoresWheel}`,
    () => deafFlags(layer),
  );
  const common = {
    layerId: layer.id,
    name: layer.name,
    inputFilter,
    deaf,
    output: layer.output,
    carry: layer.carry.kind === 'hold' ? Carry.hold : layer.carry.kind === 'fade' ? Carry.fade : Carry.cut,
    fadeMs: layer.carry.kind === 'fade' ? layer.carry.fadeMs : 0,
    layerKey: registry.layerKey(`${entry.owner} ${layer.id}`),
    remap: around.shared.remap(layer),
  } as const;
  const stored = around.instrument(instrumentId);
  if (stored?.kind === 'outboard' && !isLive) {
    const preset = stored.names.find((name) => name.id === presetId);
    const destination = registry.outputPort(stored.port);
    const channel = (layer.sound.channel ?? stored.channel) - 1;
    const key = `${scope} ${layer.id} ${stored.port} ${channel} ${presetId}`;
    const presets = around.shared.presets(stored, presetId);
    const address = presets.addresses[presets.own] ?? null;
    if (!preset)
      notes.push({
        code: 'no-such-preset',
        message: `${place}: ${layer.name} plays a preset that ${stored.name} does not have`,
      });
    return {
      ...common,
      index: registry.layer(key, layer.name, layer.id),
      destination,
      lane: registry.destinations[destination].lane + channel,
      lanes: 1,
      outboard: true,
      instrumentId,
      notReady: layer.notReady === null || layer.notReady === 'stay' ? NotReady.wait : NOT_READY[layer.notReady],
      address,
      presets,
      sendsLevel: layer.sendsLevel && takesLevel(owners, `${stored.port} ${channel}`),
      effects: NO_EFFECTS,
      live: null,
      recording: null,
      silent: takesChannel(owners, `${stored.port} ${channel}`, address, `${place}: ${layer.name}`, notes),
    };
  }
  const instrument = isLive ? LIVE_SOUND : knownInstrument(instrumentId, around.instrument);
  if (!instrument) {
    notes.push({
      code: 'no-such-instrument',
      message: `${place}: ${layer.name} plays an instrument that is not there`,
    });
    return null;
  }
  const lanes = around.builtInLanes;
  const key = isLive ? `${scope} ${layer.id} live` : `${scope} ${layer.id} ${instrumentId} ${presetId}`;
  const own = around.shared.placeOf(instrument, presetId);
  if (own < 0 && !isLive)
    notes.push({
      code: 'no-such-preset',
      message: `${place}: ${layer.name} plays a preset that ${instrument.name} does not have`,
    });
  const destination = registry.builtInLayer(key, lanes, {
    instrumentId,
    presetId,
    label: { instrument: instrument.name, place: entry.place, layer: layer.name },
  });
  return {
    ...common,
    index: registry.layer(`${key} ${lanes}`, layer.name, layer.id),
    destination,
    lane: registry.destinations[destination].lane,
    lanes,
    outboard: false,
    instrumentId: null,
    notReady: layer.notReady === null ? NotReady.stay : NOT_READY[layer.notReady],
    address: null,
    sendsLevel: false,
    silent: isLive,
    effects: layer.effects,
    live: layer.source.kind === 'live' ? layer.source : null,
    recording: isLive ? null : recordingOf(stored, presetId, entry.barQuarters),
    presets: { count: instrument.presets.length, own, addresses: null },
  };
}

function recordingOf(
  instrument: Instrument | undefined,
  presetId: string,
  barQuarters: number,
): CompiledLayer['recording'] {
  const recording =
    instrument?.kind === 'recordings' ? instrument.presets.find((preset) => preset.id === presetId) : undefined;
  if (!recording) return null;
  return {
    plays: recording.plays,
    startQuarters: recording.starts === 'atOnce' ? 0 : recording.starts === 'beat' ? 1 : barQuarters,
    lengthMs: Math.max(1, ((recording.endSeconds ?? recording.lengthSeconds) - recording.startSeconds) * 1000),
    rootKey: recording.rootKey,
    followsKeys: recording.followsKeys,
  };
}

const NO_EFFECTS: CompiledLayer['effects'] = [];
const LIVE_SOUND: KnownInstrument = { name: 'live sound', kind: 'built-in', presets: [], memoryMb: 0, loadMs: 0 };
const NOT_READY = {
  atOnce: NotReady.atOnce,
  wait: NotReady.wait,
  silent: NotReady.silent,
  stay: NotReady.stay,
} as const;

/** By port and channel, within one patch: who owns the address, and who the level. */
export interface ChannelOwners {
  addresses: Map<string, Address>;
  levels: Set<string>;
}

/** Of several layers on one channel the first that sends its level does; a channel has but one. */
function takesLevel({ levels }: ChannelOwners, channel: string): boolean {
  if (levels.has(channel)) return false;
  levels.add(channel);
  return true;
}

/** Where one gives a bank byte, the other sends 0. */
const sameBytes = (a: Address, b: Address): boolean =>
  a.program === b.program && Math.max(0, a.msb) === Math.max(0, b.msb) && Math.max(0, a.lsb) === Math.max(0, b.lsb);

/** The first layer on an outboard channel owns its address; another with another address is silent. */
function takesChannel(
  { addresses }: ChannelOwners,
  channel: string,
  address: Address | null,
  who: string,
  notes: CompileNote[],
): boolean {
  const owner = addresses.get(channel);
  if (!owner) {
    if (address && address.program >= 0) addresses.set(channel, address);
    return false;
  }
  if (!address || address.program < 0 || sameBytes(owner, address)) return false;
  notes.push({
    code: 'channel-taken',
    message: `${who} is silent: another layer has its channel with another program`,
  });
  return true;
}

function deafFlags(layer: Layer): Uint8Array {
  const flags = new Uint8Array(VALUE_SLOTS);
  for (const controller of layer.ignoredControllers) flags[controller] = 1;
  flags[PRESSURE_SLOT] = layer.ignoresPressure ? 1 : 0;
  flags[WHEEL_SLOT] = layer.ignoresWheel ? 1 : 0;
  return flags;
}
