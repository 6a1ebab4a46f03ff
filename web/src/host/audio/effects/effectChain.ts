import type { Effect } from '@rackle/core/show';
import type { EffectSurroundings } from './effectCore';
import { allOf } from '../allOf';
import { closedGate } from '../gate';
import { CROSS_S, goOver } from '../goOver';
import { KnownParam } from '../knownParam';
import { makeEffectUnit, type EffectUnit } from './effectUnit';

/** What is cut is gone before its gate opens again. */
const CUT_S = 0.02;
const GONE_MS = 250;

interface Series {
  units: EffectUnit[];
  effects: readonly Effect[];
  start: GainNode;
  /** Fades the series out as a whole. */
  end: GainNode;
  level: KnownParam;
}

const isSameSeries = (a: readonly Effect[], b: readonly Effect[]): boolean =>
  a.length === b.length && a.every((effect, i) => effect.kind === b[i].kind && effect.id === b[i].id);

/**
 * Effects in series between two nodes that stay. Another setting of the same effects is taken up in place; other
 * effects, or another order, are a new series that fades in while the old one fades out, so that nothing is cut and
 * nothing clicks. Oscillators and loops of the effects run only while it is awake.
 */
export class EffectChain {
  readonly input: GainNode;
  readonly output: GainNode;
  private series: Series | null = null;
  /** Without effects the input leads straight to the output. */
  private readonly straight: GainNode;
  private readonly straightLevel: KnownParam;
  private bpm = 120;
  private awake = false;

  constructor(private readonly around: EffectSurroundings) {
    const { context } = around;
    this.input = context.createGain();
    this.output = context.createGain();
    // Always both sides: a way whose channels become more while it sounds is heard to do so.
    for (const node of [this.input, this.output]) {
      node.channelCount = 2;
      node.channelCountMode = 'explicit';
    }
    this.straight = context.createGain();
    this.straightLevel = new KnownParam(this.straight.gain, 1);
    this.input.connect(this.straight).connect(this.output);
  }

  /** @param rampS settings of the same effects glide there in this time. */
  set(effects: readonly Effect[], bpm = this.bpm, rampS = 0): void {
    allOf(this.steps(effects, bpm, rampS));
  }

  /** The same in small steps, for what is made ahead of need: an effect at a time. */
  *steps(effects: readonly Effect[], bpm = this.bpm, rampS = 0): Generator<void> {
    this.bpm = bpm;
    const { series } = this;
    if (series !== null && isSameSeries(effects, series.effects)) {
      if (effects !== series.effects)
        effects.forEach((effect, i) => {
          if (effect !== series.effects[i]) series.units[i].set(effect, bpm, rampS);
        });
      series.effects = effects;
      return;
    }
    if (series === null && effects.length === 0) return;
    const units: EffectUnit[] = [];
    try {
      for (const effect of effects) {
        const unit = makeEffectUnit(this.around, effect, bpm);
        units.push(unit);
        yield;
      }
    } catch (cause) {
      for (const unit of units) unit.dispose();
      throw cause;
    }
    // Whoever was quicker meanwhile has the last word.
    if (this.series !== series) {
      for (const unit of units) unit.dispose();
      return;
    }
    this.leave();
    if (units.length > 0) this.enter(units, effects);
  }

  setTempo(bpm: number): void {
    this.bpm = bpm;
    this.series?.units.forEach((unit, i) => unit.set(this.series!.effects[i], bpm));
  }

  /** What still rings in its delays and rooms is gone: the same effects anew, and empty. */
  cut(): void {
    const { series } = this;
    if (series === null || this.tailS === 0) return;
    const units = series.effects.map((effect) => makeEffectUnit(this.around, effect, this.bpm));
    this.leave(CUT_S);
    this.enter(units, series.effects, true);
  }

  /** Something begins to sound through it. */
  wake(): void {
    if (this.awake) return;
    this.awake = true;
    for (const unit of this.series?.units ?? []) unit.wake?.();
  }

  /** Nothing sounds in it any more. */
  rest(): void {
    if (!this.awake) return;
    this.awake = false;
    for (const unit of this.series?.units ?? []) unit.rest?.();
  }

  /** For how long it sounds on when nothing more comes, in seconds. */
  get tailS(): number {
    return (this.series?.units ?? []).reduce((sum, unit) => sum + unit.tailS(), 0);
  }

  /** @param afterCut what still dies away must not ring on in them. */
  private enter(units: EffectUnit[], effects: readonly Effect[], afterCut = false): void {
    const { context } = this.around;
    const end = context.createGain();
    const start = afterCut ? closedGate(context) : context.createGain();
    this.input.connect(start);
    units
      .reduce<AudioNode>((before, unit) => {
        before.connect(unit.input);
        return unit.output;
      }, start)
      .connect(end)
      .connect(this.output);
    if (this.awake) for (const unit of units) unit.wake?.();
    // The way in opens, not the way out: nothing behind it begins all of a sudden. Where nothing sounds it is simply there.
    if (afterCut) this.straightLevel.go(0, CUT_S, context.currentTime);
    else goOver(context, this.straightLevel, new KnownParam(start.gain, 0), this.awake ? CROSS_S : 0);
    this.series = { units, effects, start, end, level: new KnownParam(end.gain, 1) };
  }

  private leave(crossS = CROSS_S): void {
    const { series } = this;
    if (series === null) return;
    this.series = null;
    const { context, after } = this.around;
    goOver(context, series.level, this.straightLevel, crossS);
    after(GONE_MS, () => dispose(series, this.input));
  }

  dispose(): void {
    if (this.series) dispose(this.series, this.input);
    this.series = null;
    this.straight.disconnect();
    this.input.disconnect();
    this.output.disconnect();
  }
}

function dispose({ units, start, end }: Series, input: AudioNode): void {
  end.disconnect();
  start.disconnect();
  try {
    input.disconnect(start);
  } catch {
    // The whole chain has been let go of already.
  }
  for (const unit of units) unit.dispose();
}
