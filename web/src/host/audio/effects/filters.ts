import { MIDDLE_Q, filterQ, shelvesHz, type Effect } from '@rackle/core/show';
import { goOver } from '../goOver';
import { KnownParam } from '../knownParam';
import { NO_TAIL, ofKind, type EffectCore, type EffectSurroundings } from './effectCore';

const GONE_MS = 300;

/** A biquad with parameters that know where they stand. */
function band(
  context: BaseAudioContext,
  type: BiquadFilterType,
  hz: number,
  q?: number,
): { node: BiquadFilterNode; hz: KnownParam; gain: KnownParam; q: KnownParam } {
  const node = context.createBiquadFilter();
  node.type = type;
  return {
    node,
    hz: new KnownParam(node.frequency, hz),
    gain: new KnownParam(node.gain, 0),
    q: new KnownParam(node.Q, q ?? node.Q.value),
  };
}

/** Low shelf, peak and high shelf in series: at 0 dB each passes everything on as it is. */
export function equaliser(context: BaseAudioContext, first: Extract<Effect, { kind: 'equaliser' }>): EffectCore {
  const low = band(context, 'lowshelf', 300);
  const middle = band(context, 'peaking', first.middleHz, MIDDLE_Q);
  const high = band(context, 'highshelf', 3000);
  low.node.connect(middle.node).connect(high.node);
  return {
    input: low.node,
    output: high.node,
    tailS: NO_TAIL,
    set: ofKind('equaliser', ({ lowDb, middleDb, middleHz, highDb }, _bpm, rampS) => {
      const now = context.currentTime;
      const shelves = shelvesHz(middleHz);
      low.gain.go(lowDb, rampS, now);
      middle.gain.go(middleDb, rampS, now);
      high.gain.go(highDb, rampS, now);
      low.hz.go(shelves.low, rampS, now, true);
      middle.hz.go(middleHz, rampS, now, true);
      high.hz.go(shelves.high, rampS, now, true);
    }),
    dispose() {
      for (const { node } of [low, middle, high]) node.disconnect();
    },
  };
}

type FilterEffect = Extract<Effect, { kind: 'filter' }>;

/** Two biquads of one type in series: 24 dB an octave. */
function slope(context: BaseAudioContext, { type, hz, resonance }: FilterEffect, level: number) {
  const bands = [0, 1].map(() => band(context, type, hz, filterQ(resonance)));
  const out = context.createGain();
  bands[0].node.connect(bands[1].node).connect(out);
  return { bands, type, out, level: new KnownParam(out.gain, level) };
}

/** A filter; of another type it is another one, to which the sound goes over. */
export function filter({ context, after }: EffectSurroundings, first: FilterEffect): EffectCore {
  const input = context.createGain();
  const output = context.createGain();
  const enter = (effect: FilterEffect, level: number): ReturnType<typeof slope> => {
    const made = slope(context, effect, level);
    input.connect(made.bands[0].node);
    made.out.connect(output);
    return made;
  };
  const letGo = ({ bands, out }: ReturnType<typeof slope>): void => {
    input.disconnect(bands[0].node);
    for (const { node } of bands) node.disconnect();
    out.disconnect();
  };
  let now = enter(first, 1);
  return {
    input,
    output,
    tailS: NO_TAIL,
    set: ofKind('filter', (effect, _bpm, rampS) => {
      const { currentTime } = context;
      if (effect.type !== now.type) {
        const old = now;
        after(GONE_MS, () => letGo(old));
        now = enter(effect, 0);
        return goOver(context, old.level, now.level);
      }
      for (const { hz, q } of now.bands) {
        hz.go(effect.hz, rampS, currentTime, true);
        q.go(filterQ(effect.resonance), rampS, currentTime);
      }
    }),
    dispose() {
      for (const node of [input, output, now.out, ...now.bands.map(({ node: each }) => each)]) node.disconnect();
    },
  };
}
