import { msAtTick, tickAtMs } from '../timeline';
import type { CompiledEntry } from './compiled';
import type { Rig } from './rig';

/**
 * Runs through the cues of the present song. Where the playhead is follows from when and where it was started, never from adding steps up.
 */
export class Playhead {
  playing = false;
  private entry: CompiledEntry | null = null;
  private startMs = 0;
  private startTick = 0;
  private nextCue = 0;

  constructor(private readonly rig: Rig, private readonly recallAt: (position: number, cause: 'cue') => void) {}

  /** When the next cue, or the end of the song, falls due; `Infinity` when it stands. @hotpath */
  get nextMs(): number {
    if (!this.playing || this.entry === null) return Infinity;
    return this.msOf(this.nextCue < this.entry.cueTicks.length ? Math.min(this.entry.cueTicks[this.nextCue], this.entry.endTick) : this.entry.endTick);
  }

  private msOf(tick: number): number {
    const { tempoBpm } = this.entry!;
    return this.startMs + msAtTick(tick, tempoBpm) - msAtTick(this.startTick, tempoBpm);
  }

  tickAt(atMs: number): number {
    if (!this.playing || this.entry === null) return this.startTick;
    const { tempoBpm } = this.entry;
    // Rounded up by a thousandth of a tick, so that the very moment of a cue reads as its tick.
    return Math.floor(tickAtMs(atMs - this.startMs + msAtTick(this.startTick, tempoBpm), tempoBpm) + 0.001);
  }

  play(): void {
    const { rig } = this;
    if (this.playing || rig.step === null || rig.show === null) return;
    this.entry = rig.show.entries[rig.entry] ?? null;
    if (this.entry === null) return;
    if (this.startTick >= this.entry.endTick) this.startTick = 0;
    this.playing = true;
    this.startMs = rig.nowMs;
    this.chase();
    rig.record({ type: 'timeline', atMs: rig.nowMs, state: 'play', tick: this.startTick });
  }

  stop(): void {
    if (!this.playing) return;
    this.startTick = this.tickAt(this.rig.nowMs);
    this.playing = false;
    this.rig.record({ type: 'timeline', atMs: this.rig.nowMs, state: 'stop', tick: this.startTick });
  }

  /** Goes to a tick; while playing, what belongs there is recalled. */
  locate(tick: number): void {
    this.startTick = Math.max(0, tick);
    this.startMs = this.rig.nowMs;
    if (this.playing) this.chase();
    this.rig.record({ type: 'timeline', atMs: this.rig.nowMs, state: 'locate', tick: this.startTick });
  }

  /** The last recall at or before the start applies; cues after it are still to come. */
  private chase(): void {
    const { cueTicks, cuePositions } = this.entry!;
    this.nextCue = 0;
    while (this.nextCue < cueTicks.length && cueTicks[this.nextCue] <= this.startTick) this.nextCue++;
    if (this.nextCue > 0) this.recall(cuePositions[this.nextCue - 1]);
  }

  private recall(position: number): void {
    if (this.rig.step?.position !== position) this.recallAt(position, 'cue');
  }

  /** Does the one thing that is due next. */
  run(): void {
    const entry = this.entry!;
    if (this.nextCue < entry.cueTicks.length && entry.cueTicks[this.nextCue] <= entry.endTick) this.recall(entry.cuePositions[this.nextCue++]);
    else {
      this.stop();
      this.startTick = 0;
    }
  }

  /** Another song has been recalled, by whatever hand: this one's timeline ends and stands at the start. */
  songChanged(): void {
    this.stop();
    this.startTick = 0;
    this.entry = null;
  }

  /** After a recompile: the same place in the song's new cues. */
  replace(): void {
    const { rig } = this;
    if (!this.playing || rig.step === null || rig.show === null) return;
    const entry = rig.show.entries.find((candidate) => candidate.entryId === rig.step!.entryId);
    if (!entry) return this.songChanged();
    if (entry.tempoBpm !== this.entry!.tempoBpm) {
      this.startTick = tickAtMs(rig.nowMs - this.startMs + msAtTick(this.startTick, this.entry!.tempoBpm), this.entry!.tempoBpm);
      this.startMs = rig.nowMs;
    }
    this.entry = entry;
    this.nextCue = 0;
    // What is due by now has been done.
    while (this.nextCue < entry.cueTicks.length && this.msOf(entry.cueTicks[this.nextCue]) <= rig.nowMs) this.nextCue++;
  }
}
