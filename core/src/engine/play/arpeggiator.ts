import type { BeatClock, BeatGrid } from './beatGrid';
import type { CompiledArpeggio } from '../compile/compiled';
import { extended } from '../state/extended';
import { HoldState } from '../state/heldNotes';
import type { NoteRouter } from './noteRouter';
import { Due, type EngineState } from '../state/engineState';

const MOST_KEYS = 64;
/**
 * Plays what is held for it, key after key, in time. A layer's run begins with its first key, on the grid of the
 * timeline when that
 * plays, and ends when none is held; each of its notes ends by itself, so that a recall cuts none and none is left
 * over.
 */
export class Arpeggiator {
  private readonly settings: (CompiledArpeggio | null)[] = [];
  /** By layer: whether it runs, the notes it has played, and a serial that tells its runs apart. */
  private running = new Uint8Array(0);
  private played = new Int32Array(0);
  private serials = new Int32Array(0);
  // The keys held for one layer, in the order in which they are played.
  private readonly keys = new Uint8Array(MOST_KEYS);
  private readonly velocities = new Uint8Array(MOST_KEYS);
  private readonly lanes = new Int32Array(MOST_KEYS);
  private readonly pressedMs = new Float64Array(MOST_KEYS);
  private count = 0;

  constructor(
    private readonly state: EngineState,
    private readonly notes: NoteRouter,
    private readonly clock: BeatClock,
    private readonly grid: BeatGrid,
  ) {}

  /** Makes room for what a compile has added. Not on the playing path. */
  grow(layers: number): void {
    if (layers <= this.running.length) return;
    const size = Math.max(layers, this.running.length * 2, 64);
    this.running = extended(this.running, size);
    this.played = extended(this.played, size);
    this.serials = extended(this.serials, size);
  }

  /** A key is held for a layer. @hotpath */
  start(layer: number, arpeggio: CompiledArpeggio): void {
    this.settings[layer] = arpeggio;
    if (this.running[layer] === 1) return;
    this.running[layer] = 1;
    this.played[layer] = 0;
    this.serials[layer]++;
    this.due(
      layer,
      this.state.nowMs + (this.clock.playing ? this.grid.untilMs(arpeggio.quarters, this.state.nowMs) : 0),
    );
  }

  private due(layer: number, atMs: number): void {
    if (!this.state.schedule.add(atMs, Due.arpeggio, layer, this.serials[layer])) this.running[layer] = 0;
  }

  /** The next note of a layer's run has fallen due. @hotpath */
  run(layer: number, serial: number): void {
    const settings = this.settings[layer];
    if (this.running[layer] === 0 || this.serials[layer] !== serial || !settings) return;
    this.collect(layer);
    if (this.count === 0) {
      this.running[layer] = 0;
      return;
    }
    this.sort(settings.order === 'asPlayed');
    const stepMs = settings.quarters * this.grid.quarterMs;
    const length = this.count * settings.octaves;
    const at = this.placeOf(this.played[layer]++, length, settings.order);
    const key = this.keys[at % this.count] + 12 * Math.floor(at / this.count);
    if (key <= 127)
      this.notes.soundFor(
        layer,
        this.lanes[at % this.count],
        key,
        this.velocities[at % this.count],
        stepMs * settings.gate,
      );
    this.due(layer, this.state.nowMs + stepMs);
  }

  /** Place in the held keys (octave after octave) of the n-th note. */
  private placeOf(n: number, length: number, order: CompiledArpeggio['order']): number {
    if (order === 'down') return length - 1 - (n % length);
    if (order !== 'upDown' || length < 3) return n % length;
    const round = 2 * length - 2;
    const at = n % round;
    return at < length ? at : round - at;
  }

  private collect(layer: number): void {
    const { holds } = this.state;
    this.count = 0;
    for (let i = 0; i < holds.activeCount && this.count < MOST_KEYS; i++) {
      const hold = holds.active[i];
      if (holds.layer(hold) !== layer || holds.state(hold) !== HoldState.arpeggiated) continue;
      this.keys[this.count] = holds.key(hold);
      this.velocities[this.count] = holds.velocity(hold);
      this.lanes[this.count] = holds.lane(hold);
      this.pressedMs[this.count++] = holds.pressedAtMs[hold];
    }
  }

  /** By key, or by when they were struck; equal ones by key. */
  private sort(asPlayed: boolean): void {
    for (let i = 1; i < this.count; i++) {
      for (let j = i; j > 0 && this.isBefore(j, j - 1, asPlayed); j--) this.swap(j, j - 1);
    }
  }

  private isBefore(a: number, b: number, asPlayed: boolean): boolean {
    if (asPlayed && this.pressedMs[a] !== this.pressedMs[b]) return this.pressedMs[a] < this.pressedMs[b];
    return this.keys[a] < this.keys[b];
  }

  private swap(a: number, b: number): void {
    const { keys, velocities, lanes, pressedMs } = this;
    const key = keys[a];
    const velocity = velocities[a];
    const lane = lanes[a];
    const pressed = pressedMs[a];
    keys[a] = keys[b];
    velocities[a] = velocities[b];
    lanes[a] = lanes[b];
    pressedMs[a] = pressedMs[b];
    keys[b] = key;
    velocities[b] = velocity;
    lanes[b] = lane;
    pressedMs[b] = pressed;
  }
}
