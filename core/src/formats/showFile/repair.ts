import { BUILT_INS, knownInstrument, showFaults, type Fault, type Instrument, type Show } from '../../show';

/** A show without faults, and what had to be done for it, line by line. */
export interface Repaired {
  show: Show;
  repairs: string[];
}

const MOST_ROUNDS = 50;
type Path = readonly (string | number)[];
const REMOVED = Symbol('removed');

/**
 * Takes out of a show what points nowhere, and puts right what contradicts itself. The result passes `showFaults`, and
 * repaired again it stays as it is.
 */
export function repairShow(show: Show): Repaired {
  const repairs: string[] = [];
  let current = show;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const faults = showFaults(current);
    if (faults.length === 0) break;
    // From the end to the beginning, so that what is taken out of a list moves nothing that comes after.
    for (const fault of faults.toReversed()) {
      const repair = repairOf(fault, current);
      current = changedAt(current, repair.at, repair.change) as Show;
    }
    repairs.push(...faults.map((fault) => `${fault.message}: ${repairOf(fault, current).words}`));
  }
  return { show: current, repairs };
}

interface Repair {
  at: Path;
  change: (value: unknown) => unknown;
  words: string;
}

const takenOut = (at: Path): Repair => ({ at, change: () => REMOVED, words: 'taken out' });

function repairOf({ code, path, about }: Fault, show: Show): Repair {
  const [kind] = path;
  const list = path[path.length - 2];
  switch (code) {
    case 'twice':
      if (list === 'parts' || list === 'standing') return takenOut(path);
      return {
        at: [...path, 'id'],
        change: () => freeId(about, valueAt(show, path.slice(0, -1))),
        words: 'given an id of its own',
      };
    case 'no-such-song':
    case 'no-such-patch':
    case 'no-such-blend':
      // Ends in the field that points; what is taken out is the cue, the entry or the line.
      return takenOut(path.slice(0, -1));
    case 'no-such-layer':
      return takenOut(path.at(-2) === 'action' ? path.slice(0, -2) : path.slice(0, -1));
    case 'no-such-gear-list':
      return { at: path, change: () => null, words: 'no gear list is chosen' };
    case 'no-such-instrument':
    case 'no-such-preset': {
      const sound = insteadOf(valueAt(show, path.slice(0, -1)), show.instruments);
      return {
        at: path.slice(0, -1),
        change: (now) => ({ ...(now as object), ...sound.ids }),
        words: `plays ${sound.name} instead`,
      };
    }
    case 'zone-upside-down':
      return { at: path, change: turned('lowKey', 'highKey'), words: 'turned round' };
    case 'velocities-upside-down':
      return { at: path, change: turned('lowVelocity', 'highVelocity'), words: 'turned round' };
    default:
      // A line of a list that cannot be: what it says, another list may say.
      return takenOut([kind, ...path.slice(1)]);
  }
}

const turned =
  (low: string, high: string) =>
  (zone: unknown): unknown => {
    const ends = zone as Record<string, unknown>;
    return { ...ends, [low]: ends[high], [high]: ends[low] };
  };

/** The first preset of the same instrument, or of the first built-in one. */
function insteadOf(sound: unknown, instruments: readonly Instrument[]): { ids: object; name: string } {
  const { instrumentId } = sound as { instrumentId: string };
  const known = knownInstrument(instrumentId, (id) => instruments.find((one) => one.id === id));
  const preset = known?.presets[0];
  if (known && preset) return { ids: { presetId: preset.id }, name: `${known.name}, ${preset.name}` };
  const [first] = BUILT_INS;
  return {
    ids: { instrumentId: first.id, presetId: first.presets[0].id },
    name: `${first.name}, ${first.presets[0].name}`,
  };
}

function freeId(id: string, list: unknown): string {
  const taken = new Set((list as { id: string }[]).map((item) => item.id));
  for (let n = 2; ; n++) {
    const next = `${id.slice(0, 74)}-${n}`;
    if (!taken.has(next)) return next;
  }
}

const valueAt = (value: unknown, path: Path): unknown =>
  path.reduce<unknown>((at, step) => (at as Record<string | number, unknown> | undefined)?.[step], value);

function changedAt(value: unknown, path: Path, change: (value: unknown) => unknown): unknown {
  const [step, ...rest] = path;
  if (step === undefined) return change(value);
  if (typeof value !== 'object' || value === null) return value;
  const inner = (value as Record<string | number, unknown>)[step];
  if (inner === undefined) return value;
  const next = changedAt(inner, rest, change);
  if (Array.isArray(value))
    return next === REMOVED ? value.toSpliced(step as number, 1) : value.with(step as number, next);
  return { ...value, [step]: next };
}
