import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { jumpWaits, planLoading, type LoadPlan, type LoadStop, type LoadTask, type LoadUnit } from '../src/loading';

type Cost = [worst: number, total: number, loads: number, peak: number];

const unit = (key: string, bytes: number, loadMs: number, isPinned = false): LoadUnit => ({
  key,
  bytes,
  loadMs,
  isPinned,
});
const stop = (atMs: number, needs: number[], isFirstOfSong = false): LoadStop => ({ atMs, needs, isFirstOfSong });
const task = (over: Partial<LoadTask>): LoadTask => ({
  units: [],
  stops: [],
  budgetBytes: Infinity,
  parallel: 1,
  beforeMs: Infinity,
  resident: [],
  ...over,
});

/** The same world, millisecond by millisecond: what these choices cost. Choices are masks of units, those ahead first. */
function lived({ units, stops, parallel, beforeMs, resident }: LoadTask, choices: readonly number[]): Cost {
  const has = (mask: number, u: number): boolean => ((mask >> u) & 1) === 1;
  const all = units.map((_, u) => u);
  const needs = [0, ...stops.map((each) => each.needs.reduce((mask, u) => mask | (1 << u), 0))];
  const at = [stops[0].atMs - beforeMs, ...stops.map(({ atMs }) => atMs)];
  let held = resident.reduce((mask, u) => mask | (1 << u), 0);
  const ready = new Set(resident);
  let queue: number[] = [];
  let lanes: { u: number; left: number; isWanted: boolean }[] = [];
  const tick = (world: { ready: Set<number>; queue: number[]; lanes: typeof lanes }): void => {
    while (world.lanes.length < parallel && world.queue.length > 0) {
      const u = world.queue.shift()!;
      world.lanes.push({ u, left: units[u].loadMs, isWanted: true });
    }
    for (const lane of world.lanes) lane.left--;
    for (const { u, left, isWanted } of world.lanes) if (left === 0 && isWanted) world.ready.add(u);
    world.lanes = world.lanes.filter(({ left }) => left > 0);
  };
  const cost: Cost = [0, 0, 0, 0];
  let now = at[0];
  choices.forEach((choice, i) => {
    for (; now < at[i]; now++) {
      const world = { ready, queue, lanes };
      tick(world);
      ({ queue, lanes } = world);
    }
    const isNew = (u: number): boolean => has(choice, u) && !has(held, u);
    for (const u of all.filter((each) => !has(choice, each))) {
      ready.delete(u);
      for (const lane of lanes) if (lane.u === u) lane.isWanted = false;
    }
    const nextUse = (u: number): number => {
      const next = needs.findIndex((mask, later) => later >= i && has(mask, u));
      return next < 0 ? 1e6 : next;
    };
    queue = [...queue.filter((u) => has(choice, u)), ...all.filter(isNew)].sort(
      (a, b) => nextUse(a) - nextUse(b) || a - b,
    );
    const ahead = { ready: new Set(ready), queue: [...queue], lanes: lanes.map((lane) => ({ ...lane })) };
    let waits = 0;
    for (; all.some((u) => has(needs[i], u) && !ahead.ready.has(u)); waits++) tick(ahead);
    cost[0] = Math.max(cost[0], waits);
    cost[1] += waits;
    cost[2] += all.filter(isNew).length;
    cost[3] = Math.max(
      cost[3],
      all.filter((u) => has(choice, u)).reduce((sum, u) => sum + units[u].bytes, 0),
    );
    held = choice;
  });
  return cost;
}

const compare = (a: Cost, b: Cost): number => a[0] - b[0] || a[1] - b[1] || a[2] - b[2] || a[3] - b[3];

/** The best of all choices that the rules allow, one after another. */
function bruteForce(of: LoadTask): Cost {
  const { units, stops, budgetBytes, resident } = of;
  const all = units.map((_, u) => u);
  const bytes = (mask: number): number => all.reduce((sum, u) => sum + ((mask >> u) & 1 ? units[u].bytes : 0), 0);
  const maskOf = (some: readonly number[]): number => some.reduce((mask, u) => mask | (1 << u), 0);
  const pinned = maskOf(all.filter((u) => units[u].isPinned));
  const soon = [...stops, null].map((_, i) => {
    const base = (i === 0 ? 0 : maskOf(stops[i - 1].needs)) | pinned;
    const next = maskOf(stops[i]?.needs ?? []);
    const song = maskOf(stops.find((each, later) => later >= i && each.isFirstOfSong)?.needs ?? []);
    if (bytes(base | next | song) <= budgetBytes) return next | song;
    return bytes(base | next) <= budgetBytes ? next : 0;
  });
  let best: Cost = [Infinity, Infinity, Infinity, Infinity];
  const choose = (choices: number[], held: number): void => {
    const i = choices.length;
    if (i > stops.length) {
      const cost = lived(of, choices);
      if (compare(cost, best) < 0) best = cost;
      return;
    }
    const base = (i === 0 ? 0 : maskOf(stops[i - 1].needs)) | pinned;
    const must = base | (soon[i] & held);
    for (let mask = 0; mask < 1 << units.length; mask++)
      if ((mask & must) === must && (bytes(mask) <= budgetBytes || mask === base)) choose([...choices, mask], mask);
  };
  choose([], maskOf(resident));
  return best;
}

const costOf = ({ cost: { worstMs, totalMs, loads, peakBytes } }: LoadPlan): Cost => [
  worstMs,
  totalMs,
  loads,
  peakBytes,
];

const someTask = (mostUnits: number, mostStops: number) =>
  fc
    .record({
      units: fc.array(
        fc.record({
          bytes: fc.integer({ min: 1, max: 6 }),
          loadMs: fc.integer({ min: 1, max: 6 }),
          isPinned: fc.constantFrom(false, false, false, false, true),
        }),
        { minLength: 1, maxLength: mostUnits },
      ),
      gaps: fc.array(fc.tuple(fc.integer({ min: 0, max: 7 }), fc.nat(), fc.boolean()), {
        minLength: 1,
        maxLength: mostStops,
      }),
      budgetBytes: fc.integer({ min: 1, max: 16 }),
      parallel: fc.integer({ min: 1, max: 2 }),
      // How long the gaps are against the loads: where they are long, all ways are thinned out.
      spread: fc.constantFrom(1, 1, 3, 8),
      beforeMs: fc.integer({ min: 0, max: 12 }),
      resident: fc.nat(),
    })
    .map(({ units, gaps, resident, spread, ...rest }): LoadTask => {
      const among = (mask: number): number[] => units.flatMap((_, u) => ((mask >> u) & 1 ? [u] : []));
      let atMs = 0;
      return {
        ...rest,
        units: units.map((each, i) => ({ ...each, key: `u${i}` })),
        stops: gaps.map(([gap, needs, isFirstOfSong]) =>
          stop((atMs += spread * gap), among(needs % 16), isFirstOfSong),
        ),
        // No more than fits is there to begin with.
        resident: among(resident % 16).reduce<number[]>(
          (there, u) =>
            [...there, u].reduce((sum, each) => sum + units[each].bytes, 0) <= rest.budgetBytes ? [...there, u] : there,
          [],
        ),
      };
    });

/** So many units and stops, the stops so far apart that all loads end between two of them. */
const unhurried = (units: number, stops: number): fc.Arbitrary<LoadTask> =>
  fc
    .record({
      units: fc.array(fc.tuple(fc.integer({ min: 5, max: 120 }), fc.integer({ min: 100, max: 3000 })), {
        minLength: units,
        maxLength: units,
      }),
      stops: fc.array(fc.tuple(fc.array(fc.nat(units - 1), { minLength: 1, maxLength: 4 }), fc.boolean()), {
        minLength: stops,
        maxLength: stops,
      }),
      share: fc.double({ min: 0.35, max: 0.75, noNaN: true }),
      parallel: fc.integer({ min: 1, max: 2 }),
    })
    .map(({ units, stops, share, parallel }) =>
      task({
        units: units.map(([bytes, loadMs], i) => unit(`u${i}`, bytes, loadMs)),
        stops: stops.map(([needs, isFirst], i) => stop(i * 60_000, [...new Set(needs)], isFirst)),
        budgetBytes: Math.round(share * units.reduce((sum, [bytes]) => sum + bytes, 0)),
        parallel,
      }),
    );

/** The best of all choices where the loads of one stop are over at the next: stop by stop, by what is held there. */
function bestUnhurried({ units, stops, budgetBytes, parallel }: LoadTask): Cost {
  const all = units.map((_, u) => u);
  const maskOf = (some: readonly number[]): number => some.reduce((mask, u) => mask | (1 << u), 0);
  const bytes = Array.from({ length: 1 << units.length }, (_, mask) =>
    all.reduce((sum, u) => sum + ((mask >> u) & 1 ? units[u].bytes : 0), 0),
  );
  const needs = [0, ...stops.map((each) => maskOf(each.needs))];
  const kept = needs.map((base, i) => {
    const next = needs[i + 1] ?? 0;
    const song = maskOf(stops.find((each, later) => later >= i && each.isFirstOfSong)?.needs ?? []);
    return [next | song, next].find((mask) => bytes[base | mask] <= budgetBytes) ?? 0;
  });
  const waitOf = (missing: number): number => {
    const free = new Array<number>(parallel).fill(0);
    for (const u of all) if ((missing >> u) & 1) free[free.indexOf(Math.min(...free))] += units[u].loadMs;
    return Math.max(...free);
  };
  const ones = (mask: number): number => all.filter((u) => (mask >> u) & 1).length;
  type Step = [worst: number, total: number, loads: number];
  const best = (most: number, cap: number, isLess: (a: Step, b: Step) => boolean): Step | null => {
    let states = new Map<number, Step>([[0, [0, 0, 0]]]);
    needs.forEach((need, i) => {
      const next = new Map<number, Step>();
      for (const [held, [worst, total, loads]] of states) {
        const wait = i === 0 ? 0 : waitOf(need & ~held);
        if (wait > cap) continue;
        const must = need | (kept[i] & held);
        for (let mask = 0; mask < bytes.length; mask++) {
          if ((mask & must) !== must || !(bytes[mask] <= most || (mask === need && bytes[mask] > budgetBytes)))
            continue;
          const step: Step = [Math.max(worst, wait), total + wait, loads + ones(mask & ~held)];
          const known = next.get(mask);
          if (!known || isLess(step, known)) next.set(mask, step);
        }
      }
      states = next;
    });
    const ends = [...states.values()];
    return ends.length === 0 ? null : ends.reduce((a, b) => (isLess(b, a) ? b : a));
  };
  const [worst] = best(budgetBytes, Infinity, (a, b) => a[0] < b[0])!;
  const inAll = (most: number): Step | null =>
    best(most, worst, (a, b) => a[1] < b[1] || (a[1] === b[1] && a[2] < b[2]));
  const [, total, loads] = inAll(budgetBytes)!;
  // Over the budget is only what has to be.
  const over = Math.max(0, ...needs.map((need) => bytes[need]).filter((each) => each > budgetBytes));
  const sums = [...new Set(bytes)].filter((each) => each <= budgetBytes).sort((a, b) => a - b);
  const least = sums.find((most) => {
    const found = inAll(most);
    return found !== null && found[1] === total && found[2] === loads;
  })!;
  return [worst, total, loads, Math.max(over, least)];
}

describe('the loading plan', () => {
  it('loads everything ahead where the budget holds it, and waits nowhere', () => {
    const plan = planLoading(
      task({
        units: [unit('a', 10, 900), unit('b', 20, 400)],
        stops: [stop(0, [0]), stop(1, [1]), stop(2, [0, 1])],
      }),
    );
    expect(plan.cost).toEqual({ worstMs: 0, totalMs: 0, loads: 2, peakBytes: 30 });
    expect(plan.isExact).toBe(true);
  });

  it('lets go of what is needed last, and loads it again while something else plays', () => {
    const plan = planLoading(
      task({
        units: [unit('a', 10, 500), unit('b', 10, 500), unit('c', 10, 500)],
        stops: [stop(0, [0]), stop(10_000, [1]), stop(20_000, [2]), stop(30_000, [0])],
        budgetBytes: 20,
      }),
    );
    expect(plan.cost).toEqual({ worstMs: 0, totalMs: 0, loads: 4, peakBytes: 20 });
    expect(plan.ahead.holds).toContain(0);
  });

  it('says where the player waits when two neighbours do not fit together, and keeps what is pinned', () => {
    const plan = planLoading(
      task({
        units: [unit('a', 10, 500), unit('b', 12, 700), unit('p', 5, 100, true)],
        stops: [stop(0, [0]), stop(10_000, [1])],
        budgetBytes: 20,
      }),
    );
    expect(plan.stops.map(({ waitMs }) => waitMs)).toEqual([0, 700]);
    for (const { holds } of plan.stops) expect(holds).toContain(2);
    expect(plan.stops.map(({ isOver }) => isOver)).toEqual([false, false]);
  });

  it('says what does not fit by itself', () => {
    const plan = planLoading(task({ units: [unit('a', 30, 500)], stops: [stop(0, [0])], budgetBytes: 20 }));
    expect(plan.stops[0]).toMatchObject({ isOver: true, bytes: 30 });
  });

  it('of an empty evening is empty', () => {
    expect(planLoading(task({})).stops).toEqual([]);
  });

  it('is as good as the best of all that can be chosen', () => {
    fc.assert(
      fc.property(someTask(4, 3), (of) => {
        const plan = planLoading(of);
        expect(plan.isExact).toBe(true);
        expect(costOf(plan)).toEqual(bruteForce(of));
      }),
      { numRuns: Number(process.env.RUNS ?? 150) },
    );
  });

  it('of an evening of twelve units with time between its recalls is exact', () => {
    fc.assert(
      fc.property(unhurried(12, 20), (of) => {
        expect(planLoading(of).isExact).toBe(true);
      }),
      { numRuns: 10 },
    );
  });

  it('of eight units with time between the recalls is as good as the best of all, stop by stop', () => {
    fc.assert(
      fc.property(unhurried(8, 8), (of) => {
        const plan = planLoading(of);
        expect(plan.isExact).toBe(true);
        expect(costOf(plan)).toEqual(bestUnhurried(of));
      }),
      { numRuns: Number(process.env.RUNS ?? 15) },
    );
  });

  it('costs what it says, whatever there is to be loaded, and holds what it has to', () => {
    fc.assert(
      fc.property(someTask(4, 8), fc.integer({ min: 0, max: 12 }), (of, more) => {
        // Thirteen units and more are not looked at in every way.
        const many: LoadTask = {
          ...of,
          units: [...of.units, ...Array.from({ length: more }, (_, i) => unit(`more ${i}`, 3, 4))],
          stops: [
            ...of.stops,
            ...Array.from({ length: more }, (_, i) => stop(of.stops.at(-1)!.atMs + 5 * (i + 1), [of.units.length + i])),
          ],
        };
        const plan = planLoading(many);
        const masks = [plan.ahead, ...plan.stops].map(({ holds }) => holds.reduce((mask, u) => mask | (1 << u), 0));
        expect(costOf(plan)).toEqual(lived(many, masks));
        expect(plan.atLeast.worstMs).toBeLessThanOrEqual(plan.cost.worstMs);
        expect(plan.atLeast.totalMs).toBeLessThanOrEqual(plan.cost.totalMs);
        plan.stops.forEach(({ holds, bytes, isOver }, i) => {
          for (const need of many.stops[i].needs) expect(holds).toContain(need);
          many.units.forEach(({ isPinned }, u) => isPinned && expect(holds).toContain(u));
          if (!isOver) expect(bytes).toBeLessThanOrEqual(many.budgetBytes);
        });
      }),
      { numRuns: 60 },
    );
  });

  it('is never under what it says that no plan can be under', () => {
    fc.assert(
      fc.property(someTask(4, 3), (of) => {
        const [worst, total] = bruteForce(of);
        // The bound alone, as of a plan that was not looked for in every way.
        const filled = { ...of, units: [...of.units, ...Array.from({ length: 12 }, (_, i) => unit(`u ${i}`, 1, 1))] };
        const { atLeast, isExact } = planLoading(filled);
        expect(isExact).toBe(false);
        expect(atLeast.worstMs).toBeLessThanOrEqual(worst);
        expect(atLeast.totalMs).toBeLessThanOrEqual(total);
      }),
      { numRuns: 100 },
    );
  });

  it('knows how long a jump waits, from the end of a song and from its beginning', () => {
    const of = task({
      units: [unit('a', 10, 500), unit('b', 10, 600), unit('c', 10, 700)],
      stops: [stop(0, [0], true), stop(10_000, [1], true), stop(20_000, [2], true)],
      budgetBytes: 20,
    });
    const { atEnd, atBeginning } = jumpWaits(of, planLoading(of));
    // Of the first song two sounds are there: its own and the next one's.
    expect(atEnd[0]).toEqual([0, 0, 700]);
    expect(atBeginning[0][0]).toBe(0);
    expect(atEnd[2][2]).toBe(0);
    for (const row of [...atEnd, ...atBeginning]) for (const wait of row) expect([0, 500, 600, 700]).toContain(wait);
  });

  it('knows that what is let go of stays as long as there is room, and that what comes later is loaded ahead', () => {
    const of = task({
      units: [unit('a', 10, 500), unit('b', 10, 600), unit('c', 10, 700)],
      stops: [stop(0, [0], true), stop(10_000, [1], true), stop(20_000, [2], true)],
      budgetBytes: 30,
      beforeMs: 1000,
    });
    const plan = planLoading(of);
    expect(plan.cost.peakBytes).toBe(20);
    const { atEnd, atBeginning } = jumpWaits(of, plan);
    expect(atEnd).toEqual([
      [0, 0, 0],
      [0, 0, 0],
      [0, 0, 0],
    ]);
    // As the evening begins nothing is there but what is played first, and what is loaded for the second song.
    expect(atBeginning).toEqual([
      [0, 600, 700],
      [0, 0, 0],
      [0, 0, 0],
    ]);
    // With all the time in the world before it, everything is.
    const ready = { ...of, beforeMs: Infinity };
    expect(jumpWaits(ready, planLoading(ready)).atBeginning[0]).toEqual([0, 0, 0]);
    // Two stops further on there is no time to load ahead.
    const hurried = { ...of, stops: of.stops.map((each, i) => ({ ...each, atMs: 2000 * i })) };
    expect(jumpWaits(hurried, planLoading(hurried)).atEnd[0]).toEqual([0, 0, 700]);
  });
});
