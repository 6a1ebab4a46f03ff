import { knownInstrument, type Instrument, type KnownInstrument, type Layer } from '../../show';
import type { Registry } from '../state/registry';
import { PRESSURE_SLOT, VALUE_SLOTS, WHEEL_SLOT } from '../state/limits';
import { NotReady, Carry } from './carry';
import type { Address, CompiledLayer, CompileNote } from './compiled';
import { NO_INPUT } from './inputFilter';
import type { Placed } from './placed';
import type { SongSurroundings } from './surroundings';

/** What the compile of one layer needs besides the layer. */
export interface LayerCompile {
  readonly owners: ChannelOwners;
  readonly around: SongSurroundings;
  readonly registry: Registry;
  /** What cannot be played is noted here. */
  readonly notes: CompileNote[];
}

/** @returns null where there is nothing that it could sound on. */
export function compileLayer(entry: Placed, compile: LayerCompile): CompiledLayer | null {
  const { instrumentId } = entry.layer.sound;
  const { around, notes } = compile;
  const isLive = entry.layer.source.kind === 'live';
  const stored = around.instrument(instrumentId);
  if (stored?.kind === 'outboard' && !isLive) return outboardLayer(entry, stored, compile);
  const instrument = isLive ? LIVE_SOUND : knownInstrument(instrumentId, around.instrument);
  if (instrument) return builtInLayer(entry, instrument, compile);
  notes.push({
    code: 'no-such-instrument',
    message: `${placeOf(entry)}: ${entry.layer.name} plays an instrument that is not there`,
  });
  return null;
}

const placeOf = (entry: Placed): string => entry.place ?? 'standing';

/** What layers have, whatever they sound on. */
function commonTo({ layer, part, owner, byTimeline }: Placed, { around, registry }: LayerCompile) {
  const { carry } = layer;
  return {
    layerId: layer.id,
    name: layer.name,
    inputFilter: around.keymaps.inputFilter(byTimeline ? NO_INPUT : part.zone),
    deaf: around.shared.flags(
      `deaf ${layer.ignoredControllers.join(' ')} ${layer.ignoresPressure} ${layer.ignoresWheel}`,
      () => deafFlags(layer),
    ),
    output: layer.output,
    carry: Carry[carry.kind],
    fadeMs: carry.kind === 'fade' ? carry.fadeMs : 0,
    layerKey: registry.layerKey(`${owner} ${layer.id}`),
    remap: around.shared.remap(layer),
  };
}

function outboardLayer(
  entry: Placed,
  instrument: Extract<Instrument, { kind: 'outboard' }>,
  compile: LayerCompile,
): CompiledLayer {
  const { layer, scope } = entry;
  const { around, registry, owners, notes } = compile;
  const { instrumentId, presetId } = layer.sound;
  const destination = registry.outputPort(instrument.port);
  const channel = (layer.sound.channel ?? instrument.channel) - 1;
  const presets = around.shared.presets(instrument, presetId);
  const address = presets.addresses[presets.own] ?? null;
  if (!instrument.names.some((name) => name.id === presetId)) noteNoPreset(entry, instrument.name, notes);
  const key = `${instrument.port} ${channel}`;
  const ownsAddress = !owners.addresses.has(key);
  return {
    ...commonTo(entry, compile),
    ownsAddress,
    index: registry.layer(`${scope} ${layer.id} ${instrument.port} ${channel} ${presetId}`, layer.name, layer.id),
    destination,
    lane: registry.destinations[destination].lane + channel,
    lanes: 1,
    outboard: true,
    instrumentId,
    notReady: layer.notReady === null || layer.notReady === 'stay' ? NotReady.wait : NotReady[layer.notReady],
    address,
    presets,
    sendsLevel: layer.sendsLevel && takesLevel(owners, key),
    effects: NO_EFFECTS,
    live: null,
    recording: null,
    silent: takesChannel(owners, key, address, `${placeOf(entry)}: ${layer.name}`, notes),
  };
}

function builtInLayer(entry: Placed, instrument: KnownInstrument, compile: LayerCompile): CompiledLayer {
  const { layer, scope } = entry;
  const { around, registry, notes } = compile;
  const { instrumentId, presetId } = layer.sound;
  const live = layer.source.kind === 'live' ? layer.source : null;
  const lanes = around.builtInLanes;
  const key = live ? `${scope} ${layer.id} live` : `${scope} ${layer.id} ${instrumentId} ${presetId}`;
  const own = around.shared.placeOf(instrument, presetId);
  if (own < 0 && !live) noteNoPreset(entry, instrument.name, notes);
  const destination = registry.builtInLayer(key, lanes, {
    instrumentId,
    presetId,
    label: { instrument: instrument.name, place: entry.place, layer: layer.name },
  });
  return {
    ...commonTo(entry, compile),
    index: registry.layer(`${key} ${lanes}`, layer.name, layer.id),
    destination,
    lane: registry.destinations[destination].lane,
    lanes,
    outboard: false,
    instrumentId: null,
    notReady: layer.notReady === null ? NotReady.stay : NotReady[layer.notReady],
    address: null,
    ownsAddress: false,
    sendsLevel: false,
    silent: live !== null,
    effects: layer.effects,
    live,
    recording: live ? null : recordingOf(around.instrument(instrumentId), presetId, entry.barQuarters),
    presets: { count: instrument.presets.length, own, addresses: null },
  };
}

function noteNoPreset(entry: Placed, instrument: string, notes: CompileNote[]): void {
  notes.push({
    code: 'no-such-preset',
    message: `${placeOf(entry)}: ${entry.layer.name} plays a preset that ${instrument} does not have`,
  });
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
