import { msAtTick, type Setlist, type Song } from '@rackle/core';
import type { SimulatedInput } from './simulatedInput';

interface Call {
  atMs: number;
  msb: number;
  lsb: number;
  program: number;
}

/** A track player elsewhere: it plays a song of the setlist by its own clock, and sends the song's program changes at their bars. */
export class PilotCutter {
  song: Song | null = null;
  entryId: string | null = null;
  playing = false;
  startedMs = 0;
  private calls: Call[] = [];
  private cancel: (() => void) | null = null;

  constructor(private readonly port: SimulatedInput, private readonly nowMs: () => number, private readonly after: (delayMs: number, act: () => void) => () => void) {}

  choose(entryId: string, song: Song, setlist: Setlist): void {
    this.stop();
    this.entryId = entryId;
    this.song = song;
    const found = song.cues.flatMap((cue): Call[] => {
      const line = setlist.programs.find(({ target }) => target.songId === song.id && target.patchId === cue.patchId && target.blendId === cue.blendId);
      return line ? [{ atMs: msAtTick(cue.atTick, song.tempoBpm), msb: line.msb, lsb: line.lsb, program: line.program }] : [];
    });
    // A song without cues is called up by its first patch.
    const first = setlist.programs.find(({ target }) => target.songId === song.id);
    this.calls = found.length > 0 || !first ? found.sort((a, b) => a.atMs - b.atMs) : [{ atMs: 0, msb: first.msb, lsb: first.lsb, program: first.program }];
  }

  play(): void {
    if (this.song === null || this.playing) return;
    this.playing = true;
    this.startedMs = this.nowMs();
    this.next(0);
  }

  stop(): void {
    this.playing = false;
    this.cancel?.();
    this.cancel = null;
  }

  private next(i: number): void {
    if (!this.playing) return;
    const call = this.calls[i];
    if (!call) return;
    this.cancel = this.after(this.startedMs + call.atMs - this.nowMs(), () => {
      this.port.emit(0xb0, 0, call.msb);
      this.port.emit(0xb0, 32, call.lsb);
      this.port.emit(0xc0, call.program, 0);
      this.next(i + 1);
    });
  }
}
