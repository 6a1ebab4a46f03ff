import type { EngineRecord, IgnoredReason } from '../engine';
import { CONTROLLER, KEY_PRESSURE, NOTE_OFF, NOTE_ON, PRESSURE, PROGRAM, WHEEL } from '../midi/status';

/** Kinds of messages that the monitor can be filtered by. */
export const MESSAGE_KINDS = [
  'notes',
  'controllers',
  'programs',
  'wheel and pressure',
  'clock',
  'system',
  'Rackle',
] as const;
/** Kinds of message that the monitor can be narrowed to. */
export type MessageKind = (typeof MESSAGE_KINDS)[number];

/** One line of the monitor: a message and what became of it, or something that Rackle did by itself. */
export interface MonitorLine {
  number: number;
  atMs: number;
  direction: 'in' | 'out' | 'self';
  /** Port, or instrument and layer; empty for what Rackle does by itself. */
  port: string;
  /** 1–16; 0 where there is none. */
  channel: number;
  kind: MessageKind;
  status: number;
  data1: number;
  data2: number;
  /** What became of it, or what Rackle did: “→ layers A, B”, “ignored: no such program in this setlist”. */
  became: string;
  /** A recall. */
  strong: boolean;
  /** It came by the second port of a device that is heard by its first. */
  isDouble: boolean;
}

/** Kind of a message by its status byte. */
export function kindOfStatus(status: number): MessageKind {
  if (status >= 0xf8 || status === 0xf2) return 'clock';
  if (status >= 0xf0) return 'system';
  switch (status & 0xf0) {
    case NOTE_ON:
    case NOTE_OFF:
    case KEY_PRESSURE:
      return 'notes';
    case CONTROLLER:
      return 'controllers';
    case PROGRAM:
      return 'programs';
    case WHEEL:
    case PRESSURE:
      return 'wheel and pressure';
    default:
      return 'system';
  }
}

/** Stands in a line for its program number, which reads as the player counts. */
const PROGRAM_HERE = '{program}';
/** What became of a message, in words. */
export const becameInWords = (line: MonitorLine, programsFrom: 0 | 1): string =>
  line.became.replace(PROGRAM_HERE, String(line.data1 + programsFrom));

const ACTIVE_SENSING = 0xfe;
/** Clock, active sensing and what a second port of a device repeats are hidden unless they are asked for. */
export const isHiddenAtFirst = (line: MonitorLine): boolean =>
  line.kind === 'clock' || line.status === ACTIVE_SENSING || line.isDouble;

/** Makes lines of records: what the engine says of a message is added to the line of that message. */
export class LineMaker {
  private number = 0;
  private last: MonitorLine | null = null;

  constructor(private readonly reasons: Readonly<Record<IgnoredReason, string>>) {}

  /** @returns a new line, or null when the record belongs to the line before. */
  add(record: EngineRecord): MonitorLine | null {
    switch (record.type) {
      case 'in':
        return (this.last = this.message('in', record.port, record));
      case 'out':
        return this.message('out', record.to.split(' / ').at(-1) ?? '', record);
      case 'ignored':
        if (this.last !== null && record.reason === 'doubled-port') this.last.isDouble = true;
        if (this.belongs(record.atMs)) return this.append(this.ignored(record.reason));
        return (this.last = { ...this.message('in', record.port, record), became: this.ignored(record.reason) });
      default:
        return this.own(record.atMs, inWords(record), record.type === 'recall');
    }
  }

  private ignored(reason: IgnoredReason): string {
    // It is used: by the next program.
    if (reason === 'bank-remembered') return '→ bank remembered';
    return `ignored: ${reason === 'no-such-program' ? `no program ${PROGRAM_HERE} in this setlist` : this.reasons[reason]}`;
  }

  private belongs(atMs: number): boolean {
    return this.last !== null && this.last.atMs === atMs;
  }

  private append(words: string, strong = false): null {
    const { last } = this;
    if (last !== null && !last.became.includes(words))
      last.became = last.became === '' ? words : `${last.became} · ${words}`;
    if (last !== null && strong) last.strong = true;
    return null;
  }

  private own(atMs: number, words: string, strong: boolean): MonitorLine | null {
    if (this.belongs(atMs)) return this.append(words, strong);
    this.last = null;
    return {
      number: ++this.number,
      atMs,
      direction: 'self',
      port: '',
      channel: 0,
      kind: 'Rackle',
      status: 0,
      data1: 0,
      data2: 0,
      became: words,
      strong,
      isDouble: false,
    };
  }

  private message(
    direction: 'in' | 'out',
    port: string,
    { atMs, status, data1, data2 }: { atMs: number; status: number; data1: number; data2: number },
  ): MonitorLine {
    return {
      number: ++this.number,
      atMs,
      direction,
      port,
      channel: status < 0xf0 ? (status & 15) + 1 : 0,
      kind: kindOfStatus(status),
      status,
      data1,
      data2,
      became: '',
      strong: false,
      isDouble: false,
    };
  }
}

const spaced = (word: string): string => word.replace(/([A-Z])/g, ' $1').toLowerCase();

function inWords(record: Exclude<EngineRecord, { type: 'in' | 'out' | 'ignored' }>): string {
  switch (record.type) {
    case 'played':
      return record.layers.length === 0
        ? '→ no layer'
        : `→ ${record.layers.length === 1 ? 'layer' : 'layers'} ${record.layers.join(', ')}`;
    case 'recall':
      return `→ ${record.again ? 'again ' : ''}${record.song}: ${record.patch}${record.blend === null ? '' : `, ${record.blend}`}${record.cause === 'cue' ? ' (cue)' : record.cause === 'edit' ? ' (edited)' : ''}`;
    case 'action':
      return `${record.role} → ${spaced(record.action)}`;
    case 'value':
      return `${record.role} → ${record.of.replace('levelDb', 'level')} ${Math.round(record.value * 10) / 10}`;
    case 'preset':
      return `${record.layer}: preset ${record.preset + 1}`;
    case 'switch':
      return `${record.of} ${record.on ? 'on' : 'off'}`;
    case 'tempo':
      return `tempo ${Math.round(record.bpm * 10) / 10}`;
    case 'transpose':
      return `stage transposition ${record.semitones}`;
    case 'warning':
      return `${record.code.replaceAll('-', ' ')}${record.about === '' ? '' : `: ${record.about}`}`;
    case 'fade':
      return `${record.layer} fades over ${record.fadeMs} ms`;
    case 'cursor':
      return `cursor on step ${record.position + 1}`;
    case 'timeline':
      return `timeline: ${record.state} at tick ${Math.floor(record.tick)}`;
    case 'text':
      return record.text === '' ? 'text: none' : `text: “${record.text}”`;
    case 'twice':
      return `fires twice: step ${record.position + 1}, by ${record.port} and by the cue at tick ${record.tick}`;
    case 'panic':
      return record.strength === 1 ? 'panic: every note ended' : 'panic: all gear reset';
  }
}
