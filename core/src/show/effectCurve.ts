import type { Effect } from './model/effect';
import { MIDDLE_Q, compressedDb, driveGains, filterQ, shelvesHz } from './model/effectSound';

/** What an effect does, as a line: gain over frequency, or level out over level in. Both axes 0–1, from low to high. */
export interface EffectCurve {
  kind: 'response' | 'transfer';
  points: readonly (readonly [x: number, y: number])[];
}

const POINTS = 64;
const LOW_HZ = 20;
const HIGH_HZ = 20_000;
/** A response is drawn from −24 to +24 dB, a transfer from −60 to 0 dB. */
const RESPONSE_DB = 24;
const TRANSFER_DB = 60;
const SAMPLE_RATE = 48_000;

interface Biquad {
  b: readonly [number, number, number];
  a: readonly [number, number, number];
}

/** Magnitude of a biquad at a frequency, in dB. */
function gainDb({ b, a }: Biquad, hz: number): number {
  const w = (2 * Math.PI * hz) / SAMPLE_RATE;
  const size = ([c0, c1, c2]: readonly [number, number, number]): number =>
    Math.hypot(c0 + c1 * Math.cos(w) + c2 * Math.cos(2 * w), c1 * Math.sin(w) + c2 * Math.sin(2 * w));
  return 20 * Math.log10(Math.max(1e-9, size(b) / size(a)));
}

// Coefficients as the Web Audio API defines its filters.

function shelf(hz: number, db: number, side: 1 | -1): Biquad {
  const A = 10 ** (db / 40);
  const w = (2 * Math.PI * hz) / SAMPLE_RATE;
  const [cos, root] = [side * Math.cos(w), Math.sin(w) * Math.SQRT2 * Math.sqrt(A)];
  return {
    b: [A * (A + 1 - (A - 1) * cos + root), side * 2 * A * (A - 1 - (A + 1) * cos), A * (A + 1 - (A - 1) * cos - root)],
    a: [A + 1 + (A - 1) * cos + root, side * -2 * (A - 1 + (A + 1) * cos), A + 1 + (A - 1) * cos - root],
  };
}

function peak(hz: number, db: number, q: number): Biquad {
  const A = 10 ** (db / 40);
  const w = (2 * Math.PI * hz) / SAMPLE_RATE;
  const alpha = Math.sin(w) / (2 * q);
  return {
    b: [1 + alpha * A, -2 * Math.cos(w), 1 - alpha * A],
    a: [1 + alpha / A, -2 * Math.cos(w), 1 - alpha / A],
  };
}

function pass(type: 'lowpass' | 'highpass' | 'bandpass', hz: number, q: number): Biquad {
  const w = (2 * Math.PI * Math.min(hz, SAMPLE_RATE / 2 - 1)) / SAMPLE_RATE;
  const cos = Math.cos(w);
  // Of low and high passes Q is in dB.
  const alpha = Math.sin(w) / (2 * (type === 'bandpass' ? q : 10 ** (q / 20)));
  const a = [1 + alpha, -2 * cos, 1 - alpha] as const;
  if (type === 'bandpass') return { b: [alpha, 0, -alpha], a };
  const side = type === 'lowpass' ? 1 : -1;
  return { b: [(1 - side * cos) / 2, side * (1 - side * cos), (1 - side * cos) / 2], a };
}

function response(filters: readonly Biquad[]): EffectCurve {
  return {
    kind: 'response',
    points: Array.from({ length: POINTS }, (_, i) => {
      const x = i / (POINTS - 1);
      const db = filters.reduce((sum, filter) => sum + gainDb(filter, LOW_HZ * (HIGH_HZ / LOW_HZ) ** x), 0);
      return [x, within((db + RESPONSE_DB) / (2 * RESPONSE_DB))] as const;
    }),
  };
}

/** Level out, in dB, over level in. */
function transfer(outDb: (inDb: number) => number): EffectCurve {
  return {
    kind: 'transfer',
    points: Array.from({ length: POINTS }, (_, i) => {
      const x = i / (POINTS - 1);
      return [x, within((outDb((x - 1) * TRANSFER_DB) + TRANSFER_DB) / TRANSFER_DB)] as const;
    }),
  };
}

const within = (share: number): number => Math.min(1, Math.max(0, share));

/** The line of an effect that has one; null: what it does is a matter of time, not of level or frequency. */
export function effectCurve(effect: Effect): EffectCurve | null {
  switch (effect.kind) {
    case 'equaliser': {
      const { lowDb, middleDb, middleHz, highDb } = effect;
      const { low, high } = shelvesHz(middleHz);
      return response([shelf(low, lowDb, 1), peak(middleHz, middleDb, MIDDLE_Q), shelf(high, highDb, -1)]);
    }
    case 'filter': {
      const one = pass(effect.type, effect.hz, filterQ(effect.resonance));
      return response([one, one]);
    }
    case 'drive': {
      const { into, out } = driveGains(effect.amount);
      return transfer((inDb) => {
        const level = 10 ** (inDb / 20);
        const driven = Math.tanh(into * level) * out;
        const mixed = level + (driven - level) * (effect.mix / 100);
        return 20 * Math.log10(Math.max(1e-6, mixed));
      });
    }
    case 'compressor':
      return transfer((inDb) => compressedDb(inDb, effect.thresholdDb, effect.ratio) + effect.makeUpDb);
    case 'limiter':
      return transfer((inDb) => Math.min(inDb, effect.ceilingDb));
    default:
      return null;
  }
}
