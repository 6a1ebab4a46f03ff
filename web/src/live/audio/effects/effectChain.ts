import type { Effect } from '@rackle/core';
import { makeEffectUnit, type EffectUnit } from './effectUnit';

const CROSS_S = 0.015;
const GONE_MS = 250;

interface Series {
  units: EffectUnit[];
  effects: readonly Effect[];
  /** Fades the series in and out as a whole. */
  end: GainNode;
}

/**
 * Effects in series between two nodes that stay. Another setting of the same effects is taken up in place; other
 * effects, or another
 * order, are a new series that fades in while the old one fades out, so that nothing is cut and nothing clicks.
 */
export class EffectChain {
  readonly input: GainNode;
  readonly output: GainNode;
  private series: Series | null = null;
  /** Without effects the input leads straight to the output. */
  private readonly straight: GainNode;
  private bpm = 120;

  constructor(private readonly context: BaseAudioContext) {
    this.input = context.createGain();
    this.output = context.createGain();
    this.straight = context.createGain();
    this.input.connect(this.straight).connect(this.output);
  }

  /** @param rampS settings of the same effects glide there in this time. */
  set(effects: readonly Effect[], bpm = this.bpm, rampS = 0): void {
    this.bpm = bpm;
    const { series } = this;
    if (
      series !== null &&
      effects.length === series.effects.length &&
      effects.every((effect, i) => effect.kind === series.effects[i].kind && effect.id === series.effects[i].id)
    ) {
      if (effects !== series.effects)
        effects.forEach((effect, i) => {
          if (effect !== series.effects[i]) series.units[i].set(effect, bpm, rampS);
        });
      series.effects = effects;
      return;
    }
    if (series === null && effects.length === 0) return;
    this.leave();
    if (effects.length > 0) this.enter(effects);
  }

  setTempo(bpm: number): void {
    this.bpm = bpm;
    this.series?.units.forEach((unit, i) => unit.set(this.series!.effects[i], bpm));
  }

  private enter(effects: readonly Effect[]): void {
    const units = effects.map((effect) => makeEffectUnit(this.context, effect, this.bpm));
    const end = this.context.createGain();
    end.gain.value = 0;
    units
      .reduce<AudioNode>((before, unit) => {
        before.connect(unit.input);
        return unit.output;
      }, this.input)
      .connect(end)
      .connect(this.output);
    end.gain.setTargetAtTime(1, this.context.currentTime, CROSS_S);
    this.straight.gain.setTargetAtTime(0, this.context.currentTime, CROSS_S);
    this.series = { units, effects, end };
  }

  private leave(): void {
    const { series } = this;
    if (series === null) return;
    this.series = null;
    series.end.gain.setTargetAtTime(0, this.context.currentTime, CROSS_S);
    this.straight.gain.setTargetAtTime(1, this.context.currentTime, CROSS_S);
    setTimeout(() => dispose(series, this.input), GONE_MS);
  }

  dispose(): void {
    if (this.series) dispose(this.series, this.input);
    this.series = null;
    this.input.disconnect();
    this.output.disconnect();
  }
}

function dispose({ units, end }: Series, input: AudioNode): void {
  end.disconnect();
  try {
    input.disconnect(units[0].input);
  } catch {
    // The whole chain has been let go of already.
  }
  for (const unit of units) unit.dispose();
}
