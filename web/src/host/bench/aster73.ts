import type { SimulatedInput } from './simulatedInput';

/** Its lowest key. */
export const ASTER_LOWEST = 28;
/** Its highest key. */
export const ASTER_HIGHEST = 100;

/**
 * A stage piano of 73 keys (E to E) with wheel, modulation and a sustain pedal. It has two ports and sends everything
 * by both,
 * by the second a moment later.
 */
export class Aster73 {
  sustain = false;
  wheel = 0;
  modulation = 0;

  constructor(
    private readonly first: SimulatedInput,
    private readonly second: SimulatedInput,
  ) {}

  private emit(status: number, data1: number, data2: number): void {
    this.first.emit(status, data1, data2);
    this.second.emit(status, data1, data2);
  }

  key(key: number, velocity: number): void {
    if (key < ASTER_LOWEST || key > ASTER_HIGHEST) return;
    if (velocity > 0) this.emit(0x90, key, velocity);
    else this.emit(0x80, key, 64);
  }

  /** −1 to 1. */
  bend(value: number): void {
    this.wheel = value;
    const raw = Math.max(0, Math.min(16383, Math.round(8192 + value * 8192)));
    this.emit(0xe0, raw & 127, raw >> 7);
  }

  control(controller: number, value: number): void {
    if (controller === 64) this.sustain = value >= 64;
    if (controller === 1) this.modulation = value;
    this.emit(0xb0, controller, value);
  }
}
