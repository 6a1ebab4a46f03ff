import { CC_BANK_LSB, CC_BANK_MSB, CONTROLLER, NOTE_OFF, NOTE_ON, PROGRAM } from '../midi/status';
import type { WriteMessage } from '../formats/smf';
import type { Instrument, Song } from '../show';
import { BYTE_MS, MARGIN_MS, tempoMapOfSong, type TempoMap } from '../timeline';
import { ownTracks, type OwnTrack } from './ownTracks';

const laneOf = (port: string, channel: number): string => `${port} ${channel}`;
const isBank = (message: WriteMessage): boolean =>
  message.kind === 'message' &&
  (message.status & 0xf0) === CONTROLLER &&
  (message.data1 === CC_BANK_MSB || message.data1 === CC_BANK_LSB);

/**
 * Tracks in which outboard gear is told what to switch to so early that it is ready at its cue: by the bytes on the
 * cable, its switching time and a margin; but never before the last note of the old sound has ended on its channel, nor
 * before the switch that comes before.
 */
export class SentAhead {
  /** Programs that stand earlier than in the song. */
  moved = 0;
  private readonly map: TempoMap;
  /** By port and channel: ticks at which notes of the timeline end, rising. */
  private readonly ends = new Map<string, number[]>();

  constructor(
    song: Song,
    private readonly instruments: readonly Instrument[],
  ) {
    this.map = tempoMapOfSong(song);
    for (const { port, messages } of ownTracks(song, instruments, 0, true, () => undefined))
      for (const message of messages) {
        if (port === null || message.kind !== 'message') continue;
        const kind = message.status & 0xf0;
        if (kind !== NOTE_OFF && !(kind === NOTE_ON && message.data2 === 0)) continue;
        const lane = laneOf(port, (message.status & 15) + 1);
        const ticks = this.ends.get(lane);
        if (ticks) ticks.push(message.atTick);
        else this.ends.set(lane, [message.atTick]);
      }
    for (const ticks of this.ends.values()) ticks.sort((a, b) => a - b);
  }

  /** One track of a port with its programs ahead, each with its bank. */
  of(track: OwnTrack): OwnTrack {
    const { port } = track;
    if (port === null) return track;
    let sinceTick = -1;
    let bank: WriteMessage[] = [];
    const ticks = new Map<WriteMessage, number>();
    for (const message of track.messages) {
      if (isBank(message)) bank.push(message);
      if (message.kind !== 'message' || (message.status & 0xf0) !== PROGRAM) continue;
      const atTick = this.tickOf(port, (message.status & 15) + 1, message.atTick, bank.length * 3 + 2, sinceTick);
      if (atTick < message.atTick) this.moved++;
      for (const one of [...bank, message]) ticks.set(one, Math.min(one.atTick, atTick));
      sinceTick = atTick;
      bank = [];
    }
    const messages = track.messages.map((message) => ({ ...message, atTick: ticks.get(message) ?? message.atTick }));
    return { ...track, messages: messages.sort((a, b) => a.atTick - b.atTick) };
  }

  private tickOf(port: string, channel: number, atTick: number, bytes: number, sinceTick: number): number {
    const there = this.instruments.flatMap((one) => (one.kind === 'outboard' && one.port === port ? [one] : []));
    const instrument = there.find((one) => one.channel === channel) ?? there[0];
    if (instrument === undefined) return atTick;
    const { map } = this;
    const startMs = map.msAt(atTick) - (bytes * BYTE_MS + instrument.switchMs + MARGIN_MS);
    const early = Math.max(0, Math.floor(map.tickAt(Math.max(0, startMs)) + 1e-6));
    const ended = this.ends.get(laneOf(port, channel))?.findLast((tick) => tick <= atTick) ?? 0;
    return Math.min(atTick, Math.max(early, ended, sinceTick + 1));
  }
}
