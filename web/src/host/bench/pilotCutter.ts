import type { Setlist, Song } from '@rackle/core/show';
import { placedCues, tempoMapOfSong, TICKS_PER_QUARTER } from '@rackle/core/timeline';
import type { BenchState } from '../../protocol';
import type { SimulatedInput } from './simulatedInput';

interface Call {
  atMs: number;
  msb: number;
  lsb: number;
  program: number;
}

const TICKS_PER_PULSE = TICKS_PER_QUARTER / 24;
const TICKS_PER_SIXTEENTH = 240;

/**
 * A track player elsewhere, with a script of its own: it plays a song of the setlist by its own clock, and (when it is
 * told to) sends the song's program changes at their bars, and MIDI clock with start, stop, continue and song position.
 */
export class PilotCutter {
  song: Song | null = null;
  entryId: string | null = null;
  playing = false;
  sendsClock = true;
  /** Whether it calls for patches; without it only its clock leads. */
  sendsCalls = true;
  private startedMs = 0;
  /** Where it stands or started, in ms of the song. */
  private fromMs = 0;
  private calls: Call[] = [];
  private cancelCall: (() => void) | null = null;
  private cancelPulse: (() => void) | null = null;

  constructor(
    private readonly port: SimulatedInput,
    private readonly nowMs: () => number,
    private readonly after: (delayMs: number, act: () => void) => () => void,
  ) {}

  choose(entryId: string, song: Song, setlist: Setlist): void {
    this.stop();
    this.fromMs = 0;
    this.entryId = entryId;
    this.song = song;
    const map = tempoMapOfSong(song);
    const found = placedCues(song).flatMap(({ cue, atTick }): Call[] => {
      if (cue.kind !== 'recall') return [];
      const line = setlist.programs.find(
        ({ target }) => target.songId === song.id && target.patchId === cue.patchId && target.blendId === cue.blendId,
      );
      return line ? [{ atMs: map.msAt(atTick), msb: line.msb, lsb: line.lsb, program: line.program }] : [];
    });
    // A song without cues is called up by its first patch.
    const first = setlist.programs.find(({ target }) => target.songId === song.id);
    this.calls =
      found.length > 0 || !first
        ? found.sort((a, b) => a.atMs - b.atMs)
        : [{ atMs: 0, msb: first.msb, lsb: first.lsb, program: first.program }];
  }

  /** Where it is in its song, in ms. */
  get atMs(): number {
    return this.playing ? this.fromMs + this.nowMs() - this.startedMs : this.fromMs;
  }

  get position(): { bar: number; beat: number } {
    if (this.song === null) return { bar: 1, beat: 1 };
    const map = tempoMapOfSong(this.song);
    return map.positionAt(Math.floor(map.tickAt(this.atMs)));
  }

  /** As the bench shows it. */
  state(): BenchState['pilot'] {
    const { entryId, playing, sendsClock, sendsCalls } = this;
    const { bar, beat } = this.position;
    return { entryId, playing, bar, beat, sendsClock, sendsCalls };
  }

  play(): void {
    const { song } = this;
    if (song === null || this.playing) return;
    this.playing = true;
    this.startedMs = this.nowMs();
    // The call for the patch goes ahead of the start, as such players are set up.
    const due = this.calls.filter((call) => call.atMs <= this.fromMs);
    if (due.length > 0) this.call(due[due.length - 1]);
    if (this.sendsClock) {
      const sixteenths = Math.floor(tempoMapOfSong(song).tickAt(this.fromMs) / TICKS_PER_SIXTEENTH);
      if (sixteenths > 0) this.port.emit(0xf2, sixteenths & 127, sixteenths >> 7);
      this.port.emit(sixteenths > 0 ? 0xfb : 0xfa, 0, 0);
      this.pulse(0);
    }
    this.nextCall(due.length);
  }

  /** Stops where it is; play goes on from there. */
  stop(): void {
    if (!this.playing) return;
    this.fromMs = this.atMs;
    this.playing = false;
    this.cancelCall?.();
    this.cancelPulse?.();
    if (this.sendsClock) this.port.emit(0xfc, 0, 0);
  }

  toStart(): void {
    const { playing } = this;
    this.stop();
    this.fromMs = 0;
    if (playing) this.play();
  }

  private pulse(number: number): void {
    const { song } = this;
    if (!this.playing || song === null) return;
    const map = tempoMapOfSong(song);
    const atMs = map.msAt(map.tickAt(this.fromMs) + number * TICKS_PER_PULSE) - this.fromMs;
    this.cancelPulse = this.after(this.startedMs + atMs - this.nowMs(), () => {
      if (this.fromMs + atMs >= map.msAt(map.endTick)) {
        this.stop();
        this.fromMs = 0;
        return;
      }
      if (this.sendsClock) this.port.emit(0xf8, 0, 0);
      this.pulse(number + 1);
    });
  }

  private nextCall(i: number): void {
    const call = this.calls[i];
    if (!this.playing || !call) return;
    this.cancelCall = this.after(this.startedMs + call.atMs - this.fromMs - this.nowMs(), () => {
      this.call(call);
      this.nextCall(i + 1);
    });
  }

  private call(call: Call): void {
    if (!this.sendsCalls) return;
    this.port.emit(0xb0, 0, call.msb);
    this.port.emit(0xb0, 32, call.lsb);
    this.port.emit(0xc0, call.program, 0);
  }
}
