import {
  CC_ALL_SOUND_OFF,
  CC_BANK_LSB,
  CC_BANK_MSB,
  CC_DATA_UP,
  CC_RPN_MSB,
  CONTROLLER,
  NOTE_OFF,
  NOTE_ON,
  PRESSURE,
  PROGRAM,
  WHEEL,
} from '../midi/status';

/** A message as learn hears it; `port` is the alias of the input. */
export interface HeardMessage {
  port: string;
  atMs: number;
  status: number;
  data1: number;
  data2: number;
}

/** What of the wire is followed as one thing. */
export type TrackKind = 'note' | 'controller' | 'program' | 'wheel' | 'pressure';

/** Everything that came by one port and channel from what may be one control. */
export interface Track {
  port: string;
  /** 1–16. */
  channel: number;
  kind: TrackKind;
  /** Key or controller; 0 for the rest. */
  number: number;
  /** Time and value: velocity (0: up), controller value, program, wheel 0–16383. */
  events: { atMs: number; value: number; msb: number | null; lsb: number | null }[];
}

const MOST_EVENTS = 2000;
/** Bank select this long before a program change belongs to it. */
const BANK_MS = 250;

/** Sorts what comes in by the control that it may come from; what can be no control is left out. */
export class Tracks {
  readonly all: Track[] = [];
  private readonly byKey = new Map<string, Track>();
  private readonly banks = new Map<string, { msb: number | null; lsb: number | null; atMs: number }>();

  add({ port, atMs, status, data1, data2 }: HeardMessage): void {
    const channel = (status & 15) + 1;
    switch (status & 0xf0) {
      case NOTE_ON:
        return this.note(port, channel, data1, atMs, data2);
      case NOTE_OFF:
        return this.note(port, channel, data1, atMs, 0);
      case PROGRAM:
        return this.program(port, channel, atMs, data1);
      case PRESSURE:
        return this.push({ port, channel, kind: 'pressure', number: 0 }, atMs, data1);
      case WHEEL:
        return this.push({ port, channel, kind: 'wheel', number: 0 }, atMs, (data2 << 7) | data1);
      case CONTROLLER:
        return this.controller(port, channel, data1, atMs, data2);
    }
  }

  private note(port: string, channel: number, key: number, atMs: number, velocity: number): void {
    // The release of a key that was down before says nothing.
    if (velocity === 0 && !this.byKey.has(`${port} ${channel} note ${key}`)) return;
    this.push({ port, channel, kind: 'note', number: key }, atMs, velocity);
  }

  private controller(port: string, channel: number, controller: number, atMs: number, value: number): void {
    if (controller === CC_BANK_MSB || controller === CC_BANK_LSB) {
      const known = this.banks.get(`${port} ${channel}`);
      const bank = known && atMs - known.atMs <= BANK_MS ? known : { msb: null, lsb: null, atMs };
      bank[controller === CC_BANK_MSB ? 'msb' : 'lsb'] = value;
      bank.atMs = atMs;
      this.banks.set(`${port} ${channel}`, bank);
      return;
    }
    if (controller >= CC_ALL_SOUND_OFF || (controller >= CC_DATA_UP && controller <= CC_RPN_MSB)) return;
    this.push({ port, channel, kind: 'controller', number: controller }, atMs, value);
  }

  private program(port: string, channel: number, atMs: number, program: number): void {
    const bank = this.banks.get(`${port} ${channel}`);
    const own = bank && atMs - bank.atMs <= BANK_MS ? bank : null;
    this.push({ port, channel, kind: 'program', number: 0 }, atMs, program, own?.msb ?? null, own?.lsb ?? null);
    this.banks.delete(`${port} ${channel}`);
  }

  private push(
    about: Omit<Track, 'events'>,
    atMs: number,
    value: number,
    msb: number | null = null,
    lsb: number | null = null,
  ): void {
    const key = `${about.port} ${about.channel} ${about.kind} ${about.number}`;
    let track = this.byKey.get(key);
    if (!track) {
      track = { ...about, events: [] };
      this.byKey.set(key, track);
      this.all.push(track);
    }
    if (track.events.length < MOST_EVENTS) track.events.push({ atMs, value, msb, lsb });
  }
}
