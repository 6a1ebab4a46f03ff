import type { Effect } from '@rackle/core/show';
import type { After } from '../../timer';

/** What effects are made in. */
export interface EffectSurroundings {
  context: BaseAudioContext;
  /** The host's clock: the only one that is kept on time in the background. */
  after: After;
}

/** The working part of an effect, all wet. */
export interface EffectCore {
  readonly input: AudioNode;
  readonly output: AudioNode;
  /** Takes the settings of its own kind; what can glide is there within `rampS` (0: at once). */
  set(effect: Effect, bpm: number, rampS: number): void;
  /** Something begins to sound through it: oscillators and loops are started. */
  wake?(): void;
  /** Nothing sounds in it any more: they end. */
  rest?(): void;
  /** For how long it sounds on when nothing more comes, in seconds. */
  tailS(): number;
  dispose(): void;
}

type Of<K extends Effect['kind']> = Extract<Effect, { kind: K }>;

/** Narrows an effect to its kind; another kind is left alone. */
export const ofKind =
  <K extends Effect['kind']>(kind: K, apply: (effect: Of<K>, bpm: number, rampS: number) => void) =>
  (effect: Effect, bpm: number, rampS: number): void => {
    if (effect.kind === kind) apply(effect as Of<K>, bpm, rampS);
  };

/** Of effects that end with what comes in. */
export const NO_TAIL = (): number => 0;

/** How far something swings changes slowly: it bends the pitch on its way. */
export const swingS = (rampS: number): number => (rampS === 0 ? 0 : Math.max(0.15, rampS));
