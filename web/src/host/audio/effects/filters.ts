import { MIDDLE_Q, filterQ, shelvesHz, type Effect } from '@rackle/core/show';
import { KnownParam } from '../knownParam';
import { NO_TAIL, ofKind, type EffectCore } from './effectCore';

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

/** Two biquads of one type in series: 24 dB an octave. */
export function filter(context: BaseAudioContext, first: Extract<Effect, { kind: 'filter' }>): EffectCore {
  const bands = [band(context, first.type, first.hz), band(context, first.type, first.hz)];
  bands[0].node.connect(bands[1].node);
  return {
    input: bands[0].node,
    output: bands[1].node,
    tailS: NO_TAIL,
    set: ofKind('filter', ({ type, hz, resonance }, _bpm, rampS) => {
      const now = context.currentTime;
      for (const each of bands) {
        if (each.node.type !== type) each.node.type = type;
        each.hz.go(hz, rampS, now, true);
        each.q.go(filterQ(resonance), rampS, now);
      }
    }),
    dispose() {
      for (const { node } of bands) node.disconnect();
    },
  };
}
