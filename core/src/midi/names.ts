import { CONTROLLER, KEY_PRESSURE, NOTE_OFF, NOTE_ON, PRESSURE, PROGRAM, WHEEL, WHEEL_CENTRE } from './status';

const PITCHES = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B'];

/** Name of a key (0–127), with middle C (60) reading C3 or C4. */
export function keyName(key: number, middleC: 'C3' | 'C4' = 'C4'): string {
  return `${PITCHES[key % 12]}${Math.floor(key / 12) - (middleC === 'C4' ? 1 : 2)}`;
}

/**
 * Reads a key as a player writes it: a number 0–127, or a name such as `C4`, `f#3`, `Bb2`.
 * @returns null when it cannot be read or lies outside 0–127.
 */
export function parseKeyName(text: string, middleC: 'C3' | 'C4' = 'C4'): number | null {
  const trimmed = text.trim();
  if (/^\d{1,3}$/.test(trimmed)) return inRange(Number(trimmed));
  const match = /^([a-gA-G])([#♯b♭]?)(-?\d{1,2})$/.exec(trimmed);
  if (!match) return null;
  const letter = { c: 0, d: 2, e: 4, f: 5, g: 7, a: 9, b: 11 }[match[1].toLowerCase()]!;
  const accidental = match[2] === '' ? 0 : match[2] === '#' || match[2] === '♯' ? 1 : -1;
  return inRange((Number(match[3]) + (middleC === 'C4' ? 1 : 2)) * 12 + letter + accidental);
}

const inRange = (key: number): number | null => (key >= 0 && key <= 127 ? key : null);

const CONTROLLERS: Record<number, string> = {
  0: 'bank select MSB',
  1: 'modulation',
  2: 'breath',
  4: 'foot',
  5: 'glide time',
  6: 'data entry',
  7: 'volume',
  8: 'balance',
  10: 'pan',
  11: 'expression',
  32: 'bank select LSB',
  38: 'data entry LSB',
  64: 'sustain',
  65: 'glide',
  66: 'sostenuto',
  67: 'soft',
  68: 'legato',
  69: 'hold 2',
  71: 'resonance',
  72: 'release',
  73: 'attack',
  74: 'brightness',
  91: 'reverb send',
  93: 'chorus send',
  96: 'data up',
  97: 'data down',
  98: 'NRPN LSB',
  99: 'NRPN MSB',
  100: 'RPN LSB',
  101: 'RPN MSB',
  120: 'all sound off',
  121: 'reset controllers',
  122: 'local control',
  123: 'all notes off',
  124: 'omni off',
  125: 'omni on',
  126: 'mono',
  127: 'poly',
};

/** The trade's name of a controller, or “controller N”. */
export const controllerName = (controller: number): string => CONTROLLERS[controller] ?? `controller ${controller}`;

/** How a panel reads: programs from 0 or 1, middle C as C3 or C4. */
export interface NameStyle {
  programsFrom: 0 | 1;
  middleC: 'C3' | 'C4';
}

/** A channel message in words, for the monitor: “note on C4, velocity 90”. */
export function messageInWords(
  status: number,
  data1: number,
  data2: number,
  style: NameStyle = { programsFrom: 1, middleC: 'C4' },
): string {
  switch (status & 0xf0) {
    case NOTE_ON:
      return data2 === 0
        ? `note off ${keyName(data1, style.middleC)}`
        : `note on ${keyName(data1, style.middleC)}, velocity ${data2}`;
    case NOTE_OFF:
      return `note off ${keyName(data1, style.middleC)}`;
    case KEY_PRESSURE:
      return `key pressure ${keyName(data1, style.middleC)}, ${data2}`;
    case CONTROLLER:
      return `${controllerName(data1)} ${data2}`;
    case PROGRAM:
      return `program ${data1 + style.programsFrom}`;
    case PRESSURE:
      return `pressure ${data1}`;
    case WHEEL:
      return `wheel ${((data2 << 7) | data1) - WHEEL_CENTRE}`;
    default:
      return SYSTEM[status] ?? `status ${status.toString(16)}`;
  }
}

const SYSTEM: Record<number, string> = {
  0xf0: 'system exclusive',
  0xf1: 'time code',
  0xf2: 'song position',
  0xf3: 'song select',
  0xf6: 'tune request',
  0xf8: 'clock',
  0xfa: 'start',
  0xfb: 'continue',
  0xfc: 'stop',
  0xfe: 'active sensing',
  0xff: 'reset',
};

/**
 * Number of data bytes after a status byte, −1 for system exclusive or what is no status. MIDI 1.0, table of status
 * bytes.
 */
export function dataLength(status: number): -1 | 0 | 1 | 2 {
  if (status < 0x80 || status > 0xff) return -1;
  if (status < 0xf0) return (status & 0xf0) === PROGRAM || (status & 0xf0) === PRESSURE ? 1 : 2;
  if (status === 0xf1 || status === 0xf3) return 1;
  if (status === 0xf2) return 2;
  return status === 0xf0 || status === 0xf7 ? -1 : 0;
}
