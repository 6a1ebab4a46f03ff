import { BUILT_INS, Song, TAPES, builtIn, steadyMap, type Carry, type Tape } from '@rackle/core/show';
import { tempoMapOf } from '@rackle/core/timeline';

/** Keys, level in dB and the rest of a part, as tersely as a set is noted on paper. */
export type PartNote = {
  keys?: [number, number];
  shift?: number;
  db?: number;
  pan?: number;
  room?: number;
  echo?: number;
  velocity?: [number, number];
  mute?: boolean;
};
export type LayerNote = { plays: string; tape?: Tape; carry?: Carry; drums?: boolean; channel?: number };
export type PatchNote = {
  name: string;
  note?: string;
  parts: Record<string, PartNote>;
  blends?: {
    name: string;
    ms?: number;
    values: Record<string, { db?: number; mute?: boolean; room?: number; bright?: number }>;
  }[];
  program?: { channel: number; msb: number; lsb: number; program: number };
  roles?: RoleNote[];
};
/**
 * A role, and what it moves: a layer's level, pan, room or echo, a parameter of its sound by controller, its mute, or
 * its next preset.
 */
export type RoleNote = {
  role: string;
  layer: string;
  moves: 'levelDb' | 'pan' | 'room' | 'echo' | 'mute' | 'solo' | 'nextPreset' | number;
  low?: number;
  high?: number;
  hand?: true;
};

/** A cue of another kind than a recall; lights and ways go to the lamp. */
export type CueNote =
  | { text: string }
  | { lights: string; bytes: number[] }
  | { dims: [from: number, to: number, bars: number] }
  | { preset: string; channel: number }
  | { program: number; msb: number; lsb: number; channel: number }
  | { bytes: number[] }
  | { percent: number }
  | { toll: string; key: number; beats: number };

export interface SongNote {
  name: string;
  about: string;
  key: string;
  tempo: number;
  meter?: [number, 2 | 4 | 8 | 16];
  /** Bars from which it goes in a straight line to another tempo, and the bar where it has that one. */
  turns?: [from: number, to: number, bpm: number][];
  bars: number;
  length: string;
  layers: Record<string, LayerNote>;
  standing?: Record<string, PartNote>;
  patches: PatchNote[];
  /** Bar, beat and patch. */
  cues?: [number, number, string][];
  /** Sections by their first bar, each up to the next; of the tape that it is on; the one that it repeats. */
  sections?: [from: number, name: string, tape: Tape, repeats?: string][];
  /** What the timeline does besides recalling: bar, beat, cue. */
  also?: [number, number, CueNote][];
  /** What roles do in this song; layers by name. */
  roles?: RoleNote[];
}

const idOf = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

const part = (songId: string, layer: string, note: PartNote): object => ({
  layerId: `${songId}/${idOf(layer)}`,
  zone: {
    lowKey: note.keys?.[0] ?? 0,
    highKey: note.keys?.[1] ?? 127,
    lowVelocity: note.velocity?.[0] ?? 1,
    highVelocity: note.velocity?.[1] ?? 127,
  },
  shift: note.shift ?? 0,
  levelDb: note.db ?? -6,
  pan: note.pan ?? 0,
  room: note.room ?? 14,
  echo: note.echo ?? 0,
  mute: note.mute ?? false,
});

/** `Causeway: Late Boat`, or `Skerry: Bell Shore` by name of the list. */
function sound(plays: string, skerryPreset: (name: string) => string, channel: number | undefined): object {
  const [instrument, preset] = plays.split(': ');
  if (instrument === 'Skerry')
    return { instrumentId: 'skerry', presetId: skerryPreset(preset), channel: channel ?? null };
  const found = BUILT_INS.find((candidate) => candidate.name === instrument);
  const presetId = found && builtIn(found.id)?.presets.find((candidate) => candidate.name === preset)?.id;
  if (!presetId) throw new Error(`the demo asks for ${plays}, which there is not`);
  return { instrumentId: found.id, presetId };
}

const binding = (songId: string, { role, layer, moves, low, high, hand }: RoleNote): object => {
  const layerId = `${songId}/${idOf(layer)}`;
  const action =
    typeof moves === 'number'
      ? { kind: 'layerController', layerId, controller: moves }
      : moves === 'mute' || moves === 'solo'
        ? { kind: 'layerSwitch', layerId, what: moves }
        : moves === 'nextPreset'
          ? { kind: 'presetStep', layerId, by: 1 }
          : { kind: 'layerValue', layerId, value: moves };
  return { role, action, low: low ?? null, high: high ?? null, onRecall: hand ? 'hand' : 'stored' };
};

/** A cue of the demo, without its id and place. */
function cueFrom(songId: string, note: CueNote, skerryPreset: (name: string) => string, barTicks: number): object {
  if ('text' in note) return { kind: 'text', text: note.text };
  if ('lights' in note) return { kind: 'lights', name: note.lights, port: 'Beacon', bytes: note.bytes };
  if ('percent' in note) return { kind: 'tempo', percent: note.percent };
  if ('bytes' in note) return { kind: 'message', port: 'Skerry', bytes: note.bytes, isState: true };
  if ('program' in note) return { kind: 'program', port: 'Skerry', ...note };
  if ('preset' in note)
    return { kind: 'preset', instrumentId: 'skerry', presetId: skerryPreset(note.preset), channel: note.channel };
  if ('toll' in note) {
    const to = { kind: 'layer', layerId: `${songId}/${idOf(note.toll)}` };
    return { kind: 'note', to, key: note.key, velocity: 84, lengthTicks: note.beats * 960 };
  }
  const [value, toValue, bars] = note.dims;
  const ramp = { toValue, lengthTicks: bars * barTicks };
  return { kind: 'controller', port: 'Beacon', channel: 1, controller: 7, value, ramp };
}

/** A song of the demo, whole and checked. */
export function songFrom(note: SongNote, skerryPreset: (name: string) => string): Song {
  const id = idOf(note.name);
  const [minutes, seconds] = note.length.split(':').map(Number);
  const steady = steadyMap(note.tempo, { beats: note.meter?.[0] ?? 4, unit: note.meter?.[1] ?? 4 }, note.bars);
  const atBar = (bar: number, beat = 1): number => tempoMapOf(steady).tickOf({ bar, beat, tick: 0 })!;
  const turns = (note.turns ?? []).flatMap(([from, to, bpm], i) => [
    { atTick: atBar(from), bpm: i === 0 ? note.tempo : note.turns![i - 1][2], ramp: true },
    { atTick: atBar(to), bpm, ramp: false },
  ]);
  const patchId = (name: string): string => `${id}/${idOf(name)}`;
  return Song.parse({
    id,
    name: note.name,
    description: note.about,
    key: note.key,
    map: { ...steady, tempos: [...steady.tempos, ...turns] },
    durationSeconds: minutes * 60 + seconds,
    layers: Object.entries(note.layers).map(([name, layer], i) => ({
      id: `${id}/${idOf(name)}`,
      name,
      tape: layer.tape ?? TAPES[i % TAPES.length],
      sound: sound(layer.plays, skerryPreset, layer.channel),
      carry: layer.carry ?? { kind: 'hold' },
      followsTranspose: !layer.drums,
    })),
    standing: Object.entries(note.standing ?? {}).map(([layer, parts]) => part(id, layer, parts)),
    patches: note.patches.map((patch) => ({
      id: patchId(patch.name),
      name: patch.name,
      note: patch.note ?? '',
      parts: Object.entries(patch.parts).map(([layer, parts]) => part(id, layer, parts)),
      blends: (patch.blends ?? []).map((blend) => ({
        id: `${patchId(patch.name)}/${idOf(blend.name)}`,
        name: blend.name,
        timeMs: blend.ms ?? 400,
        values: Object.entries(blend.values).map(([layer, { db, mute, room, bright }]) => ({
          layerId: `${id}/${idOf(layer)}`,
          ...(db === undefined ? {} : { levelDb: db }),
          ...(mute === undefined ? {} : { mute }),
          ...(room === undefined ? {} : { room }),
          ...(bright === undefined ? {} : { parameters: [{ controller: 74, value: bright }] }),
        })),
      })),
      bindings: (patch.roles ?? []).map((role) => binding(id, role)),
      entering: patch.program ? [{ kind: 'program', port: 'Skerry', ...patch.program }] : [],
    })),
    bindings: (note.roles ?? []).map((role) => binding(id, role)),
    sections: (note.sections ?? []).map(([from, name, tape, repeats], i, all) => ({
      id: `${id}/section-${i + 1}`,
      name,
      tape,
      fromTick: atBar(from),
      toTick: i + 1 < all.length ? atBar(all[i + 1][0]) : tempoMapOf(steady).endTick,
      repeats: repeats === undefined ? null : `${id}/section-${all.findIndex((other) => other[1] === repeats) + 1}`,
    })),
    cues: [...recallsOf(note), ...othersOf(note)].sort((a, b) => a.atTick - b.atTick),
  });

  function othersOf({ also = [] }: SongNote): { atTick: number }[] {
    const barTicks = tempoMapOf(steady).barTick(2);
    return also.map(([bar, beat, cue], i) => ({
      ...cueFrom(id, cue, skerryPreset, barTicks),
      id: `${id}/also-${i + 1}`,
      atTick: atBar(bar, beat),
    }));
  }

  function recallsOf({ cues = [] }: SongNote): { atTick: number }[] {
    return cues.map(([bar, beat, name], i) => {
      const [patch, blend] = name.split(' / ');
      return {
        kind: 'recall',
        id: `${id}/cue-${i + 1}`,
        atTick: atBar(bar, beat),
        patchId: patchId(patch),
        blendId: blend ? `${patchId(patch)}/${idOf(blend)}` : null,
      };
    });
  }
}
