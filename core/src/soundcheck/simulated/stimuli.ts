import type { EngineInput } from '../../engine';
import { CC_SUSTAIN, CONTROLLER, NOTE_OFF, NOTE_ON, WHEEL } from '../../midi/status';
import type { Around } from '../tonight';
import { messageInput as message } from './messageInput';
import type { Press } from './presses';

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
  /** The switch that steps from the one to the other, and the number that recalls it; null: there is none. */
  step: Press | null;
  number: Press | null;
}

/** A layer that sounds: the device on which its key is held, and where it goes; null: nowhere but Rackle's own sound. */
export interface HeldAt {
  device: string;
  port: string | null;
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
  /** Whether a key of the patch before is down at the recall and some time after it, and what it sounds is there. */
  holds(at: HeldAt): boolean;
  /** Null: it cannot be done here. */
  of(hands: Hands): Done[] | null;
}

/** When the recall comes, and when what was held before it is let go of. */
export const RECALL_MS = 1000;
export const LET_GO_MS = 2000;
/** When the new patch is played, and let go of: by then any wait is over. */
export const PLAY_MS = 2600;
export const PLAYED_MS = 3200;

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

const TWICE_MS = 4;
const CENTRE = 8192;
const HIGHEST = 16383;

/** The new patch is played once everything has come to rest. */
const playNew = ({ after }: Hands): Done[] => [
  ...after.map((strike) => down(PLAY_MS, strike)),
  ...after.map((strike) => up(PLAYED_MS, strike)),
];
const devicesOf = (strikes: readonly Strike[]): string[] => [...new Set(strikes.map(({ device }) => device))];

const always = (): boolean => true;
const never = (): boolean => false;

/** A control is pressed twice by a nervous foot: the second press counts for nothing where it has a guard. */
function presses(press: Press | null): Done[] | null {
  if (press === null) return null;
  const at = (atMs: number, inputs: readonly EngineInput[]): Done[] => inputs.map((input) => ({ atMs, input }));
  const again =
    press.guardMs > TWICE_MS ? [...at(RECALL_MS + TWICE_MS, press.down), ...at(RECALL_MS + 6, press.up)] : [];
  return [...at(RECALL_MS, press.down), ...at(RECALL_MS + 2, press.up), ...again];
}

/** By a control, with keys held. */
const byControl = (hands: Hands, press: Press | null): Done[] | null => {
  const pressed = presses(press);
  if (pressed === null) return null;
  return [
    ...hands.before.map((strike) => down(500, strike)),
    ...pressed,
    ...hands.before.map((strike) => up(LET_GO_MS, strike)),
    ...playNew(hands),
  ];
};

/** The fixed list: what is tried at every pair. */
export const STIMULI: readonly Stimulus[] = [
  {
    id: 'held',
    words: 'with keys held',
    holds: always,
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
    holds: never,
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
    holds: always,
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
    holds: never,
    of: (hands) => [
      recall(RECALL_MS, hands.to),
      ...hands.after.map((strike) => down(RECALL_MS, strike)),
      ...hands.after.map((strike) => up(LET_GO_MS, strike)),
      ...playNew(hands),
    ],
  },
  {
    id: 'twice',
    words: 'recalled twice',
    holds: always,
    of: (hands) => [
      ...hands.before.map((strike) => down(500, strike)),
      recall(RECALL_MS, hands.to),
      recall(RECALL_MS + 5, hands.to),
      ...hands.before.map((strike) => up(LET_GO_MS, strike)),
      ...playNew(hands),
    ],
  },
  {
    id: 'switch',
    words: 'by its switch, pressed twice',
    holds: always,
    of: (hands) => byControl(hands, hands.step),
  },
  {
    id: 'number',
    words: 'by its number',
    holds: always,
    of: (hands) => byControl(hands, hands.number),
  },
  {
    id: 'and-back',
    words: 'there, back and there again',
    holds: always,
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
    holds: never,
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
    holds: never,
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

/** One of several ports pulled, with keys held: what does not go through it goes on. */
const pulled = (type: 'input' | 'output', { alias, device }: { alias: string; device: string }): Stimulus => ({
  id: `${type}-pulled ${alias}`,
  words: `with ${alias} pulled while keys are held`,
  holds: (at) => (type === 'input' ? at.device !== device : at.port !== alias),
  of: (hands) => [
    ...hands.before.map((strike) => down(500, strike)),
    ...here(RECALL_MS, type, [device], false),
    recall(RECALL_MS, hands.to),
    ...here(type === 'input' ? LET_GO_MS : 1500, type, [device], true),
    ...hands.before
      .filter((strike) => type === 'output' || strike.device !== device)
      .map((strike) => up(LET_GO_MS, strike)),
    ...playNew(hands),
  ],
});

/** And what tonight's gear adds: each of several keyboards and outputs pulled alone. */
export function stimuliOf({ keyboards, outputs }: Pick<Around, 'keyboards' | 'outputs'>): readonly Stimulus[] {
  return [
    ...STIMULI,
    ...(keyboards.length > 1 ? keyboards.map((port) => pulled('input', port)) : []),
    ...(outputs.length > 1 ? outputs.map((port) => pulled('output', port)) : []),
  ];
}
