import { describe, expect, it } from '@jest/globals';
import { TestRig, layer, part, song } from './build';

const GEAR = {
  id: 'loft',
  name: 'Loft',
  ports: [
    { direction: 'in', alias: 'Keys', device: 'Aster 73' },
    { direction: 'out', alias: 'Skerry', device: 'Skerry' },
  ],
  roles: [{ role: 'Bright', pickUp: 'onMeeting', source: { kind: 'controller', port: 'Keys', number: 20 } }],
};

/** Bright is on a knob; Low and On are on nothing. */
const rig = (): TestRig =>
  new TestRig(
    [
      song('s', {
        layers: [layer('a'), layer('b', { preset: 'sk0' })],
        patches: [
          { id: 'p', name: 'P', parts: [part('a', { levelDb: -10 }), part('b')] },
          { id: 'q', name: 'Q', parts: [part('a', { levelDb: -10 })] },
        ],
        bindings: [
          { role: 'Bright', action: { kind: 'layerValue', layerId: 'a', value: 'levelDb' }, low: -40, high: 0 },
          { role: 'Low', action: { kind: 'wholeValue', value: 'levelDb' }, low: -20, high: 0 },
          { role: 'On', action: { kind: 'nextStep' } },
        ],
      }),
    ],
    { gear: GEAR },
  );
const levelOf = ({ engine }: TestRig, layerId: string): number | undefined =>
  engine.balanceNow().find((one) => one.layerId === layerId)?.levelDb;

describe('a hand on the screen', () => {
  it('moves what the hardware would move, to a share of its range', () => {
    const played = rig();
    played.feed({ type: 'role', role: 'Bright', share: 0.5 }, 10);
    expect(levelOf(played, 'a')).toBe(-20);
    played.feed({ type: 'role', role: 'Bright', share: 7 }, 11);
    expect(levelOf(played, 'a')).toBe(0);
  });

  it('plays roles that no control of tonight’s gear has, and they are told with what they do', () => {
    const played = rig();
    expect(
      played.engine.controlStates().map(({ key, role, stands }) => [key.startsWith('role '), role, stands]),
    ).toEqual([
      [false, 'Bright', null],
      [true, 'Low', null],
      [true, 'On', null],
    ]);
    played.feed({ type: 'role', role: 'Low', share: 0 }, 10);
    expect(played.told).toContain('whole 0 -20');
    played.feed({ type: 'role', role: 'On', share: null }, 20);
    expect(played.here).toBe('s/Q');
  });

  it('leaves a knob where it is: the knob meets the value again before it moves it', () => {
    const played = rig();
    played.cc(20, 0, 5);
    played.feed({ type: 'role', role: 'Bright', share: 0.5 }, 10);
    played.cc(20, 20, 20);
    expect(levelOf(played, 'a')).toBe(-20);
    played.cc(20, 90, 30);
    expect(levelOf(played, 'a')).toBeCloseTo(-40 + (40 * 90) / 127);
  });

  it('moves the level of a layer, built in or outboard, until the next recall', () => {
    const played = rig();
    played.take();
    played.feed({ type: 'fader', layerId: 'a', levelDb: -3 }, 10);
    played.feed({ type: 'fader', layerId: 'b', levelDb: -20 }, 11);
    expect(levelOf(played, 'a')).toBe(-3);
    expect(played.balances.at(-1)).toMatchObject({ to: 'P/a', levelDb: -3 });
    expect(played.take()).toEqual([expect.stringMatching(/^Skerry cc 7 \d+$/)]);
    played.feed({ type: 'fader', layerId: 'a', levelDb: 99 }, 12);
    expect(levelOf(played, 'a')).toBe(6);
    played.engine.recall(1, 20);
    expect(levelOf(played, 'a')).toBe(-10);
  });

  it('does nothing where nothing is there: unknown roles, layers, values for switches, presses for values', () => {
    const played = rig();
    const before = played.engine.balanceNow();
    for (const input of [
      { type: 'role', role: 'Nobody', share: 0.5 },
      { type: 'role', role: 'On', share: 0.5 },
      { type: 'role', role: 'Low', share: null },
    ] as const)
      played.feed(input, 10);
    played.feed({ type: 'fader', layerId: 'gone', levelDb: 0 }, 11);
    expect(played.engine.balanceNow()).toEqual(before);
    expect(played.here).toBe('s/P');
    expect(played.reasons()).toEqual(['role-does-nothing', 'role-does-nothing', 'role-does-nothing', 'no-layer-here']);
  });
});
