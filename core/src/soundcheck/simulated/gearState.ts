import { CC_BANK_LSB, CC_BANK_MSB, CC_SUSTAIN, CONTROLLER, NOTE_OFF, NOTE_ON, PROGRAM, WHEEL } from '../../midi/status';
import type { SentMessage } from '../../simulate';

const CENTRE = 8192;

/** Where one channel of one destination stands, by all that was sent to it. */
interface ChannelState {
  to: string;
  channel: number;
  /** By key: notes that were begun and not ended. */
  open: Map<number, number>;
  /** Note-offs without their note-on. */
  unasked: number;
  wheel: number;
  sustain: number;
  bankMsb: number | null;
  bankLsb: number | null;
  address: { msb: number | null; lsb: number | null; program: number } | null;
}

/** A note that was begun and not ended. */
export interface OpenNote {
  to: string;
  /** From 0. */
  channel: number;
  key: number;
}

/** What gear makes of what it is sent: the receiving end of every port and layer. */
export class GearState {
  private readonly channels = new Map<string, ChannelState>();
  /** By port and channel: those whose programs were changed. */
  private readonly addressed = new Map<string, ChannelState>();
  /** Those that were sent something since they came to rest: of a long evening there are thousands. */
  private readonly touched = new Set<ChannelState>();

  take({ destination, to, status, data1, data2 }: SentMessage): void {
    const state = this.at(destination, to, status & 15);
    this.touched.add(state);
    switch (status & 0xf0) {
      case NOTE_ON:
        if (data2 > 0) state.open.set(data1, (state.open.get(data1) ?? 0) + 1);
        else this.end(state, data1);
        break;
      case NOTE_OFF:
        this.end(state, data1);
        break;
      case WHEEL:
        state.wheel = data1 | (data2 << 7);
        break;
      case PROGRAM:
        state.address = { msb: state.bankMsb, lsb: state.bankLsb, program: data1 };
        this.addressed.set(`${to} ${status & 15}`, state);
        break;
      case CONTROLLER:
        if (data1 === CC_SUSTAIN) state.sustain = data2;
        else if (data1 === CC_BANK_MSB) state.bankMsb = data2;
        else if (data1 === CC_BANK_LSB) state.bankLsb = data2;
        break;
    }
  }

  /** Where programs left a channel of a port; null: none was sent. */
  addressAt(to: string, channel: number): ChannelState['address'] {
    return this.addressed.get(`${to} ${channel}`)?.address ?? null;
  }

  /** Notes that sound now, by what was sent. */
  sounding(): OpenNote[] {
    return [...this.touched].flatMap(({ to, channel, open }) =>
      [...open].flatMap(([key, count]) => (count > 0 ? [{ to, channel, key }] : [])),
    );
  }

  /** What is not as it has to be once every hand is off: each in a word or two, with where. */
  unrest(): { kind: 'note-open' | 'note-off-twice' | 'bend' | 'pedal'; to: string; channel: number; key?: number }[] {
    return [...this.touched].flatMap(({ to, channel, open, unasked, wheel, sustain }) => [
      ...[...open].flatMap(([key, count]) => (count > 0 ? [{ kind: 'note-open' as const, to, channel, key }] : [])),
      ...(unasked > 0 ? [{ kind: 'note-off-twice' as const, to, channel }] : []),
      ...(wheel === CENTRE ? [] : [{ kind: 'bend' as const, to, channel }]),
      ...(sustain === 0 ? [] : [{ kind: 'pedal' as const, to, channel }]),
    ]);
  }

  /** Notes and values are as after a panic; addresses stay. */
  rest(): void {
    for (const state of this.touched) {
      state.open.clear();
      state.unasked = 0;
      state.wheel = CENTRE;
      state.sustain = 0;
    }
    this.touched.clear();
  }

  private end(state: ChannelState, key: number): void {
    const open = state.open.get(key) ?? 0;
    if (open === 0) state.unasked++;
    else state.open.set(key, open - 1);
  }

  private at(destination: number, to: string, channel: number): ChannelState {
    const key = `${destination} ${channel}`;
    const known = this.channels.get(key);
    if (known !== undefined) return known;
    const made: ChannelState = {
      to,
      channel,
      open: new Map(),
      unasked: 0,
      wheel: CENTRE,
      sustain: 0,
      bankMsb: null,
      bankLsb: null,
      address: null,
    };
    this.channels.set(key, made);
    return made;
  }
}
