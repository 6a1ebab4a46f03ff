import type { SimulatedInput } from './simulatedInput';

const CHANNEL = 9;
const HEADS = [36, 38, 41, 45];
const RIMS = [37, 40, 43, 47];
const LENGTH_MS = 60;

/**
 * Four drum pads, each with a head and a rim. A hit sends its own note-off a moment later, however long the stick
 * stays.
 */
export class Keg4 {
  lastHit: string | null = null;

  constructor(
    private readonly port: SimulatedInput,
    private readonly after: (delayMs: number, act: () => void) => () => void,
  ) {}

  hit(pad: number, zone: 'head' | 'rim', velocity: number): void {
    const key = (zone === 'head' ? HEADS : RIMS)[pad];
    if (key === undefined) return;
    this.lastHit = `${pad} ${zone}`;
    this.port.emit(0x90 | CHANNEL, key, velocity);
    this.after(LENGTH_MS, () => this.port.emit(0x80 | CHANNEL, key, 0));
  }
}
