/** What an event of a track is; of those at one tick ends come first, the rest as their cues are listed. */
export const TrackKind = {
  /** The end of note `a`. */
  noteEnd: 0,
  /** Recall of place `a` of the song. */
  recall: 1,
  /** Address `b` for lane number `a` of `addressLanes`; `c`: how (`AddressHow`). */
  address: 2,
  /** The map times `factors[a]` up to its next tempo. */
  tempo: 3,
  /** Value `b` of touch `a`. */
  value: 4,
  /** Value `b` of parameter select `c` (controller 98–101) on lane `a`. */
  select: 5,
  /** Value `b` of parameter `a`; `c`: data entry, 6 (MSB) or 38 (LSB). */
  data: 6,
  /** Message `a`. */
  message: 7,
  /** The start of note `a`. */
  note: 8,
  /** Text `a`. */
  text: 9,
} as const;
export type TrackKind = (typeof TrackKind)[keyof typeof TrackKind];

/** How an address is sent: bits. */
export const AddressHow = {
  /** Only where it is not there already: a preset by name. */
  ifOther: 1,
  /** Without this byte of the bank, where the channel has got it before. */
  msbIsSent: 2,
  lsbIsSent: 4,
} as const;

/** A note of a track. */
export interface TrackNote {
  /** The same over edits. */
  readonly key: string;
  readonly lane: number;
  /** Number of the layer that plays it, −1: none, a port does. */
  readonly layer: number;
  /** Of a layer: with the song's transposition. */
  readonly noteKey: number;
  /** Whether tonight's transposition moves it. */
  readonly follows: boolean;
  readonly velocity: number;
  readonly releaseVelocity: number;
}

/** A message that goes out as it is. */
export interface TrackMessage {
  readonly destination: number;
  /** −1: system exclusive, which belongs to no channel. */
  readonly lane: number;
  /** High nibble of the status, with two data bytes; of system exclusive 0xf0. */
  readonly status: number;
  readonly data1: number;
  readonly data2: number;
  /** System exclusive only: the bytes between F0 and F7. */
  readonly bytes: Uint8Array | null;
  /** Whether a start behind it sends it. */
  readonly isState: boolean;
}

/** A parameter by number on a lane (MIDI 1.0, RPN and NRPN). */
export interface TrackParameter {
  readonly lane: number;
  readonly isRegistered: boolean;
  readonly msb: number;
  readonly lsb: number;
}

/** A lane and slot (controllers 0–127, then pressure, then wheel) that a track sets. */
export interface TrackTouch {
  readonly lane: number;
  readonly slot: number;
}

/** All that a song's timeline does, by tick: cues, ramps as their values, and the ends of notes. */
export interface Track<A> {
  // By event:
  readonly ticks: Float64Array;
  readonly kinds: Uint8Array;
  readonly a: Int32Array;
  readonly b: Int32Array;
  readonly c: Int32Array;
  // What events name by number:
  readonly notes: readonly TrackNote[];
  readonly touches: readonly TrackTouch[];
  readonly parameters: readonly TrackParameter[];
  readonly messages: readonly TrackMessage[];
  readonly addresses: readonly A[];
  /** Lanes that get addresses, by cues or by the patches that cues recall. */
  readonly addressLanes: Int32Array;
  /** By place of the song: the addresses that its recall brings, as pairs: number in `addressLanes`, in `addresses`. */
  readonly recalled: readonly (Int32Array | undefined)[];
  readonly texts: readonly string[];
  readonly factors: Float64Array;
}
