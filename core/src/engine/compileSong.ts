import {
  type CompileNote,
  type Address,
  type CompiledBalance,
  type CompiledLayer,
  type CompiledPatch,
  type PartExtras,
  type PatchMessage,
  AT_ONCE,
  CARRY_CUT,
  CARRY_FADE,
  CARRY_HOLD,
  FLAG_CARRY_SHIFT,
  FLAG_EFFECTS,
  FLAG_LOOPS,
  FLAG_OUTBOARD,
  FLAG_SENDS_LEVEL,
  FLAG_SILENT,
  FLAG_SIXTEEN_LANES,
  FLAG_STAYS,
  SILENT,
  STAY,
  WAIT,
  packZone,
} from './compiled';
import { CONTROLLER, PROGRAM } from '../midi/status';
import {
  SOUND_CONTROLLER_REST,
  knownInstrument,
  quartersOf,
  withEffectChanges,
  type Blend,
  type Effect,
  type Instrument,
  type KnownInstrument,
  type Layer,
  type OutMessage,
  type OutboardInstrument,
  type Part,
  type Patch,
  type Setlist,
  type Song,
  type SoundParameter,
} from '../show';
import { addressFor, addressOf } from './addresses';
import type { Book } from './book';
import { compileBindings } from './compileControls';
import { SILENT_HEARING, type Shapes } from './compileHearing';
import { PEDAL_CONTROLLERS } from './inputs';
import { PRESSURE_SLOT, RECALL_RAMP_MS, VALUE_SLOTS, WHEEL_SLOT } from './limits';
import { fadeAt, velocityTable } from './velocityTable';

/**
 * Everything besides the song itself that its compiled form depends on. Of the gear that is very little: see
 * `compileHearing`.
 */
export interface SongSurroundings {
  readonly setlist: Setlist;
  readonly instruments: ReadonlyMap<string, Instrument>;
  /** Lanes of a built-in layer: sixteen where a keyboard sends each note on a channel of its own. */
  readonly builtInLanes: 1 | 16;
  readonly sysexOutputs: ReadonlySet<string>;
  readonly shapes: Shapes;
  readonly shared: SharedTables;
  /** Whether the setlist binds any role to a layer; its other bindings are the same for every patch. */
  readonly bindsLayers: boolean;
  /** Effects of the setlist that roles may move. */
  readonly setlistEffects: readonly Effect[];
}

const isPedal = (controller: number): boolean => PEDAL_CONTROLLERS.includes(controller as 64);

interface Folder {
  places: ReadonlyMap<string, number>;
  addresses: readonly Address[];
}

/** Equal tables are one table. They do not depend on the gear. */
export class SharedTables {
  private readonly bytes = new Map<string, Uint8Array>();
  private readonly presetsOf = new Map<OutboardInstrument, Map<string | null, Folder>>();
  private readonly placesOf = new Map<string, ReadonlyMap<string, number>>();

  flags(key: string, make: () => Uint8Array): Uint8Array {
    const known = this.bytes.get(key) ?? make();
    this.bytes.set(key, known);
    return known;
  }

  /** Where a layer's controllers leave under another number; pedals stay what they are. Null: nowhere. */
  remap({ remapped }: Layer): Uint8Array | null {
    const pairs = remapped.filter(({ from, to }) => from !== to && !isPedal(from) && !isPedal(to));
    if (pairs.length === 0) return null;
    return this.flags(`remap ${pairs.map(({ from, to }) => `${from}>${to}`).join(' ')}`, () => {
      const table = Uint8Array.from({ length: VALUE_SLOTS }, (_, slot) => slot);
      for (const { from, to } of pairs) table[from] = to;
      return table;
    });
  }

  /** Place of a preset among those of an instrument in this machine, −1 when it has none such. */
  placeOf(instrumentId: string, { presets }: KnownInstrument, presetId: string): number {
    const known = this.placesOf.get(instrumentId) ?? new Map(presets.map((preset, i) => [preset.id as string, i]));
    this.placesOf.set(instrumentId, known);
    return known.get(presetId) ?? -1;
  }

  /**
   * What preset steps walk along, and where a preset stands in it: the folder of the name list that the preset is in.
   * A counted instrument has but one way through its list, the whole of it: there the place stands for the program.
   */
  presets(
    instrument: OutboardInstrument,
    presetId: string,
  ): { count: number; own: number; addresses: readonly Address[] } {
    const folder = instrument.counted ? null : (instrument.names.find((name) => name.id === presetId)?.folder ?? '');
    const byFolder = this.presetsOf.get(instrument) ?? new Map<string | null, Folder>();
    this.presetsOf.set(instrument, byFolder);
    let known = byFolder.get(folder);
    if (!known) {
      const names = folder === null ? instrument.names : instrument.names.filter((name) => name.folder === folder);
      known = {
        places: new Map(names.map((name, i) => [name.id as string, i])),
        addresses: names.map((name, i) => (folder === null ? addressFor(-1, -1, i, name.also) : addressOf(name))),
      };
      byFolder.set(folder, known);
    }
    return { count: known.addresses.length, own: known.places.get(presetId) ?? -1, addresses: known.addresses };
  }
}

interface Placed {
  layer: Layer;
  part: Part;
  /** Whose it is: the setlist's and the song's standing layers sound in every patch under one identity. */
  scope: string;
  owner: string;
  place: string;
  transpose: number;
  barQuarters: number;
}

const NO_BINDINGS: CompiledPatch['roleBindings'] = [];

export function compilePatch(
  song: Song,
  patch: Patch,
  around: SongSurroundings,
  book: Book,
  notes: CompileNote[],
): CompiledPatch {
  const placed = placedParts(song, patch, around.setlist, notes);
  const owners: ChannelOwners = { addresses: new Map(), levels: new Set() };
  const layers: CompiledLayer[] = [];
  const kept: Placed[] = [];
  for (const entry of placed) {
    const compiled = compileLayer(entry, owners, around, book, notes);
    if (!compiled) continue;
    layers.push(compiled);
    kept.push(entry);
  }
  const column = <T>(pick: (entry: Placed) => T): T[] => kept.map(pick);
  const lowKey = Uint8Array.from(column((entry) => entry.part.zone.lowKey));
  const highKey = Uint8Array.from(column((entry) => entry.part.zone.highKey));
  const extras = kept.map(({ part }, i) => partExtras(part, layers[i].recording !== null));
  const shape = around.shapes.shape(
    layers.map((layer, i) => ({
      hearing: layer.silent ? SILENT_HEARING : layer.hearing,
      lowKey: lowKey[i],
      highKey: highKey[i],
    })),
  );
  const parameters = parametersOf(kept, layers, patch);
  return {
    songId: song.id,
    patchId: patch.id,
    song: song.name,
    name: patch.name,
    layers,
    plan: planOf(layers),
    shape,
    parts: Int32Array.from(
      kept.flatMap(({ part, layer, transpose }, i) => [
        layers[i].lane,
        layers[i].index,
        packZone(
          part.zone.lowVelocity,
          part.zone.highVelocity,
          part.shift + (layer.followsTranspose ? transpose : 0),
          layer.followsTranspose,
        ),
        extras[i] === null ? 0 : 1,
      ]),
    ),
    curve: column((entry) => velocityTable(entry.part.velocity, entry.part.zone)),
    extras,
    lowKey,
    highKey,
    parameters: parameters.map(({ lane, lanes, controller }) => ({ lane, lanes, controller })),
    entering: compileMessages(patch.entering, around, book, notes, `${song.name}, ${patch.name}`),
    leaving: compileMessages(patch.leaving, around, book, notes, `${song.name}, ${patch.name}`),
    balances: [null, ...patch.blends].map((blend) => compileBalance(kept, layers, blend, parameters, around)),
    roleBindings:
      around.bindsLayers || song.bindings.length > 0 || patch.bindings.length > 0
        ? compileBindings([patch.bindings, song.bindings, around.setlist.bindings], book, {
            partOf: (layerId) => kept.findIndex(({ layer }) => layer.id === layerId),
            faderOf: (part) => layers[part].fader,
            effectsOf: (part) => layers[part].effects,
            setlistEffects: around.setlistEffects,
          })
        : NO_BINDINGS,
  };
}

function planOf(layers: readonly CompiledLayer[]): Int32Array {
  return Int32Array.from(
    layers.flatMap((layer) => [
      layer.index,
      layer.lane,
      layer.destination,
      (layer.outboard ? FLAG_OUTBOARD : 0) |
        (layer.notReady === STAY ? FLAG_STAYS : 0) |
        (layer.silent ? FLAG_SILENT : 0) |
        (layer.sendsLevel ? FLAG_SENDS_LEVEL : 0) |
        (layer.effects.length > 0 ? FLAG_EFFECTS : 0) |
        (layer.recording?.plays === 'loop' ? FLAG_LOOPS : 0) |
        (layer.lanes === 16 ? FLAG_SIXTEEN_LANES : 0) |
        (layer.carry << FLAG_CARRY_SHIFT),
    ]),
  );
}

/** Standing layers first (they own their channels), the setlist's before the song's. */
function placedParts(song: Song, patch: Patch, setlist: Setlist, notes: CompileNote[]): Placed[] {
  const place = (
    parts: readonly Part[],
    layers: readonly Layer[],
    owner: string,
    where: string,
    scope = owner,
  ): Placed[] =>
    parts.flatMap((part) => {
      const layer = layers.find((candidate) => candidate.id === part.layerId);
      if (layer)
        return [
          {
            layer,
            part,
            scope,
            owner,
            place: where,
            transpose: song.transpose,
            barQuarters: (song.meter.beats * 4) / song.meter.unit,
          },
        ];
      notes.push({ code: 'no-such-layer', message: `${song.name}, ${patch.name}: a layer is not there` });
      return [];
    });
  return [
    ...place(setlist.standing, setlist.layers, `setlist ${setlist.id}`, `${setlist.name} / standing`),
    ...place(song.standing, song.layers, `song ${song.id}`, `${song.name} / standing`),
    ...place(
      patch.parts,
      song.layers,
      `song ${song.id}`,
      `${song.name} / ${patch.name}`,
      `song ${song.id} patch ${patch.id}`,
    ),
  ];
}

function compileLayer(
  entry: Placed,
  owners: ChannelOwners,
  around: SongSurroundings,
  book: Book,
  notes: CompileNote[],
): CompiledLayer | null {
  const { layer, part, scope, place } = entry;
  const { instrumentId, presetId } = layer.sound;
  const isLive = layer.source.kind === 'live';
  const hearing = around.shapes.hearing(part.zone);
  const deaf = around.shared.flags(
    `deaf ${layer.ignoredControllers.join(' ')} ${layer.ignoresPressure} ${layer.ignoresWheel}`,
    () => deafFlags(layer),
  );
  const common = {
    name: layer.name,
    hearing,
    deaf,
    output: layer.output,
    carry: layer.carry.kind === 'hold' ? CARRY_HOLD : layer.carry.kind === 'fade' ? CARRY_FADE : CARRY_CUT,
    fadeMs: layer.carry.kind === 'fade' ? layer.carry.fadeMs : 0,
    fader: book.fader(`${entry.owner} ${layer.id}`),
    remap: around.shared.remap(layer),
  } as const;
  const stored = around.instruments.get(instrumentId);
  if (stored?.kind === 'outboard' && !isLive) {
    const preset = stored.names.find((name) => name.id === presetId);
    const destination = book.outputPort(stored.port);
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
      index: book.layer(key, layer.name),
      destination,
      lane: laneOf(book, destination) + channel,
      lanes: 1,
      outboard: true,
      instrumentId,
      notReady: layer.notReady === null || layer.notReady === 'stay' ? WAIT : NOT_READY[layer.notReady],
      address,
      presets,
      sendsLevel: layer.sendsLevel && takesLevel(owners, `${stored.port} ${channel}`),
      effects: NO_EFFECTS,
      live: null,
      recording: null,
      silent: takesChannel(owners, `${stored.port} ${channel}`, address, `${place}: ${layer.name}`, notes),
    };
  }
  const instrument = isLive ? LIVE_SOUND : knownInstrument(instrumentId, (id) => around.instruments.get(id));
  if (!instrument) {
    notes.push({
      code: 'no-such-instrument',
      message: `${place}: ${layer.name} plays an instrument that is not there`,
    });
    return null;
  }
  const lanes = around.builtInLanes;
  const key = isLive ? `${scope} ${layer.id} live` : `${scope} ${layer.id} ${instrumentId} ${presetId}`;
  const own = around.shared.placeOf(instrumentId, instrument, presetId);
  if (own < 0 && !isLive)
    notes.push({
      code: 'no-such-preset',
      message: `${place}: ${layer.name} plays a preset that ${instrument.name} does not have`,
    });
  const destination = book.builtInLayer(key, lanes, {
    instrumentId,
    presetId,
    track: `${instrument.name} / ${place} / ${layer.name}`,
  });
  return {
    ...common,
    index: book.layer(`${key} ${lanes}`, layer.name),
    destination,
    lane: laneOf(book, destination),
    lanes,
    outboard: false,
    instrumentId: null,
    notReady: layer.notReady === null ? STAY : NOT_READY[layer.notReady],
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
const NOT_READY = { atOnce: AT_ONCE, wait: WAIT, silent: SILENT, stay: STAY } as const;
const laneOf = (book: Book, destination: number): number => book.destinations[destination].lane;

/** By port and channel, within one patch: who owns the address, and who the level. */
interface ChannelOwners {
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

function compileMessages(
  messages: readonly OutMessage[],
  around: SongSurroundings,
  book: Book,
  notes: CompileNote[],
  where: string,
): PatchMessage[] {
  return messages.flatMap((message): PatchMessage[] => {
    const destination = book.outputPort(message.port);
    if (message.kind === 'sysex') {
      if (around.sysexOutputs.has(message.port))
        return [{ kind: 'sysex', destination, bytes: Uint8Array.from(message.bytes) }];
      notes.push({
        code: 'sysex-not-allowed',
        message: `${where}: ${message.port} does not allow system exclusive; the message is left out`,
      });
      return [];
    }
    const lane = laneOf(book, destination) + message.channel - 1;
    switch (message.kind) {
      case 'controller':
        return [
          {
            kind: 'controller',
            destination,
            lane,
            status: CONTROLLER,
            data1: message.controller,
            data2: message.value,
            msb: -1,
            lsb: -1,
          },
        ];
      case 'program':
        return [
          {
            kind: 'program',
            destination,
            lane,
            status: PROGRAM,
            data1: message.program,
            data2: 0,
            msb: message.msb ?? -1,
            lsb: message.lsb ?? -1,
          },
        ];
      case 'note':
        return [
          {
            kind: 'note',
            destination,
            lane,
            key: message.key,
            velocity: message.velocity,
            lengthMs: message.lengthMs ?? Infinity,
          },
        ];
    }
  });
}

function partExtras(part: Part, isRecording: boolean): PartExtras | null {
  const { zone, chord, arpeggio } = part;
  const fades = zone.fadeLowKeys > 0 || zone.fadeHighKeys > 0;
  if (!fades && chord.length === 0 && arpeggio === null && !isRecording) return null;
  return {
    chord: Int8Array.from(chord),
    keyFade: fades
      ? Uint8Array.from({ length: 128 }, (_, key) =>
          Math.round(127 * fadeAt(key, zone.lowKey, zone.highKey, zone.fadeLowKeys, zone.fadeHighKeys)),
        )
      : null,
    arpeggio:
      arpeggio === null
        ? null
        : {
            order: arpeggio.order,
            quarters: quartersOf(arpeggio.note),
            octaves: arpeggio.octaves,
            gate: arpeggio.gate / 100,
          },
  };
}

/** Outboard layers that a blend lets play another entry of their name list. */
function articulationsOf(
  kept: readonly Placed[],
  layers: readonly CompiledLayer[],
  blend: Blend | null,
  around: SongSurroundings,
): CompiledBalance['articulations'] {
  if (!blend?.values.some((value) => value.articulation !== undefined)) return null;
  return kept.map(({ layer }, i) => {
    const articulation = blend.values.find((value) => value.layerId === layer.id)?.articulation;
    const instrument = around.instruments.get(layer.sound.instrumentId);
    if (articulation === undefined || !layers[i].outboard || instrument?.kind !== 'outboard') return null;
    const { addresses, own } = around.shared.presets(instrument, articulation);
    return addresses[own] ?? null;
  });
}

interface PlacedParameter {
  /** Place of its part in the patch. */
  at: number;
  lane: number;
  lanes: 1 | 16;
  controller: number;
}

function parametersOf(kept: readonly Placed[], layers: readonly CompiledLayer[], patch: Patch): PlacedParameter[] {
  const taken = new Set<string>();
  return kept.flatMap(({ part, layer }, at) => {
    const { lane, lanes, silent } = layers[at];
    const set = [
      ...part.parameters,
      ...patch.blends.flatMap(({ values }) => values.find(({ layerId }) => layerId === layer.id)?.parameters ?? []),
    ].map(({ controller }) => controller);
    return silent
      ? []
      : [...new Set(set)]
          .filter((controller) => !taken.has(`${lane} ${controller}`))
          .map((controller) => {
            taken.add(`${lane} ${controller}`);
            return { at, lane, lanes, controller };
          });
  });
}

const parameterValue = (parameters: readonly SoundParameter[] | undefined, controller: number): number | undefined =>
  parameters?.find((parameter) => parameter.controller === controller)?.value;

function compileBalance(
  kept: readonly Placed[],
  layers: readonly CompiledLayer[],
  blend: Blend | null,
  parameters: readonly PlacedParameter[],
  around: SongSurroundings,
): CompiledBalance {
  const values = kept.map(({ part, layer }) => {
    const change = blend?.values.find((value) => value.layerId === layer.id);
    return {
      ...part,
      ...Object.fromEntries(Object.entries(change ?? {}).filter(([, value]) => value !== undefined)),
    } as Part;
  });
  const anySolo = values.some((value) => value.solo);
  return {
    blendId: blend?.id ?? null,
    name: blend?.name ?? null,
    isStep: blend?.isStep ?? true,
    rampMs: blend?.timeMs ?? RECALL_RAMP_MS,
    values: Float64Array.from(values.flatMap((value) => [value.levelDb, value.pan, value.room, value.echo])),
    mute: Uint8Array.from(values, (value) => (value.mute || (anySolo && !value.solo) ? 1 : 0)),
    ownMute: Uint8Array.from(values, (value) => (value.mute ? 1 : 0)),
    solo: Uint8Array.from(values, (value) => (value.solo ? 1 : 0)),
    parameters: Uint8Array.from(
      parameters,
      ({ at, controller }) =>
        parameterValue(values[at].parameters, controller) ??
        parameterValue(kept[at].part.parameters, controller) ??
        SOUND_CONTROLLER_REST,
    ),
    sends: values.map((value) => value.sends),
    sendsKey: values.some((value) => value.sends.length > 0) ? JSON.stringify(values.map((value) => value.sends)) : '',
    effects: layers.map(({ effects }, i) =>
      withEffectChanges(effects, blend?.values.find((value) => value.layerId === kept[i].layer.id)?.effects),
    ),
    articulations: articulationsOf(kept, layers, blend, around),
  };
}
