import type { MaterialEffect } from './materials/material';

/** One oscillator of a voice. */
export interface OscillatorRecipe {
  wave: 'sine' | 'triangle' | 'square' | 'sawtooth' | readonly number[];
  /** Of the note's frequency. */
  ratio: number;
  gain: number;
  detuneCents?: number;
  /**
   * Frequency modulation by a sine: its frequency in ratios of the note, its depth in multiples of that, falling to
   * `sustain` of it.
   */
  fm?: { ratio: number; index: number; decayS: number; sustain: number };
  /** Its own fall to nothing at key 60, for partials that die sooner than the rest. */
  decayS?: number;
}

/**
 * How a preset sounds. Times in seconds, frequencies in Hz, levels linear unless named dB. Decays are those of key 60: low
 * keys ring longer, high ones shorter.
 */
export interface Recipe {
  oscillators: readonly OscillatorRecipe[];
  envelope: { attackS: number; decayS: number; sustain: number; releaseS: number };
  filter?: {
    type: BiquadFilterType;
    hz: number;
    keyTrack?: number;
    velocityHz?: number;
    sweepHz?: number;
    sweepS?: number;
    q?: number;
  };
  noise?: { gain: number; decayS: number; hz: number; q?: number; sustain?: number };
  vibrato?: { hz: number; cents: number };
  tremolo?: { hz: number; depth: number };
  /** Glide down to the note from a ratio above it: drums and horns. */
  drop?: { from: number; s: number };
  gainDb: number;
  /** How much velocity counts, 0–1. */
  touch?: number;
  /** Semitones. */
  transpose?: number;
  /** So that it is in tune, whatever its oscillators are apart by. */
  tuneCents?: number;
  /** Effects that it goes through before those of the layer. */
  effects?: readonly MaterialEffect[];
  /** Drums: the hits that keys pick, in the order of `recipes/kit`. */
  kit?: readonly Recipe[];
}
