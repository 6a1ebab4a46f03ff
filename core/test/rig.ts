// What the shows that the soundcheck is tried on have in common: a module, two pedals, what they step.
// Made anew each time: tests plant faults in them.

const pedals = { port: 'Pedals', channel: null };
/** A controller of the pedals' port. */
export const pedal = (number: number): object => ({ kind: 'controller', number, ...pedals });

/** The module, with its names. */
export const skerry = (switchMs: number, names: readonly object[]): object => ({
  kind: 'outboard',
  id: 'skerry',
  name: 'Skerry',
  port: 'Skerry',
  channel: 1,
  switchMs,
  names,
});

/** A keyboard, with as many keys as somebody has counted. */
export const keysPort = (keys: object | null): object => ({
  direction: 'in',
  alias: 'Keys',
  device: 'Aster 73',
  programs: { kind: 'off' },
  keys,
});

/** An input that keeps the pedals: one that is pressed, one that stays down. */
export const pedalsPort = (): object => ({
  direction: 'in',
  alias: 'Pedals',
  device: 'Clack 2',
  plays: false,
  programs: { kind: 'off' },
  controls: [
    { name: 'left', source: pedal(80), button: 'momentary' },
    { name: 'right', source: pedal(81), button: 'latching' },
  ],
});

/** They step forth and back. */
export const stepRoles = (): object[] => [
  { role: 'Next', source: pedal(80) },
  { role: 'Back', source: pedal(81), button: 'latching' },
];
/** What those roles do. */
export const stepBindings = (): object[] => [
  { role: 'Next', action: { kind: 'nextStep' } },
  { role: 'Back', action: { kind: 'previousStep' } },
];
