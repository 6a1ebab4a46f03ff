import { controllerName, keyName, type NameStyle } from '../midi';
import { EFFECT_PARAMETERS, type Action, type ControlSource } from '../show';
import type { ControlKind } from './recognise';

const PLAIN: NameStyle = { programsFrom: 1, middleC: 'C4' };

const KEYS: Record<string, string> = {
  PageUp: 'Page Up',
  PageDown: 'Page Down',
  ArrowLeft: 'left arrow',
  ArrowRight: 'right arrow',
  ArrowUp: 'up arrow',
  ArrowDown: 'down arrow',
  Space: 'space bar',
};

/** Name of a key of the computer: “K”, “Page Down”. */
export const computerKeyName = (code: string): string =>
  KEYS[code] ?? code.replace(/^Key|^Digit/, '').replace(/([a-z])([A-Z0-9])/g, '$1 $2');

/** A control source in words, its port left out: “controller 80, channel 1”. */
export function sourceInWords(source: ControlSource, style: NameStyle = PLAIN): string {
  if (source.kind === 'computerKey') return `computer key ${computerKeyName(source.code)}`;
  const channel = source.channel === null ? '' : `, channel ${source.channel}`;
  switch (source.kind) {
    case 'note':
      return `key ${keyName(source.number, style.middleC)}${channel}`;
    case 'controller':
      return `${named(source.number)}${source.coding === 'absolute' ? '' : ', turns'}${channel}`;
    case 'controller14':
      return `controllers ${source.number} and ${source.number + 32}${channel}`;
    case 'program':
      return `program ${source.number + style.programsFrom}${source.msb === null && source.lsb === null ? '' : ` of bank ${source.msb ?? '·'}/${source.lsb ?? '·'}`}${channel}`;
    case 'wheel':
      return `wheel${channel}`;
    case 'pressure':
      return `pressure${channel}`;
    case 'count':
      return `program, counts ${source.direction}${channel}`;
  }
}

/** “controller 11 (expression)”. */
const named = (controller: number): string => {
  const name = controllerName(controller);
  return name === `controller ${controller}` ? name : `controller ${controller} (${name})`;
};

/** A kind of control, as players call it. */
export function kindInWords(kind: ControlKind): string {
  switch (kind) {
    case 'note':
      return 'a key or pad';
    case 'momentary':
      return 'a switch that is down while it is pressed';
    case 'latching':
      return 'a switch that stays where it was pressed';
    case 'program':
      return 'a button that sends a program change';
    case 'counter':
      return 'a controller with a counter of its own';
    case 'absolute':
      return 'a knob, fader or pedal';
    case 'fine':
      return 'a knob or fader in 14 bits';
    case 'twos':
      return 'an encoder (127 is one step back)';
    case 'offset':
      return 'an encoder (63 is one step back)';
    case 'signed':
      return 'an encoder (65 is one step back)';
    case 'wheel':
      return 'the pitch wheel';
    case 'pressure':
      return 'pressure on the keys';
    case 'computerKey':
      return 'a key of the computer or of a page turner';
  }
}

const PLAIN_ACTIONS: Record<string, string> = {
  nextStep: 'next patch',
  previousStep: 'patch before',
  firstStep: 'first patch of the song',
  nextSong: 'next song',
  previousSong: 'song before',
  firstSong: 'first song',
  cursorNext: 'cursor on',
  cursorPrevious: 'cursor back',
  go: 'go to the cursor',
  play: 'play the timeline',
  stop: 'stop the timeline',
  toStart: 'timeline to its start',
  holdCues: 'hold back recalls of the timeline',
  panic: 'panic',
  hold: 'hold what sounds',
  tapTempo: 'tap the tempo',
  transposeUp: 'a semitone up',
  transposeDown: 'a semitone down',
  transposeOff: 'transposition off',
  resend: 'send all gear everything again',
};
const VALUES: Record<string, string> = {
  levelDb: 'level',
  pan: 'pan',
  room: 'room',
  echo: 'echo',
  roomDb: 'room of everything',
  echoDb: 'echo of everything',
  echoRepeats: 'repeats of the echo',
};

/** How an action's words find names: of a layer, and what kind an effect is (of a layer, or null: of the setlist). */
export interface ActionNames {
  layer: (layerId: string) => string | null;
  effect: (effectId: string, layerId: string | null) => string | null;
}
const NO_NAMES: ActionNames = { layer: () => null, effect: () => null };

const parameterWords = (name: string): string =>
  Object.values(EFFECT_PARAMETERS)
    .flat()
    .find((parameter) => parameter.name === name)?.words ?? name;

/** What a role does, in words: “level of Late Boat”, “patch 3”, “amount of drive, Late Boat”. */
export function actionInWords(action: Action, names: ActionNames = NO_NAMES): string {
  const of = 'layerId' in action ? (names.layer(action.layerId) ?? 'a layer that is gone') : '';
  const effect =
    'effectId' in action
      ? (names.effect(action.effectId, 'layerId' in action ? action.layerId : null) ?? 'an effect that is gone')
      : '';
  switch (action.kind) {
    case 'patch':
      return `patch ${action.number} of the song`;
    case 'song':
      return `song ${action.number}`;
    case 'blend':
      return action.number === 0 ? 'the patch’s own balance' : `blend ${action.number} of the patch`;
    case 'layerValue':
      return `${VALUES[action.value]} of ${of}`;
    case 'layerController':
      return `${parameterName(action.controller)} of ${of}`;
    case 'layerSwitch':
      return `${action.what} ${of}`;
    case 'trigger':
      return `start and stop ${of}`;
    case 'presetStep':
      return `${action.by > 0 ? 'next' : 'previous'} preset of ${of}`;
    case 'wholeValue':
      return action.value === 'levelDb' ? 'level of everything' : VALUES[action.value];
    case 'effectValue':
      return `${parameterWords(action.parameter)} of ${effect}, ${of}`;
    case 'effectOnOff':
      return `${effect} of ${of} on and off`;
    case 'sharedEffectValue':
      return `${parameterWords(action.parameter)} of ${effect}`;
    case 'sharedEffectOnOff':
      return `${effect} on and off`;
    case 'effectSwitch':
      return `${action.effect} on and off`;
    default:
      return PLAIN_ACTIONS[action.kind];
  }
}

/** Parameters of built-in instruments, by the sound controllers of MIDI. */
export const PARAMETERS: readonly { controller: number; name: string }[] = [
  { controller: 74, name: 'brightness' },
  { controller: 71, name: 'resonance' },
  { controller: 73, name: 'attack' },
  { controller: 72, name: 'release' },
  { controller: 77, name: 'vibrato' },
  { controller: 76, name: 'vibrato speed' },
  { controller: 1, name: 'modulation' },
  { controller: 11, name: 'expression' },
];

/** A sound controller (RP-021) by its name. */
export const parameterName = (controller: number): string =>
  PARAMETERS.find((parameter) => parameter.controller === controller)?.name ?? controllerName(controller);
