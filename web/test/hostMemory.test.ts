import { beforeEach, describe, expect, it, jest } from '@jest/globals';
import type { HeldByStep } from '@rackle/core/loading';
import { demo, order, setUp } from './runningSide';

describe('what may be in memory', () => {
  beforeEach(() => {
    jest.useFakeTimers();
  });

  it('is told to the sound when it starts and when the player says so, in the order of the evening from where it is', async () => {
    const { host, sound, topics } = setUp();
    host.command({ type: 'startSound' });
    await topics();
    expect(sound.order).toMatchObject({ budgetBytes: 1_500_000_000, pins: [] });
    const pin = { instrumentId: 'parlour', presetId: 'parlour/front-room' };
    host.command({ type: 'memory', budgetMb: 200, pins: [pin], held: null });
    expect(sound.order).toMatchObject({ budgetBytes: 200_000_000, pins: [pin] });
    // What the plan has in memory goes by the patch that is played; of a patch that is not in it, nobody knows.
    expect(sound.order!.held()).toBeNull();
    const [first] = order;
    const steps = [{ entryId: first.entry.id, patchId: first.patch.id, held: '02' }];
    host.command({ type: 'memory', budgetMb: 200, pins: [pin], held: { jump: 0, keys: ['a', 'b'], steps } });
    host.command({ type: 'recall', position: 0 });
    expect(sound.order!.held()).toEqual(new Set(['b']));
    const firstOf = (): string => sound.order!.sounds()[0].presetId;
    expect(firstOf()).toBe('keelson/round');
    const last = order.at(-1)!;
    host.command({ type: 'recall', position: last.position });
    expect(firstOf()).toBe('bellrope/chapel-bell');
    expect(new Set(sound.order!.sounds().map(({ presetId }) => presetId)).size).toBe(sound.order!.sounds().length);
  });

  it('is planned anew from what is there when the evening goes another way than the plan', async () => {
    const { host, sound, topics, events } = setUp();
    const planFrom = (first: number, jump: number): HeldByStep => ({
      jump,
      keys: ['a'],
      steps: order.slice(first).map(({ entry, patch }) => ({ entryId: entry.id, patchId: patch.id, held: '01' })),
    });
    const jumps = (): unknown[] => events.flatMap((event) => (event.type === 'jumped' ? [event.jump] : []));
    const memory = (held: HeldByStep): void => host.command({ type: 'memory', budgetMb: 200, pins: [], held });
    host.command({ type: 'startSound' });
    await topics();
    memory(planFrom(0, 0));
    for (const position of [0, 1, 2]) host.command({ type: 'recall', position });
    await topics();
    expect(jumps()).toEqual([]);
    sound.loaded = ['a', 'b'];
    host.command({ type: 'recall', position: 9 });
    await topics();
    const { entry, patch } = order[9];
    expect(jumps()).toEqual([{ number: 1, entryId: entry.id, patchId: patch.id, resident: ['a', 'b'] }]);
    memory(planFrom(9, 1));
    host.command({ type: 'recall', position: 10 });
    await topics();
    expect(jumps()).toHaveLength(1);
    // An edit has the whole evening planned: it is asked for from here once more.
    memory(planFrom(0, 0));
    await topics();
    expect(jumps()).toHaveLength(2);
    expect(jumps()[1]).toMatchObject({ number: 1, patchId: order[10].patch.id });
    // Of several in a row it is the last.
    for (const position of [3, 20, 12]) host.command({ type: 'recall', position });
    await topics();
    expect(jumps()).toHaveLength(3);
    expect(jumps()[2]).toMatchObject({ number: 4, patchId: order[12].patch.id });
  });

  it('grows by what comes later once nothing has been recalled for five seconds, and nothing near has to be made', async () => {
    const { host, sound, topics } = setUp();
    host.command({ type: 'startSound' });
    await topics();
    await jest.advanceTimersByTimeAsync(4000);
    expect(sound.loadsAhead).toBe(0);
    host.command({ type: 'recall', position: 2 });
    await topics();
    await jest.advanceTimersByTimeAsync(4000);
    expect(sound.loadsAhead).toBe(0);
    await jest.advanceTimersByTimeAsync(2000);
    expect(sound.loadsAhead).toBeGreaterThan(0);
  });
});

describe('what stands in for sounds that load', () => {
  const [homeLights] = order.filter(({ patch }) => patch.id === 'third-ferry-home/home-lights');
  const [sway] = order.filter(({ patch }) => patch.id === 'kelp-dance/sway');

  beforeEach(() => {
    jest.useFakeTimers();
  });

  /** Layers on which a key begins to sound. */
  function strikes({ bench, sound }: ReturnType<typeof setUp>): (string | undefined)[] {
    const before = sound.heard.length;
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    jest.advanceTimersByTime(300);
    const on = sound.heard.slice(before).filter(([, status]) => (status & 0xf0) === 0x90);
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 0 });
    return on.map(([destination]) => sound.standing.get(destination));
  }

  it('goes on however long that takes, silent meanwhile and of another song, and is let go of then', async () => {
    const side = setUp();
    const { host, sound, topics } = side;
    host.command({ type: 'startSound' });
    await topics();
    expect(strikes(side)).toEqual(['biscuit-tin-regatta/late-boat']);
    sound.loads = () => true;
    host.command({ type: 'recall', position: homeLights.position });
    await topics();
    await jest.advanceTimersByTimeAsync(5000);
    expect(strikes(side)).toEqual(['biscuit-tin-regatta/late-boat']);
    for (const destination of sound.standing.keys()) sound.onLoaded(destination, true);
    await topics();
    expect(strikes(side)).toContain('third-ferry-home/late-boat');
    await jest.advanceTimersByTimeAsync(1000);
    expect([...sound.standing.values()]).not.toContain('biscuit-tin-regatta/late-boat');
  });

  it('is made as far as it takes to be heard, where it was half made when it was left', async () => {
    const waiting = demo.songs.map((song) =>
      song.id === sway.song.id
        ? { ...song, layers: song.layers.map((layer) => ({ ...layer, notReady: 'wait' as const })) }
        : song,
    );
    const side = setUp();
    const { host, sound, topics, become } = side;
    become({ songs: waiting });
    host.command({ type: 'startSound' });
    await topics();
    sound.loads = () => true;
    host.command({ type: 'recall', position: sway.position });
    host.command({ type: 'recall', position: homeLights.position });
    expect(strikes(side)).toEqual(['kelp-dance/chapel']);
  });
});

describe('a layer of a song that has been left', () => {
  it('stands as long as its held keys still play an arpeggio, however long each note is silent', async () => {
    jest.useFakeTimers();
    const arpeggio = { order: 'up' as const, note: '1/2' as const, octaves: 1, gate: 10 };
    const songs = demo.songs.map((song) => ({
      ...song,
      patches: song.patches.map((patch) => ({ ...patch, parts: patch.parts.map((part) => ({ ...part, arpeggio })) })),
    }));
    const { host, bench, sound, topics, become } = setUp();
    become({ songs });
    host.command({ type: 'startSound' });
    await topics();
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    host.command({ type: 'recall', position: 12 });
    await topics();
    const before = sound.heard.length;
    await jest.advanceTimersByTimeAsync(6000);
    const played = sound.heard.slice(before).filter(([, status]) => (status & 0xf0) === 0x90);
    expect(played.length).toBeGreaterThan(3);
    expect(new Set(played.map(([destination]) => sound.standing.get(destination)))).toEqual(
      new Set(['biscuit-tin-regatta/late-boat']),
    );
  });
});
