/** So many of each wave, with their partials at other places of their circle: notes struck together do not all begin alike. */
const VARIANTS = 5;
const SINE: readonly number[] = [0, 1];
const LOOKED_AT = 512;

/** Numbers from 0 to 1 that look like chance, and are the same every time. */
class Chance {
  constructor(private seed: number) {}

  next(): number {
    this.seed = (Math.imul(this.seed, 1_664_525) + 1_013_904_223) >>> 0;
    return this.seed / 2 ** 32;
  }
}

/** Waves of partials for the oscillators of one context. */
export class Waves {
  private readonly made = new Map<readonly number[], PeriodicWave[]>();
  private readonly turns = new Chance(1);

  constructor(private readonly context: BaseAudioContext) {}

  /** @param partials levels of the multiples of the note from 0 on, as sines; null: a sine alone */
  next(partials: readonly number[] | null): PeriodicWave {
    const wanted = partials ?? SINE;
    const known = this.made.get(wanted) ?? this.make(wanted);
    this.made.set(wanted, known);
    return known[Math.floor(this.turns.next() * VARIANTS)];
  }

  private make(partials: readonly number[]): PeriodicWave[] {
    const chance = new Chance(partials.length);
    const level = 1 / peakOf(partials);
    return Array.from({ length: VARIANTS }, () => {
      const angles = partials.map(() => chance.next() * 2 * Math.PI);
      return this.context.createPeriodicWave(
        Float32Array.from(partials, (size, i) => level * size * Math.sin(angles[i])),
        Float32Array.from(partials, (size, i) => level * size * Math.cos(angles[i])),
        { disableNormalization: true },
      );
    });
  }
}

/** The highest of a wave whose partials all begin at zero. */
function peakOf(partials: readonly number[]): number {
  let most = 1e-6;
  for (let at = 0; at < LOOKED_AT; at++)
    most = Math.max(
      most,
      Math.abs(partials.reduce((sum, size, i) => sum + size * Math.sin((2 * Math.PI * i * at) / LOOKED_AT), 0)),
    );
  return most;
}
