import type { TreadleButton } from './treadle6';

/** What simulated devices keep when they are switched off. */
export interface BenchKept {
  /** Programs written into Treadle 6. */
  buttons: TreadleButton[];
  /** The switch at the back of Clack 2. */
  latching: boolean;
}

/** Where they keep it. */
export interface BenchMemory {
  read: () => BenchKept;
  write: (kept: BenchKept) => void;
}

const NOTHING: BenchKept = { buttons: [], latching: false };
const PLACE = 'rackle.bench';

/** Devices as they come from the factory, each time. */
export const FORGETFUL: BenchMemory = { read: () => NOTHING, write: () => undefined };

/** In this browser; what cannot be read there, or kept, is as from the factory. */
export const browserMemory: BenchMemory = {
  read: () => {
    try {
      const kept = JSON.parse(localStorage.getItem(PLACE) ?? '{}') as { buttons?: unknown; latching?: unknown };
      const { buttons } = kept;
      return {
        buttons: Array.isArray(buttons) && buttons.every(isButton) ? buttons : [],
        latching: kept.latching === true,
      };
    } catch {
      return NOTHING;
    }
  },
  write: (kept) => {
    try {
      localStorage.setItem(PLACE, JSON.stringify(kept));
    } catch {
      // Then it is forgotten with the window.
    }
  },
};

const isWithin = (value: unknown, low: number, high: number): boolean =>
  Number.isInteger(value) && (value as number) >= low && (value as number) <= high;

function isButton(one: unknown): one is TreadleButton {
  const { page, button, channel, msb, lsb, program } = (one ?? {}) as Record<keyof TreadleButton, unknown>;
  const isBank = (byte: unknown): boolean => byte === null || isWithin(byte, 0, 127);
  return (
    isWithin(page, 1, 1000) &&
    isWithin(button, 1, 100) &&
    isWithin(channel, 1, 16) &&
    isBank(msb) &&
    isBank(lsb) &&
    isWithin(program, 0, 127)
  );
}
