import { controllerName, keyName, type NameStyle } from '../midi';
import type { ControlSource } from '../show';
import type { ControlKind } from './recognise';

const PLAIN: NameStyle = { programsFrom: 1, middleC: 'C4' };

const KEYS: Record<string, string> = { PageUp: 'Page Up', PageDown: 'Page Down', ArrowLeft: 'left arrow', ArrowRight: 'right arrow', ArrowUp: 'up arrow', ArrowDown: 'down arrow', Space: 'space bar' };

/** Name of a key of the computer: “K”, “Page Down”. */
export const computerKeyName = (code: string): string => KEYS[code] ?? code.replace(/^Key|^Digit/, '').replace(/([a-z])([A-Z0-9])/g, '$1 $2');

/** A control source in words, its port left out: “controller 80, channel 1”. */
export function sourceInWords(source: ControlSource, style: NameStyle = PLAIN): string {
  if (source.kind === 'computerKey') return `computer key ${computerKeyName(source.code)}`;
  const channel = source.channel === null ? '' : `, channel ${source.channel}`;
  switch (source.kind) {
    case 'note': return `key ${keyName(source.number, style.middleC)}${channel}`;
    case 'controller': return `${named(source.number)}${source.coding === 'absolute' ? '' : ', turns'}${channel}`;
    case 'controller14': return `controllers ${source.number} and ${source.number + 32}${channel}`;
    case 'program': return `program ${source.number + style.programsFrom}${source.msb === null && source.lsb === null ? '' : ` of bank ${source.msb ?? '·'}/${source.lsb ?? '·'}`}${channel}`;
    case 'wheel': return `wheel${channel}`;
    case 'pressure': return `pressure${channel}`;
    case 'count': return `program, counts ${source.direction}${channel}`;
  }
}

/** “controller 11 (expression)”. */
const named = (controller: number): string => {
  const name = controllerName(controller);
  return name === `controller ${controller}` ? name : `controller ${controller} (${name})`;
};

export function kindInWords(kind: ControlKind): string {
  switch (kind) {
    case 'note': return 'a key or pad';
    case 'momentary': return 'a switch that is down while it is pressed';
    case 'latching': return 'a switch that stays where it was pressed';
    case 'program': return 'a button that sends a program change';
    case 'counter': return 'a controller with a counter of its own';
    case 'absolute': return 'a knob, fader or pedal';
    case 'fine': return 'a knob or fader in 14 bits';
    case 'twos': return 'an encoder (127 is one step back)';
    case 'offset': return 'an encoder (63 is one step back)';
    case 'signed': return 'an encoder (65 is one step back)';
    case 'wheel': return 'the pitch wheel';
    case 'pressure': return 'pressure on the keys';
    case 'computerKey': return 'a key of the computer or of a page turner';
  }
}
