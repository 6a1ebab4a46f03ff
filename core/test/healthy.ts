import { BUILT_INS, Show, SHOW_VERSION } from '../src/show';
import { planNumbering } from '../src/programs';
import { keysPort, pedalsPort, stepBindings, stepRoles, skerry, pedal } from './rig';

/** A generator of numbers from 0 to below 1 that always says the same (mulberry32). */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const TAPE = ['straw', 'moss', 'teal', 'rust'] as const;

/** A song as a careful player leaves it: every key sounds in every patch, every layer somewhere. */
function healthySong(id: string, next: () => number, patchCount: number): object {
  const below = (limit: number): number => Math.floor(next() * limit);
  const builtIn = (i: number): object => {
    const instrument = BUILT_INS[below(12)];
    const preset = instrument.presets[below(instrument.presets.length)];
    return {
      id: `${id}/l${i}`,
      name: `Layer ${i}`,
      tape: TAPE[i % TAPE.length],
      sound: { instrumentId: instrument.id, presetId: preset.id },
      ...(next() < 0.2 ? { carry: { kind: 'fade', fadeMs: 500 + below(3000) } } : {}),
    };
  };
  const layers = Array.from({ length: 2 + below(4) }, (_, i) => builtIn(i));
  const outboard = next() < 0.4;
  if (outboard)
    layers.push({
      id: `${id}/out`,
      name: 'Outboard',
      tape: 'rust',
      sound: { instrumentId: 'skerry', presetId: `sk${below(2)}`, channel: 1 + below(16) },
    });
  const count = layers.length;
  const patches = Array.from({ length: patchCount }, (_, p) => {
    const split = 40 + below(40);
    const [low, high] = [below(count), below(count)];
    const ids = (i: number): string => (layers[i] as { id: string }).id;
    const lows = low === high ? [] : [{ layerId: ids(low), zone: { highKey: split }, shift: 12 * (below(3) - 1) }];
    const highs = {
      layerId: ids(high),
      zone: { lowKey: low === high ? 0 : split + 1 },
      ...(next() < 0.2 ? { chord: [7] } : {}),
    };
    const over = (high + 1) % count;
    const extra =
      over === low || over === high || next() < 0.5
        ? []
        : [{ layerId: ids(over), zone: { lowKey: 60, lowVelocity: 90 }, levelDb: -12 }];
    return {
      id: `${id}/p${p}`,
      name: `Patch ${p}`,
      parts: [...lows, highs, ...extra],
      blends:
        next() < 0.2 ? [{ id: `${id}/p${p}/b`, name: 'Soft', values: [{ layerId: ids(high), levelDb: -20 }] }] : [],
    };
  });
  const cues = patches.map((patch, p) => ({
    kind: 'recall',
    id: `${id}/c${p}`,
    atTick: p * 960 * 16,
    patchId: patch.id,
  }));
  return {
    id,
    name: `Song ${id}`,
    transpose: below(5) - 2,
    layers,
    patches,
    ...(next() < 0.4 ? { cues } : {}),
  };
}

/** A whole show that nothing is wrong with, told apart by its number. */
export function healthyShow(seed: number, songCount?: number, patchCount?: number): Show {
  const next = seeded(seed);
  const below = (limit: number): number => Math.floor(next() * limit);
  const songs = Array.from({ length: songCount ?? 1 + below(8) }, (_, i) =>
    healthySong(`s${i}`, next, patchCount ?? 1 + below(6)),
  );
  const entries = songs.flatMap((one, i) => {
    const { id } = one as { id: string };
    const entry = { kind: 'song', id: `e${i}`, songId: id, keyShift: below(5) - 2 };
    return i > 0 && next() < 0.1 ? [{ kind: 'break', id: `b${i}`, minutes: 15 }, entry] : [entry];
  });
  const show = Show.parse({
    format: 'rackle-show',
    version: SHOW_VERSION,
    songs,
    instruments: [
      skerry(20 + below(200), [
        { id: 'sk0', name: 'Low Water', msb: 0, lsb: 0, program: 5 },
        { id: 'sk1', name: 'Weed', msb: 0, lsb: 1, program: 7 },
      ]),
    ],
    gearLists: [
      {
        id: 'loft',
        name: 'Loft',
        ports: [
          keysPort(next() < 0.5 ? { lowest: 28, highest: 100 } : null),
          pedalsPort(),
          {
            direction: 'in',
            alias: 'Feet',
            device: 'Treadle 6',
            plays: false,
            buttons: { count: 6, pages: 64, repeats: next() < 0.5 },
          },
          { direction: 'out', alias: 'Skerry', device: 'Skerry' },
        ],
        roles: [...stepRoles(), { role: 'Swell', source: pedal(11) }],
      },
    ],
    setlists: [
      {
        id: 'night',
        name: 'Night',
        entries,
        gearListId: 'loft',
        roles: ['Next', 'Back', 'Swell'],
        bindings: [
          ...stepBindings(),
          { role: 'Swell', action: { kind: 'wholeValue', value: 'levelDb' }, low: -30, high: 0 },
        ],
      },
    ],
  });
  const [setlist] = show.setlists;
  const byId = new Map(show.songs.map((song) => [song.id as string, song]));
  const { lines } = planNumbering(setlist, byId, { kind: 'order', startAt: 0 });
  return { ...show, setlists: [{ ...setlist, programs: lines }] };
}
