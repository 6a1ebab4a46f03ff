import { describe, expect, it } from '@jest/globals';
import { LearnRow, Learner, sameSource, sourceInWords, type HeardMessage, type Learned } from '../src/controls';
import { GearList, type ControlSource } from '../src/show';
import { GESTURES, noisy, seeded, type Gesture } from './streams';

const VARIANTS = 20;
const SEED = 20_261_124;

/** Feeds a stream as it would come in, asking every 20 ms; gives what was found, and when. */
function learn(messages: readonly HeardMessage[], endMs: number, learner = new Learner()): Learned | null {
  let next = 0;
  for (let nowMs = 0; nowMs <= endMs; nowMs += 20) {
    while (next < messages.length && messages[next].atMs <= nowMs) learner.hear(messages[next++]);
    const found = learner.found(nowMs);
    if (found) return found;
  }
  return null;
}

const matches = (source: ControlSource, { expected, port }: Gesture): { message: boolean; port: boolean } => ({
  // A switch may be named as any kind; the message is the controller that it sends.
  message: Object.entries(expected).every(
    ([name, value]) => (source as Record<string, unknown>)[name] === value || name === 'coding' || name === 'kind',
  ),
  port: source.kind !== 'computerKey' && source.port === port,
});

describe(`learn on ${GESTURES.length} gestures, each in ${VARIANTS} noisy variants (seed ${SEED})`, () => {
  const results = GESTURES.flatMap((gesture, g) =>
    Array.from({ length: VARIANTS }, (_, v) => {
      const { messages, endMs } = noisy(gesture, seeded(SEED + g * 1000 + v));
      return { gesture, variant: v, found: learn(messages, endMs) };
    }),
  );

  it('covers at least 40 gestures over 12 kinds of control', () => {
    expect(GESTURES.length).toBeGreaterThanOrEqual(40);
    expect(new Set(GESTURES.map(({ kind }) => kind)).size).toBeGreaterThanOrEqual(12);
  });

  it('finds the meaningful message every time, and never by a wrong port', () => {
    const wrong = results.filter(({ gesture, found }) => {
      if (found === null) return true;
      const match = matches(found.source, gesture);
      return !match.message || !match.port;
    });
    expect(
      wrong.map(
        ({ gesture, variant, found }) =>
          `${gesture.name} ${variant}: ${found === null ? 'nothing' : sourceInWords(found.source)}`,
      ),
    ).toEqual([]);
  });

  it('names the kind rightly at the first try in at least 95 of a hundred', () => {
    const wrong = results.filter(({ gesture, found }) => found?.kind !== gesture.kind);
    const share = 1 - wrong.length / results.length;
    console.log(
      `kinds named rightly: ${(share * 100).toFixed(1)} % of ${results.length}; wrong: ${[...new Set(wrong.map(({ gesture, found }) => `${gesture.name} as ${found?.kind}`))].join(', ') || 'none'}`,
    );
    expect(share).toBeGreaterThanOrEqual(0.95);
  });

  it('is sure of what it names rightly, and surer than where it errs', () => {
    const mean = (right: boolean): number => {
      const sure = results
        .filter(({ gesture, found }) => (found?.kind === gesture.kind) === right)
        .map(({ found }) => found?.sure ?? 0);
      return sure.length === 0 ? 0 : sure.reduce((sum, value) => sum + value, 0) / sure.length;
    };
    expect(mean(true)).toBeGreaterThan(0.85);
    expect(mean(false)).toBeLessThan(mean(true));
  });

  it('finds nothing in noise alone', () => {
    const quiet: Gesture = { ...GESTURES[0], play: () => [[0, 0xf8, 0, 0]] };
    for (let v = 0; v < 100; v++) {
      const { messages, endMs } = noisy(quiet, seeded(SEED + 77_000 + v));
      // A sustain pedal alone, held and let go, would be a gesture: here there is none.
      const noise = messages.filter(({ data1, status }) => !((status & 0xf0) === 0xb0 && data1 === 64));
      expect(learn(noise, endMs)).toBeNull();
    }
  });
});

describe('learn', () => {
  const hear = (
    learner: Learner | LearnRow,
    port: string,
    atMs: number,
    status: number,
    data1: number,
    data2 = 0,
  ): void => learner.hear({ port, atMs, status, data1, data2 });

  it('leaves a port out that doubles another, even when its copy comes first', () => {
    const learner = new Learner({ doubles: new Map([['Aster 73, second port', 'Keys']]) });
    for (const [atMs, velocity] of [
      [100, 90],
      [200, 0],
    ]) {
      hear(learner, 'Aster 73, second port', atMs, 0x90, 28, velocity);
      hear(learner, 'Keys', atMs + 2, 0x90, 28, velocity);
    }
    expect(learner.found(1000)?.source).toMatchObject({ kind: 'note', port: 'Keys', number: 28 });
  });

  it('takes a sustain pedal when it is all that was moved', () => {
    const learner = new Learner();
    hear(learner, 'Keys', 100, 0xb0, 64, 127);
    hear(learner, 'Keys', 260, 0xb0, 64, 0);
    expect(learner.found(2000)).toMatchObject({ kind: 'momentary', source: { kind: 'controller', number: 64 } });
  });

  it('offers what else it could be: an encoder turned one way only', () => {
    const learner = new Learner();
    for (let i = 0; i < 8; i++) hear(learner, 'Cobble 25', i * 30, 0xb0, 24, i === 3 ? 2 : 1);
    const found = learner.found(2000)!;
    expect([found.kind, ...found.others.map(({ kind }) => kind)]).toEqual(['twos', 'signed']);
    expect(found.sure).toBeLessThan(0.7);
  });

  it('learns keys of the computer', () => {
    const learner = new Learner();
    learner.hearComputerKey('PageDown', 100);
    expect(learner.found(500)).toMatchObject({
      kind: 'computerKey',
      source: { code: 'PageDown' },
      saw: 'computer key Page Down',
    });
  });

  it('says nothing while a gesture may go on', () => {
    const learner = new Learner();
    hear(learner, 'Updown 2', 100, 0xc0, 3);
    expect(learner.found(600)).toBeNull();
    expect(learner.isMoving).toBe(true);
    hear(learner, 'Updown 2', 700, 0xc0, 4);
    expect(learner.found(1300)).toBeNull();
    expect(learner.found(1700)?.kind).toBe('counter');
  });
});

describe('a row of roles', () => {
  const press = (row: LearnRow, atMs: number, controller: number): void => {
    row.hear({ port: 'Clack 2', atMs, status: 0xb0, data1: controller, data2: 127 });
    row.hear({ port: 'Clack 2', atMs: atMs + 120, status: 0xb0, data1: controller, data2: 0 });
  };

  it('is filled one after the other; the last is undone, one is skipped', () => {
    const row = new LearnRow(['Next', 'Back', 'Reeds out']);
    press(row, 100, 80);
    expect(row.poll(1500)).toMatchObject({ kind: 'filled', role: 'Next', learned: { source: { number: 80 } } });
    expect(row.waitsFor).toBe('Back');
    press(row, 2000, 82);
    row.poll(3000);
    expect(row.undo()).toBe('Back');
    expect(row.waitsFor).toBe('Back');
    press(row, 4000, 81);
    expect(row.poll(5500)).toMatchObject({ role: 'Back', learned: { source: { number: 81 } } });
    row.skip();
    expect(row.waitsFor).toBeNull();
    expect(row.filled.map(({ role }) => role)).toEqual(['Next', 'Back']);
  });

  it('does not take a control that plays a role already, and says which', () => {
    const gear = GearList.parse({
      id: 'g',
      name: 'G',
      roles: [{ role: 'Panic', source: { port: 'Clack 2', kind: 'controller', number: 80 } }],
    });
    const row = new LearnRow(['Next', 'Back'], gear.roles);
    press(row, 100, 80);
    expect(row.poll(1500)).toMatchObject({ kind: 'taken', role: 'Next', by: 'Panic' });
    press(row, 2000, 81);
    row.poll(3500);
    press(row, 4000, 81);
    expect(row.poll(5500)).toMatchObject({ kind: 'taken', role: 'Back', by: 'Next' });
  });

  it('takes a control over from the role that had it, when that is wished', () => {
    const gear = GearList.parse({
      id: 'g',
      name: 'G',
      roles: [{ role: 'Panic', source: { port: 'Clack 2', kind: 'controller', number: 80 } }],
    });
    const row = new LearnRow(['Next', 'Back'], gear.roles);
    expect(row.takeOver()).toBeNull();
    press(row, 100, 80);
    row.poll(1500);
    expect(row.confirm()).toMatchObject({
      kind: 'filled',
      role: 'Next',
      from: 'Panic',
      learned: { source: { number: 80 } },
    });
    expect(row.waitsFor).toBe('Back');
    expect(row.confirm()).toBeNull();
  });

  it('takes what was moved at once when it is confirmed', () => {
    const row = new LearnRow(['Next']);
    expect(row.confirm()).toBeNull();
    press(row, 100, 80);
    expect(row.poll(230)).toBeNull();
    expect(row.confirm()).toMatchObject({ kind: 'filled', role: 'Next', from: null });
  });

  it('one strike fills one role: what goes on of it and its late release are not the next role’s', () => {
    const row = new LearnRow(['Hit', 'Bright']);
    const hear = (atMs: number, status: number, data1: number, data2: number): void =>
      row.hear({ port: 'Cobble', atMs, status, data1, data2 });
    hear(100, 0x99, 36, 90);
    hear(150, 0x99, 36, 0);
    for (let atMs = 200; atMs < 1400; atMs += 50) {
      row.poll(atMs);
      // Pressure that dies away.
      hear(atMs, 0xb9, 70, 127 - Math.floor(atMs / 12));
    }
    for (let atMs = 1400; atMs < 3000; atMs += 50) row.poll(atMs);
    expect(row.filled.map(({ role }) => role)).toEqual(['Hit']);
    const long = new LearnRow(['Hit', 'Bright']);
    long.hear({ port: 'Cobble', atMs: 100, status: 0x90, data1: 36, data2: 90 });
    for (let atMs = 100; atMs < 3000; atMs += 50) long.poll(atMs);
    long.hear({ port: 'Cobble', atMs: 3000, status: 0x90, data1: 36, data2: 0 });
    for (let atMs = 3000; atMs < 5000; atMs += 50) expect(long.poll(atMs)).toBeNull();
  });
});

describe('sources', () => {
  const source = (over: object): ControlSource =>
    GearList.parse({ id: 'g', name: 'G', roles: [{ role: 'r', source: { port: 'P', ...over } }] }).roles[0].source;

  it('are the same control where their channels, banks and controllers meet', () => {
    expect(sameSource(source({ kind: 'controller', number: 33 }), source({ kind: 'controller14', number: 1 }))).toBe(
      true,
    );
    expect(
      sameSource(source({ kind: 'controller', number: 20, channel: 2 }), source({ kind: 'controller', number: 20 })),
    ).toBe(true);
    expect(
      sameSource(
        source({ kind: 'controller', number: 20, channel: 2 }),
        source({ kind: 'controller', number: 20, channel: 3 }),
      ),
    ).toBe(false);
    expect(
      sameSource(source({ kind: 'program', number: 1, lsb: 1 }), source({ kind: 'program', number: 1, lsb: 2 })),
    ).toBe(false);
    expect(sameSource(source({ kind: 'count', direction: 'up' }), source({ kind: 'count', direction: 'down' }))).toBe(
      false,
    );
    expect(sameSource(source({ kind: 'wheel' }), source({ kind: 'wheel', channel: 4 }))).toBe(true);
    expect(sameSource(source({ kind: 'note', number: 4 }), source({ kind: 'program', number: 4 }))).toBe(false);
  });
});
