import type { EngineInput } from '../../engine';
import { CC_SUSTAIN, CONTROLLER, NOTE_OFF, NOTE_ON, WHEEL } from '../../midi/status';

/** A key that is struck: where, and how hard. `key` as it comes in. */
export interface Strike {
  device: string;
  /** From 0. */
  channel: number;
  key: number;
  velocity: number;
}

/** What a stimulus plays with. */
export interface Hands {
  /** Keys for the patch that is left, and for the one that is come to. */
  before: readonly Strike[];
  after: readonly Strike[];
  /** Outputs of tonight's gear, by device. */
  outputs: readonly string[];
  from: number;
  to: number;
}

/** Something that is done, ms from the beginning of a case. */
export interface Done {
  atMs: number;
  input: EngineInput;
}

/** A way to come from one recall to the next one. At its end every key and pedal is up, and the wheel at rest. */
export interface Stimulus {
  id: string;
  /** In words: “with keys held”. */
  words: string;
  /** Whether keys of the patch before are down at the recall and some time after it. */
  holdsKeys: boolean;
  of(hands: Hands): Done[];
}

/** When the recall comes, and when what was held before it is let go of. */
export const RECALL_MS = 1000;
export const LET_GO_MS = 2000;
/** When the new patch is played, and let go of: by then any wait is over. */
export const PLAY_MS = 2600;
export const PLAYED_MS = 3200;

const message = (device: string, status: number, data1: number, data2: number): EngineInput => ({
  type: 'message',
  device,
  status,
  data1,
  data2,
});
const down = (atMs: number, { device, channel, key, velocity }: Strike): Done => ({
  atMs,
  input: message(device, NOTE_ON | channel, key, velocity),
});
const up = (atMs: number, { device, channel, key }: Strike): Done => ({
  atMs,
  input: message(device, NOTE_OFF | channel, key, 64),
});
const recall = (atMs: number, position: number): Done => ({ atMs, input: { type: 'recall', position } });

/** Each device and channel of some strikes once. */
const places = (strikes: readonly Strike[]): Strike[] => [
  ...new Map(strikes.map((strike) => [`${strike.device} ${strike.channel}`, strike])).values(),
];
const pedal = (atMs: number, strikes: readonly Strike[], value: number): Done[] =>
  places(strikes).map(({ device, channel }) => ({
    atMs,
    input: message(device, CONTROLLER | channel, CC_SUSTAIN, value),
  }));
const wheel = (atMs: number, strikes: readonly Strike[], value: number): Done[] =>
  places(strikes).map(({ device, channel }) => ({
    atMs,
    input: message(device, WHEEL | channel, value & 127, value >> 7),
  }));
const here = (atMs: number, type: 'input' | 'output', devices: readonly string[], isHere: boolean): Done[] =>
  devices.map((device) => ({ atMs, input: { type, device, here: isHere } }));

const CENTRE = 8192;
const HIGHEST = 16383;

/** The new patch is played once everything has come to rest. */
const playNew = ({ after }: Hands): Done[] => [
  ...after.map((strike) => down(PLAY_MS, strike)),
  ...after.map((strike) => up(PLAYED_MS, strike)),
];
const devicesOf = (strikes: readonly Strike[]): string[] => [...new Set(strikes.map(({ device }) => device))];

/** The fixed list: what is tried at every pair. */
export const STIMULI: readonly Stimulus[] = [
  {
    id: 'held',
    words: 'with keys held',
    holdsKeys: true,
    of: (hands) => [
      ...hands.before.map((strike) => down(500, strike)),
      recall(RECALL_MS, hands.to),
      ...hands.before.map((strike) => up(LET_GO_MS, strike)),
      ...playNew(hands),
    ],
  },
  {
    id: 'pedal',
    words: 'with the pedal down',
    holdsKeys: false,
    of: (hands) => [
      ...hands.before.map((strike) => down(400, strike)),
      ...pedal(500, hands.before, 127),
      ...hands.before.map((strike) => up(700, strike)),
      recall(RECALL_MS, hands.to),
      ...pedal(LET_GO_MS, hands.before, 0),
      ...playNew(hands),
    ],
  },
  {
    id: 'wheel',
    words: 'with the wheel off its centre',
    holdsKeys: true,
    of: (hands) => [
      ...wheel(300, hands.before, HIGHEST),
      ...hands.before.map((strike) => down(500, strike)),
      recall(RECALL_MS, hands.to),
      ...wheel(LET_GO_MS - 200, hands.before, CENTRE),
      ...hands.before.map((strike) => up(LET_GO_MS, strike)),
      ...playNew(hands),
    ],
  },
  {
    id: 'at-once',
    words: 'with keys struck at the recall',
    holdsKeys: false,
    of: (hands) => [
      recall(RECALL_MS, hands.to),
      ...hands.after.map((strike) => down(RECALL_MS, strike)),
      ...hands.after.map((strike) => up(LET_GO_MS, strike)),
      ...playNew(hands),
    ],
  },
  {
    id: 'twice',
    words: 'with the switch pressed twice',
    holdsKeys: true,
    of: (hands) => [
      ...hands.before.map((strike) => down(500, strike)),
      recall(RECALL_MS, hands.to),
      recall(RECALL_MS + 5, hands.to),
      ...hands.before.map((strike) => up(LET_GO_MS, strike)),
      ...playNew(hands),
    ],
  },
  {
    id: 'and-back',
    words: 'there, back and there again',
    holdsKeys: true,
    of: (hands) => [
      ...hands.before.map((strike) => down(500, strike)),
      recall(RECALL_MS, hands.to),
      recall(RECALL_MS + 40, hands.from),
      recall(RECALL_MS + 80, hands.to),
      ...hands.before.map((strike) => up(LET_GO_MS, strike)),
      ...playNew(hands),
    ],
  },
  {
    id: 'keyboard-pulled',
    words: 'with the keyboard pulled while keys are held',
    holdsKeys: false,
    of: (hands) => [
      ...hands.before.map((strike) => down(500, strike)),
      ...here(800, 'input', devicesOf(hands.before), false),
      recall(RECALL_MS, hands.to),
      ...here(LET_GO_MS, 'input', devicesOf(hands.before), true),
      ...playNew(hands),
    ],
  },
  {
    id: 'outputs-pulled',
    words: 'with the outputs pulled while keys are held',
    holdsKeys: false,
    of: (hands) => [
      ...hands.before.map((strike) => down(500, strike)),
      ...here(800, 'output', hands.outputs, false),
      recall(RECALL_MS, hands.to),
      ...here(1500, 'output', hands.outputs, true),
      ...hands.before.map((strike) => up(LET_GO_MS, strike)),
      ...playNew(hands),
    ],
  },
];
