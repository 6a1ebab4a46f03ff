import { goOver } from './goOver';
import { KnownParam } from './knownParam';

const OPEN_HZ = 20_000;
const DULL_HZ = 220;
const BRIGHTEST_DB = 10;
const SHELF_HZ = 2800;
const MOST_RESONANCE_DB = 12;
const SMOOTH_S = 0.03;

interface Filters {
  through: GainNode;
  cutoff: BiquadFilterNode;
  shelf: BiquadFilterNode;
  hz: KnownParam;
  resonanceDb: KnownParam;
  shelfDb: KnownParam;
}

/**
 * Brightness and resonance by the sound controllers of MIDI. Its filters are made when one is first moved; the sound goes
 * over to them, from one way to the other.
 */
export class Brightness {
  readonly input: GainNode;
  private readonly straight: GainNode;
  private readonly straightLevel: KnownParam;
  private filters: Filters | null = null;

  constructor(
    private readonly context: BaseAudioContext,
    private readonly to: AudioNode,
  ) {
    this.input = context.createGain();
    this.straight = context.createGain();
    this.straightLevel = new KnownParam(this.straight.gain, 1);
    this.input.connect(this.straight).connect(to);
  }

  private made(): Filters {
    if (this.filters !== null) return this.filters;
    const { context } = this;
    const cutoff = context.createBiquadFilter();
    cutoff.type = 'lowpass';
    const shelf = context.createBiquadFilter();
    shelf.type = 'highshelf';
    shelf.frequency.value = SHELF_HZ;
    const through = context.createGain();
    const level = new KnownParam(through.gain, 0);
    this.input.connect(cutoff).connect(shelf).connect(through).connect(this.to);
    goOver(context, this.straightLevel, level);
    return (this.filters = {
      through,
      cutoff,
      shelf,
      hz: new KnownParam(cutoff.frequency, OPEN_HZ),
      resonanceDb: new KnownParam(cutoff.Q, 0),
      shelfDb: new KnownParam(shelf.gain, 0),
    });
  }

  /** @param away −1 dull, 0 as it is, 1 bright */
  bright(away: number): void {
    const { hz, shelfDb } = this.made();
    const now = this.context.currentTime;
    hz.go(away >= 0 ? OPEN_HZ : DULL_HZ * (OPEN_HZ / DULL_HZ) ** (1 + away), SMOOTH_S, now, true);
    shelfDb.go(Math.max(0, away) * BRIGHTEST_DB, SMOOTH_S, now);
  }

  /** @param away 0 none, 1 most */
  resonance(away: number): void {
    this.made().resonanceDb.go(Math.max(0, away) * MOST_RESONANCE_DB, SMOOTH_S, this.context.currentTime);
  }

  disconnect(): void {
    const { cutoff, shelf, through } = this.filters ?? {};
    for (const node of [this.input, this.straight, cutoff, shelf, through]) node?.disconnect();
  }
}
