import type { Action, Effect, NoteValue, Send, SetlistEntry, SharedEffect } from '../../show';
import type { TempoMap, Track } from '../../timeline';
import type { Carry, NotReady } from './carry';
import type { LayerPlans } from './layerPlans';
import type { PartRows } from './partRows';
import type { RecallRecords } from './recallRecords';

/** A program address; a bank byte of −1 is not sent, and with a program of −1 none of it. */
export interface Address {
  readonly msb: number;
  readonly lsb: number;
  readonly program: number;
  /** Sent once the program is there: key switches and controllers. */
  readonly also: readonly StepBytes[];
  /** Equal for equal addresses, over recompiles. */
  readonly key: string;
}

/**
 * How an outboard instrument without numbers is stepped: one message forwards, one back, along so many presets, which
 * wrap.
 */
export interface CountedLane {
  readonly next: StepBytes;
  readonly previous: StepBytes;
  readonly count: number;
}
/** Status without its channel; a note gets its off right behind it. */
export interface StepBytes {
  readonly status: number;
  readonly data1: number;
  readonly data2: number;
}

/** One layer in one patch, as the engine plays it. The number stays the same over recompiles while the sound stays. */
export interface CompiledLayer {
  readonly index: number;
  /** Of the song's or setlist's layer. */
  readonly layerId: string;
  readonly name: string;
  readonly destination: number;
  /** First lane; per-note inputs use `lane + channel` when there are sixteen. */
  readonly lane: number;
  readonly lanes: 1 | 16;
  readonly outboard: boolean;
  readonly carry: Carry;
  readonly fadeMs: number;
  readonly notReady: NotReady;
  /**
   * Number of the way in which its zone chooses inputs: `hears` and `hearsPedals` of the show say what that comes to
   * tonight.
   */
  readonly inputFilter: number;
  /** 128 controllers, then pressure, then wheel: 1 where it is deaf. Shared when equal. */
  readonly deaf: Uint8Array;
  /** Outboard only. */
  readonly instrumentId: string | null;
  readonly address: Address | null;
  /** It is the first with an address on its channel: what it has to stand at is what is sent there. */
  readonly ownsAddress: boolean;
  /** Number of the song's or setlist's layer that this is, in whatever patch: what a hand moves stays with it. */
  readonly layerKey: number;
  /** What preset steps walk along; `addresses` are an outboard instrument's. */
  readonly presets: { readonly count: number; readonly own: number; readonly addresses: readonly Address[] | null };
  readonly sendsLevel: boolean;
  /** Built-in only: name of the output that it sounds on. */
  readonly output: string;
  /** It plays no notes: another layer owns its channel with another program, or live sound feeds it. */
  readonly silent: boolean;
  /** By slot, the slot under which it leaves; null: under its own. */
  readonly remap: Uint8Array | null;
  /** Sound in this machine only: what it goes through. */
  readonly effects: readonly Effect[];
  /** A recording of the player's own: how it starts and ends. */
  readonly recording: CompiledRecording | null;
  /** Live sound takes the place of an instrument. */
  readonly live: { readonly input: string; readonly mono: boolean } | null;
}

/** What a part does with a note besides passing it on. */
export interface PartExtras {
  /** Further notes, in semitones from the first. */
  readonly chord: Int8Array;
  /** By key, of 127: how much of the velocity is left where a zone fades in or out; null: all. */
  readonly keyFade: Uint8Array | null;
  readonly arpeggio: CompiledArpeggio | null;
}

/** How a recording of the player’s own starts and ends. */
export interface CompiledRecording {
  readonly plays: 'whileHeld' | 'oneShot' | 'loop';
  /** It starts at the next multiple of so many quarters; 0: at once. */
  readonly startQuarters: number;
  /** At its root key. */
  readonly lengthMs: number;
  readonly rootKey: number;
  readonly followsKeys: boolean;
}

/** How the keys held for a layer are played one by one. */
export interface CompiledArpeggio {
  readonly order: 'up' | 'down' | 'upDown' | 'asPlayed';
  readonly quarters: number;
  readonly octaves: number;
  /** Share of its step that a note sounds, 0–1. */
  readonly gate: number;
}

/** For each key 0–127 the layers (by their number within the patch) from `starts[key]` to `starts[key + 1]`. */
export interface KeyRow {
  /** Equal rows are one row, with one number. */
  readonly number: number;
  readonly starts: Uint16Array;
  readonly targets: Uint8Array;
}

/** What a patch sends as it is entered or left, ready to go out. */
export type PatchMessage =
  | {
      kind: 'controller' | 'program';
      destination: number;
      lane: number;
      status: number;
      data1: number;
      data2: number;
      msb: number;
      lsb: number;
    }
  | { kind: 'note'; destination: number; lane: number; key: number; velocity: number; lengthMs: number }
  | { kind: 'sysex'; destination: number; bytes: Uint8Array };

/** Numbers a layer in `values`: level in dB, pan, sends to room and echo in per cent. */
export const BALANCE_STRIDE = 4;

/** A patch, flattened: its layers, and tables by their number within it. */
export interface CompiledPatch {
  readonly songId: string;
  readonly patchId: string;
  readonly song: string;
  readonly name: string;
  readonly layers: CompiledLayer[];
  /** What a recall needs of each layer, close together in memory. */
  readonly plan: LayerPlans;
  /** Number of its zones and input filters all together: `rows` of the show says which keys play what tonight. */
  readonly keymap: number;
  /** Numbers of the layers that live sound feeds. */
  readonly lives: readonly number[];
  /** What a note needs to know of each layer, close together in memory. */
  readonly parts: PartRows;
  // By number within the patch:
  readonly curve: Uint8Array[];
  readonly extras: readonly (PartExtras | null)[];
  readonly lowKey: Uint8Array;
  readonly highKey: Uint8Array;
  /** Sound controllers that the patch or any of its blends sets; of several layers on one channel the first has it. */
  readonly parameters: readonly { readonly lane: number; readonly lanes: 1 | 16; readonly controller: number }[];
  readonly entering: PatchMessage[];
  readonly leaving: PatchMessage[];
  /** The patch's own balance first, then that of each blend. */
  readonly balances: CompiledBalance[];
  /** What roles do here, by role number: the patch's own bindings before the song's before the setlist's. */
  readonly roleBindings: readonly (readonly CompiledBinding[] | undefined)[];
}

/** Levels of all layers of a patch, as the patch or one of its blends has them; by number within the patch. */
export interface CompiledBalance {
  readonly blendId: string | null;
  readonly name: string | null;
  readonly isStep: boolean;
  readonly rampMs: number;
  /** `BALANCE_STRIDE` numbers a layer: level in dB, pan, sends to reverb and delay in per cent. */
  readonly values: Float64Array;
  /** With solo reckoned in. */
  readonly mute: Uint8Array;
  /** As they are set, each by itself. */
  readonly ownMute: Uint8Array;
  readonly solo: Uint8Array;
  /** Of what is sent to shared effects that the player has made. */
  readonly sends: readonly (readonly Send[])[];
  /** By the patch's parameters: their values here. */
  readonly parameters: Uint8Array;
  /** Equal for balances that send alike. */
  readonly sendsKey: string;
  /** Each layer's effects as they are here. */
  readonly effects: readonly (readonly Effect[])[];
  /** Outboard layers that play another entry of their name list here; null: none does. */
  readonly articulations: readonly (Address | null)[] | null;
}

/** A place in the setlist that can be recalled. */
export interface CompiledStep {
  readonly position: number;
  readonly entry: number;
  readonly entryId: string;
  readonly patch: CompiledPatch;
  readonly balance: CompiledBalance;
  readonly isStep: boolean;
  /** Whether next and previous stop here: a step of an entry that is not skipped. */
  readonly walked: boolean;
}

/** What happens where the timeline of an entry ends. */
export type AtEnd = Extract<SetlistEntry, { kind: 'song' }>['atEnd'];

/** A song where it stands in the running order. */
export interface CompiledEntry {
  readonly entryId: string;
  readonly songId: string;
  readonly song: string;
  /** Positions from `first` to before `end`. */
  readonly first: number;
  readonly end: number;
  readonly map: TempoMap;
  readonly echoNote: NoteValue;
  readonly track: Track<Address>;
  /** Where each section begins and ends. */
  readonly sections: Float64Array;
  readonly countInBars: number;
  readonly atEnd: AtEnd;
}

/** What a program number leads to: one position for each time that its song stands in the set. */
export interface ProgramTarget {
  readonly isSong: boolean;
  readonly positions: Int32Array;
  readonly entries: Int32Array;
}

/**
 * Where programs lead, by bank (`MSB * 128 + LSB`): 128 numbers a bank. A number from 0 on is a position;
 * −1 is nothing; below that it is the target `-2 - number`, for songs and for what stands in the set more than once.
 */
export interface ProgramTable {
  readonly banks: ReadonlyMap<number, Int32Array>;
  readonly targets: ProgramTarget[];
}

/** How tonight’s gear reads one input port. */
export interface CompiledInput {
  readonly alias: string;
  readonly on: boolean;
  readonly plays: boolean;
  readonly keyShift: number;
  readonly perNote: boolean;
  /** Number of the input that this one doubles, or −1. */
  readonly doubleOf: number;
  readonly listens: Uint8Array;
  readonly reversed: Uint8Array;
  readonly ignoredPedal: Uint8Array;
  readonly programs: 'off' | 'direct' | 'counter';
  readonly programChannels: Uint8Array;
  /** By address, in the way that this input reads banks; null: it is not direct. */
  readonly map: ProgramTable | null;
  readonly mapByChannel: (ProgramTable | null)[];
  readonly usesMsb: boolean;
  readonly usesLsb: boolean;
  readonly counterLowest: number;
  readonly counterHighest: number;
  readonly counterGuardMs: number;
}

/** One control of tonight's gear, and the role that it plays. */
export interface CompiledControl {
  /** The same source and role have the same key over recompiles. */
  readonly key: string;
  readonly role: string;
  readonly roleNumber: number;
  readonly guardMs: number;
  readonly latching: boolean;
  readonly passOn: boolean;
  /** 0 absolute; relative: 1 two's complement, 2 offset, 3 sign bit. */
  readonly coding: number;
  /** 14 bit: MSB and LSB by two controllers. */
  readonly isFine: boolean;
  /** Ends of the travel that counts, 0–1. */
  readonly lowest: number;
  readonly highest: number;
  readonly reversed: boolean;
  /** Of the curve: position ** exponent. */
  readonly exponent: number;
  readonly pickUp: 'atOnce' | 'onMeeting' | 'drawnIn';
  /** Program changes only: the bank that is asked for, −1 any. */
  readonly msb: number;
  readonly lsb: number;
  /** Another control on the same program number in another bank, −1 none. */
  readonly next: number;
}

/** What a role does in a patch. */
export interface CompiledBinding {
  readonly action: Action;
  /** Number of its layer within the patch, −1 when it moves none, or none that plays there. */
  readonly part: number;
  /** Ends of the target's range in its own unit. */
  readonly low: number;
  readonly high: number;
  readonly staysInHand: boolean;
  /** It has a value, and no press. */
  readonly isValue: boolean;
  /** Its range is walked by ratio (frequencies), not by difference. */
  readonly byRatio: boolean;
  readonly effect: CompiledEffectTarget | null;
}

/**
 * A parameter of an effect that a role moves; layer key −1: an effect of the setlist, with the value that is stored there.
 */
export interface CompiledEffectTarget {
  readonly slot: number;
  readonly layerKey: number;
  readonly effectId: string;
  readonly kind: Effect['kind'];
  readonly parameter: string;
  readonly stored: number;
}

/** Kinds of source in the control table, 128 numbers each; `count` is a counter's direction: number 0 down, 1 up. */
export const SourceKind = { note: 0, controller: 1, program: 2, wheel: 3, pressure: 4, count: 5 } as const;
export type SourceKind = (typeof SourceKind)[keyof typeof SourceKind];
/** How many kinds of source there are. */
export const SOURCE_KINDS = Object.keys(SourceKind).length;

/** Which control is played by what comes in where. */
export interface ControlTables {
  readonly controls: CompiledControl[];
  /**
   * By input number: `(channel * SOURCE_KINDS + kind) * 128 + number` → control number, or −1; undefined where a port
   * has no control.
   */
  readonly byPort: readonly (Int16Array | undefined)[];
  /** By `KeyboardEvent.code`. */
  readonly computerKeys: ReadonlyMap<string, number>;
  readonly notes: readonly CompileNote[];
}

/** An output that gets the timeline's clock. */
export interface CompiledClockOutput {
  readonly destination: number;
  /** Pulses also while it stands. */
  readonly always: boolean;
  /** Stop, position and continue where a loop goes back. */
  readonly atLoop: boolean;
}

/** By how much later the timeline sends to an output. */
export interface CompiledOffset {
  readonly destination: number;
  /** null: by as much as the sound made here comes later. */
  readonly offsetMs: number | null;
}

/** The click of a gear list. */
export interface CompiledClick {
  readonly on: boolean;
  /** Lane of its port, −1: it is a sound of Rackle's own. */
  readonly lane: number;
  readonly accentKey: number;
  readonly key: number;
  readonly output: string;
  readonly levelDb: number;
  readonly offsetMs: number;
}

/** What could not be compiled, and was left out. */
export type CompileNote = { code: string; message: string };

/** What a recall reads, for all positions one behind the other. */
export interface RecallTables {
  readonly records: RecallRecords;
  readonly plans: LayerPlans;
  readonly values: Float64Array;
  readonly mutes: Uint8Array;
}

/** What a song does on lanes of outboard gear. */
export interface SongLanes {
  /** Lanes on which its messages give bank bytes. */
  readonly msb: readonly number[];
  readonly lsb: readonly number[];
  /** By instrument, where its layers play. */
  readonly played: ReadonlyMap<string, ReadonlySet<number>>;
}

/** A song, flattened by itself: its tables count patches and places from 0. */
export interface CompiledSong extends RecallTables {
  readonly songId: string;
  readonly name: string;
  readonly map: TempoMap;
  readonly echoNote: NoteValue;
  readonly patches: readonly CompiledPatch[];
  /** What can be recalled in it, in order: each patch (by its number), then its blends. */
  readonly places: readonly { readonly patch: number; readonly balance: CompiledBalance; readonly isStep: boolean }[];
  /** Ids and step marks of its places in one text: what numbers, next and previous hang on. */
  readonly layout: string;
  readonly track: Track<Address>;
  readonly sections: Float64Array;
  readonly countInBars: number;
  readonly lanes: SongLanes;
  readonly notes: readonly CompileNote[];
}

/** A setlist with a gear list, flattened: the tables of its songs, joined. */
export interface CompiledShow extends RecallTables {
  /** By entry. */
  readonly songs: readonly CompiledSong[];
  /** The same object while every position is what it was, whatever changed in it. */
  readonly layout: object;
  readonly patches: CompiledPatch[];
  readonly steps: CompiledStep[];
  readonly entries: CompiledEntry[];
  /** Length of the echo of each entry, close together for recalls. */
  readonly entryEchoes: readonly NoteValue[];
  /** Semitones by which each entry is shifted tonight. */
  readonly entryShifts: Int8Array;
  /** By input filter: flags by input port and channel where a layer hears keys and controllers, and pedals. */
  readonly hears: readonly Uint8Array[];
  readonly hearsPedals: readonly Uint8Array[];
  /** By keymap of a patch: rows by input port and channel, null where nothing plays. */
  readonly rows: readonly (KeyRow | null)[][];
  /** By input number; null where the gear list does not have the device. */
  readonly inputs: (CompiledInput | null)[];
  readonly controls: ControlTables;
  /** What roles do where no patch says otherwise, by role number. */
  readonly roleBindings: readonly (readonly CompiledBinding[] | undefined)[];
  /** Number of the input whose clock the timeline follows, −1: its own. */
  readonly clockInput: number;
  readonly click: CompiledClick;
  /** Destinations that get the timeline's clock. */
  readonly clockOutputs: readonly CompiledClockOutput[];
  readonly offsets: readonly CompiledOffset[];
  /** By lane: whether bank bytes belong to every address there, and the switching time in ms. */
  readonly laneUsesMsb: Uint8Array;
  readonly laneUsesLsb: Uint8Array;
  readonly laneSwitchMs: Float64Array;
  /** By lane: how an instrument without numbers is stepped there, or undefined. */
  readonly laneCounted: readonly (CountedLane | undefined)[];
  /** Effects of the setlist, as they are stored. */
  readonly sharedEffects: readonly SharedEffect[];
  readonly wholeEffects: readonly Effect[];
  readonly recallsWhereLeft: boolean;
  readonly sendAgain: boolean;
  readonly laneCount: number;
  readonly layerCount: number;
  /** What could not be compiled and was left out. */
  readonly notes: CompileNote[];
}
