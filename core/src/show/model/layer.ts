import { z } from 'zod';
import { Effect, EffectChange, NoteValue } from './effect';
import { InstrumentId, LayerId, PresetId } from './ids';
import { Channel, DurationMs, Key, LevelDb, Name, Pan, SendPercent, SevenBit, Tape } from './values';

/** What feeds a layer: notes that its instrument plays, or live sound, which takes the place of the instrument. */
export const LayerSource = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('midi') }),
  /** `input`: an audio input by the name that the machine has for it. Mono comes from the middle, to both sides. */
  z.strictObject({ kind: z.literal('live'), input: Name, mono: z.boolean().default(true) }),
]);
export type LayerSource = z.infer<typeof LayerSource>;

/** What held notes of a layer do when its patch is left. */
export const Carry = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('hold') }),
  z.strictObject({ kind: z.literal('fade'), fadeMs: DurationMs }),
  z.strictObject({ kind: z.literal('cut') }),
]);
export type Carry = z.infer<typeof Carry>;

/** What a layer does with notes while its sound is not ready. */
export const NotReady = z.enum(['atOnce', 'wait', 'silent', 'stay']);
export type NotReady = z.infer<typeof NotReady>;

/** What a layer sounds with; the channel only where it stands outboard. */
export const LayerSound = z.strictObject({
  instrumentId: InstrumentId,
  presetId: PresetId,
  /** Outboard only: another channel than the instrument's own. */
  channel: Channel.nullable().default(null),
});
export type LayerSound = z.infer<typeof LayerSound>;

/** A row of the song sheet: one sound under a name of the player's own, on one tape. */
export const Layer = z.strictObject({
  id: LayerId,
  name: Name,
  tape: Tape,
  source: LayerSource.default({ kind: 'midi' }),
  sound: LayerSound,
  carry: Carry.default({ kind: 'hold' }),
  /** null: outboard waits, everything else stays. */
  notReady: NotReady.nullable().default(null),
  /** Drums and the like opt out of song and stage transposition. */
  followsTranspose: z.boolean().default(true),
  ignoredControllers: z.array(SevenBit).max(128).default([]),
  ignoresWheel: z.boolean().default(false),
  ignoresPressure: z.boolean().default(false),
  /** Controllers that reach the sound under another number. */
  remapped: z
    .array(z.strictObject({ from: z.number().int().min(1).max(119), to: z.number().int().min(1).max(119) }))
    .max(32)
    .default([]),
  /** In series, behind the instrument and before the level. */
  effects: z.array(Effect).max(8).default([]),
  /** Outboard only: send level as controller 7 and pan as controller 10. */
  sendsLevel: z.boolean().default(false),
  /** Built-in only: name of the output of the gear list; one that is not there is the first. */
  output: Name.default('Main'),
});
export type Layer = z.infer<typeof Layer>;

/** Keys and velocities that a part plays; all ends are inclusive. */
export const Zone = z.strictObject({
  lowKey: Key.default(0),
  highKey: Key.default(127),
  lowVelocity: z.number().int().min(1).max(127).default(1),
  highVelocity: z.number().int().min(1).max(127).default(127),
  /**
   * Keys over which it fades in above its lowest, and out below its highest; 0 is a hard end. Velocity does it, by
   * equal steps.
   */
  fadeLowKeys: Key.default(0),
  fadeHighKeys: Key.default(0),
  /** The same between velocities. */
  fadeSoft: Key.default(0),
  fadeHard: Key.default(0),
  /** Alias of the one input that plays it; null: every keyboard. */
  input: Name.nullable().default(null),
  /** null: every channel. */
  channels: z.array(Channel).min(1).max(16).nullable().default(null),
});
export type Zone = z.infer<typeof Zone>;

/** How struck velocities become played ones. */
export const VelocityResponse = z.strictObject({
  /** −100 (soft: light playing sounds louder) to +100 (hard); 0 passes velocities on unchanged. */
  curve: z.number().int().min(-100).max(100).default(0),
  lowest: z.number().int().min(1).max(127).default(1),
  highest: z.number().int().min(1).max(127).default(127),
});
export type VelocityResponse = z.infer<typeof VelocityResponse>;

/** Broken chords of what is held, in time with the tempo. */
export const Arpeggio = z.strictObject({
  order: z.enum(['up', 'down', 'upDown', 'asPlayed']).default('up'),
  note: NoteValue.default('1/8'),
  octaves: z.number().int().min(1).max(4).default(1),
  /** How long each note sounds, in per cent of its step. */
  gate: z.number().int().min(5).max(100).default(70),
});
export type Arpeggio = z.infer<typeof Arpeggio>;

/** How much of a layer goes to a shared effect that the player has made, by its name. */
export const Send = z.strictObject({ to: Name, percent: SendPercent });
export type Send = z.infer<typeof Send>;

/** Where the sound controllers of MIDI (70–79) stand when nothing is asked of them. */
export const SOUND_CONTROLLER_REST = 64;

/**
 * A parameter of an instrument that a patch or blend stores: a sound controller (MIDI 1.0, controllers 70–79), 64 is as
 * the preset has it.
 */
export const SoundParameter = z.strictObject({ controller: z.number().int().min(70).max(79), value: SevenBit });
export type SoundParameter = z.infer<typeof SoundParameter>;

/** The balance that a blend can change. */
const balance = {
  levelDb: LevelDb,
  pan: Pan,
  mute: z.boolean(),
  /** Send to the shared reverb. */
  room: SendPercent,
  /** Send to the tempo delay. */
  echo: SendPercent,
};

/** A cell of the song sheet: how one layer plays in one patch. */
export const Part = z.strictObject({
  layerId: LayerId,
  /**
   * What of the zone's keys is its own: it sounds with whatever else lies there; it takes them, and nothing else sounds
   * there on the keyboards that it hears; or no key plays it, only a role.
   */
  keys: z.enum(['shared', 'taken', 'none']).default('shared'),
  zone: Zone.prefault({}),
  /** Octaves and semitones together, in semitones. */
  shift: z.number().int().min(-72).max(72).default(0),
  velocity: VelocityResponse.prefault({}),
  /** Chord memory: further notes that each key plays, in semitones from it. */
  chord: z.array(z.number().int().min(-48).max(48)).max(8).default([]),
  arpeggio: Arpeggio.nullable().default(null),
  levelDb: balance.levelDb.default(-6),
  pan: balance.pan.default(0),
  mute: balance.mute.default(false),
  solo: z.boolean().default(false),
  room: balance.room.default(12),
  echo: balance.echo.default(0),
  sends: z.array(Send).max(8).default([]),
  parameters: z.array(SoundParameter).max(10).default([]),
});
export type Part = z.infer<typeof Part>;

/** What a blend changes of one part; what it does not name stays as the patch has it. */
export const BlendValue = z.strictObject({
  layerId: LayerId,
  levelDb: balance.levelDb.optional(),
  pan: balance.pan.optional(),
  mute: balance.mute.optional(),
  room: balance.room.optional(),
  echo: balance.echo.optional(),
  sends: z.array(Send).max(8).optional(),
  /** Besides those of the part, or in their place. */
  parameters: z.array(SoundParameter).max(10).optional(),
  /** Of the layer's own effects. */
  effects: z.array(EffectChange).max(8).optional(),
  /** Outboard only: another entry of the same name list, as an articulation. */
  articulation: PresetId.optional(),
});
export type BlendValue = z.infer<typeof BlendValue>;
