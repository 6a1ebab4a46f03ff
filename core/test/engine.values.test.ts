import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { pickedUp } from '../src/engine';
import { BUILT_INS, steadyMap } from '../src/show';
import { GEAR, TestRig, layer, outboardInstrument, part, song } from './build';

const bind = (role: string, action: object, over: object = {}) => ({ role, action, ...over });
const gear = (...roles: object[]) => ({ ...GEAR, roles });
const knob = (role: string, number: number, over: object = {}) => ({
  role,
  source: { port: 'Keys', kind: 'controller', number },
  pickUp: 'atOnce',
  ...over,
});

const level = (layerId: string) => ({ kind: 'layerValue', layerId, value: 'levelDb' });
const tin = (over: object = {}) =>
  song('Tin', {
    layers: [layer('A'), layer('B')],
    patches: [
      {
        id: 'p1',
        name: '1',
        parts: [part('A', { levelDb: -6 }), part('B', { levelDb: -10 })],
        blends: [{ id: 'b', name: 'quiet', values: [{ layerId: 'A', levelDb: -20 }] }],
      },
      { id: 'p2', name: '2', parts: [part('A', { levelDb: -12 })] },
    ],
    ...over,
  });
const lastLevel = (rig: TestRig, to: string): number =>
  Math.round((rig.balances.filter((balance) => balance.to.endsWith(`/${to}`)).at(-1)?.levelDb ?? NaN) * 10) / 10;

describe('pick-up', () => {
  it('on meeting waits until the knob passes the value', () => {
    expect(pickedUp('onMeeting', 0.5, NaN, 0.2)).toBeNaN();
    expect(pickedUp('onMeeting', 0.5, 0.2, 0.4)).toBeNaN();
    expect(pickedUp('onMeeting', 0.5, 0.4, 0.6)).toBe(0.6);
    expect(pickedUp('onMeeting', 0.6, 0.6, 0.9)).toBe(0.9);
  });

  it('drawn in brings both to the end together, never past it, and moves the way the knob moves', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 30 }),
        (value, start, moves) => {
          let at = value;
          let last = start;
          for (const now of moves) {
            const next = pickedUp('drawnIn', at, last, now);
            if (!Number.isNaN(next)) {
              expect(next).toBeGreaterThanOrEqual(-1e-9);
              expect(next).toBeLessThanOrEqual(1 + 1e-9);
              const joined = Math.abs(next - now) < 1e-9;
              if (!joined) expect(Math.sign(next - at) * Math.sign(now - last)).toBeGreaterThanOrEqual(0);
              at = next;
            }
            last = now;
          }
          for (const now of [0, 1]) {
            const next = pickedUp('drawnIn', at, last, now);
            if (!Number.isNaN(next)) at = next;
            last = now;
          }
          expect(at).toBeCloseTo(1, 6);
        },
      ),
      { seed: 5, numRuns: 400 },
    );
  });
});

describe('a knob on a layer’s level', () => {
  it('moves it over the whole range, or over the binding’s', () => {
    const rig = new TestRig([tin({ bindings: [bind('Bright', level('A'), { low: -40, high: 0 })] })], {
      gear: gear(knob('Bright', 20)),
    });
    rig.cc(20, 127, 10);
    expect(lastLevel(rig, 'A')).toBe(0);
    rig.cc(20, 0, 20);
    expect(lastLevel(rig, 'A')).toBe(-40);
    expect(rig.take()).toEqual([]);
  });

  it('leaves an outboard channel alone whose level another layer sends', () => {
    const shared = song('Tin', {
      layers: [layer('A', { preset: 'sk1', channel: 2 }), layer('D', { preset: 'sk1', channel: 2, sendsLevel: true })],
      bindings: [bind('Bright', level('A')), bind('Dark', level('D'))],
      standing: [part('D', { levelDb: 0 })],
      patches: [{ id: 'p', name: 'p', parts: [part('A')] }],
    });
    const rig = new TestRig([shared], { gear: gear(knob('Bright', 20), knob('Dark', 21)) });
    rig.take();
    rig.cc(20, 0, 10);
    rig.load(20);
    expect(rig.take()).toEqual([]);
    rig.cc(21, 0, 30);
    expect(rig.take()).toEqual(['Skerry ch2 cc 7 4']);
  });

  it('waits on meeting, and says so', () => {
    const rig = new TestRig([tin({ bindings: [bind('Bright', level('A'), { low: -60, high: 0 })] })], {
      gear: gear(knob('Bright', 20, { pickUp: 'onMeeting' })),
    });
    const before = rig.balances.length;
    rig.cc(20, 10, 10);
    rig.cc(20, 60, 20);
    expect(rig.balances.length).toBe(before);
    expect(rig.reasons()).toEqual(['control-waits', 'control-waits']);
    rig.cc(20, 120, 30);
    expect(lastLevel(rig, 'A')).toBe(-3.3);
    rig.program(0, 40);
    rig.engine.recall(2, 50);
    rig.cc(20, 121, 60);
    expect(rig.reasons().at(-1)).toBe('control-waits');
  });

  it('takes range, direction and curve of the control', () => {
    const rig = new TestRig([tin({ bindings: [bind('Bright', level('A'), { low: 0, high: -60 })] })], {
      gear: gear(knob('Bright', 20, { lowest: 64, highest: 127, reversed: true })),
    });
    rig.cc(20, 10, 10);
    expect(lastLevel(rig, 'A')).toBe(-60);
    rig.cc(20, 127, 20);
    expect(lastLevel(rig, 'A')).toBe(0);
  });

  it('as an encoder moves it by steps, in each coding', () => {
    for (const [coding, right, left] of [
      ['twos', 2, 127],
      ['offset', 66, 63],
      ['signed', 2, 65],
    ] as const) {
      const rig = new TestRig([tin({ bindings: [bind('Bright', level('A'), { low: -63.5, high: 0 })] })], {
        gear: gear({ role: 'Bright', source: { port: 'Keys', kind: 'controller', number: 20, coding } }),
      });
      rig.engine.recall(0, 5);
      rig.cc(20, right, 10);
      expect(lastLevel(rig, 'A')).toBe(-5);
      rig.cc(20, left, 20);
      expect(lastLevel(rig, 'A')).toBe(-5.5);
    }
  });

  it('in 14 bits acts on the MSB at once and again on the LSB', () => {
    const rig = new TestRig([tin({ bindings: [bind('Bright', level('A'), { low: 0, high: -60 })] })], {
      gear: gear({ role: 'Bright', source: { port: 'Keys', kind: 'controller14', number: 3 }, pickUp: 'atOnce' }),
    });
    rig.cc(3, 127, 10);
    expect(lastLevel(rig, 'A')).toBe(-59.5);
    rig.cc(35, 127, 11);
    expect(lastLevel(rig, 'A')).toBe(-60);
    expect(rig.take()).toEqual([]);
  });

  it('comes back to the stored value at a recall, or stays as the hand left it', () => {
    for (const [onRecall, expected] of [
      ['stored', -12],
      ['hand', 6],
    ] as const) {
      const rig = new TestRig([tin({ bindings: [bind('Bright', level('A'), { onRecall })] })], {
        gear: gear(knob('Bright', 20)),
      });
      rig.cc(20, 127, 10);
      expect(lastLevel(rig, 'A')).toBe(6);
      rig.engine.recall(2, 20);
      expect(lastLevel(rig, 'A')).toBe(expected);
    }
  });

  it('keeps what the hand did when the song is edited meanwhile', () => {
    const rig = new TestRig([tin({ bindings: [bind('Bright', level('A'))] })], { gear: gear(knob('Bright', 20)) });
    rig.cc(20, 127, 10);
    rig.edit(
      'Tin',
      (current) => ({ ...current, patches: current.patches.map((patch) => ({ ...patch, name: `${patch.name}!` })) }),
      20,
    );
    expect(lastLevel(rig, 'A')).toBe(6);
    rig.engine.recall(0, 30);
    expect(lastLevel(rig, 'A')).toBe(-6);
  });

  it('does what the nearest scope says: patch before song before setlist', () => {
    const rig = new TestRig(
      [
        tin({
          bindings: [bind('Bright', level('A'))],
          patches: tin().patches.map((patch, i) =>
            i === 1 ? { ...patch, bindings: [bind('Bright', { kind: 'wholeValue', value: 'levelDb' })] } : patch,
          ),
        }),
      ],
      {
        gear: gear(knob('Bright', 20)),
        setlist: { bindings: [bind('Bright', { kind: 'wholeValue', value: 'echoDb' })] },
      },
    );
    rig.cc(20, 127, 10);
    expect(lastLevel(rig, 'A')).toBe(6);
    rig.engine.recall(2, 20);
    rig.cc(20, 64, 30);
    expect(rig.told.at(-1)).toBe('whole 0 -26.74');
  });

  it('beside a second knob of the same role: the one that moved last has it, the other waits until it meets the value', () => {
    const rig = new TestRig([tin({ bindings: [bind('Bright', level('A'), { low: -60, high: 0 })] })], {
      gear: gear(knob('Bright', 20), knob('Bright', 21, { pickUp: 'onMeeting' })),
    });
    rig.cc(21, 0, 10);
    rig.cc(20, 127, 20);
    rig.cc(21, 60, 30);
    expect(lastLevel(rig, 'A')).toBe(0);
    rig.cc(21, 127, 40);
    rig.cc(21, 64, 50);
    expect(lastLevel(rig, 'A')).toBe(-29.8);
  });

  it('is used up by its role also where the role does nothing, and counted', () => {
    const rig = new TestRig([tin()], { gear: gear(knob('Bright', 20)) });
    rig.cc(20, 64, 10);
    expect(rig.take()).toEqual([]);
    expect(rig.reasons()).toEqual(['role-does-nothing']);
  });
});

describe('an instrument’s parameter', () => {
  it('is sent as its controller, to outboard gear too', () => {
    const rig = new TestRig(
      [
        song('Moth', {
          layers: [layer('S', { sound: { instrumentId: 'skerry', presetId: 'sk0' } })],
          patches: [{ id: 'p', name: 'p', parts: [part('S')] }],
          bindings: [bind('Bright', { kind: 'layerController', layerId: 'S', controller: 74 })],
        }),
      ],
      { gear: gear(knob('Bright', 20)) },
    );
    rig.take();
    rig.cc(20, 90, 500);
    expect(rig.take()).toEqual(['Skerry cc 74 90']);
  });
});

describe('switches of layers', () => {
  const rigFor = (what: string) =>
    new TestRig([tin({ bindings: [bind('Reeds out', { kind: 'layerSwitch', layerId: 'B', what })] })], {
      gear: gear({ role: 'Reeds out', source: { port: 'Feet', kind: 'controller', number: 80 } }),
    });

  it('mute and unmute by turns; sounding notes carry, the pedal comes back at once', () => {
    const rig = rigFor('mute');
    rig.on(60, 1000);
    rig.cc(64, 127, 1010);
    rig.cc(80, 127, 1020, 'Treadle 6');
    rig.take();
    rig.on(62, 1030);
    expect(rig.take()).toEqual(['1/A on 62 100']);
    rig.cc(80, 0, 1040, 'Treadle 6');
    rig.cc(80, 127, 1300, 'Treadle 6');
    rig.on(64, 1310);
    expect(rig.take()).toEqual(['1/A on 64 100', '1/B on 64 100']);
    rig.off(60, 1320);
    expect(rig.take()).toEqual(['1/B off 60', '1/A off 60']);
  });

  it('solo silences the others', () => {
    const rig = rigFor('solo');
    rig.cc(80, 127, 1000, 'Treadle 6');
    rig.on(60, 1010);
    expect(rig.take()).toEqual(['1/B on 60 100']);
  });
});

describe('presses', () => {
  const feet = (
    role: string,
    action: object,
    source: object = { kind: 'controller', number: 80 },
    over: object = {},
  ) => ({
    gear: gear({ role, source: { port: 'Feet', ...source }, guardMs: 0, ...over }),
    setlist: { bindings: [bind(role, action)] },
  });
  const press = (rig: TestRig, atMs: number): void => {
    rig.cc(80, 127, atMs, 'Treadle 6');
    rig.cc(80, 0, atMs + 1, 'Treadle 6');
  };

  it('recall patch n, song n, blend n, and the first of song and set', () => {
    for (const [action, from, expected] of [
      [{ kind: 'patch', number: 2 }, 0, 'Tin/2'],
      [{ kind: 'song', number: 2 }, 0, 'Kelp/k'],
      [{ kind: 'blend', number: 1 }, 0, 'Tin/1/quiet'],
      [{ kind: 'blend', number: 0 }, 1, 'Tin/1'],
      [{ kind: 'firstStep' }, 2, 'Tin/1'],
      [{ kind: 'firstSong' }, 3, 'Tin/1'],
      [{ kind: 'blend', number: 3 }, 0, 'Tin/1'],
    ] as const) {
      const rig = new TestRig(
        [tin(), song('Kelp', { layers: [layer('K')], patches: [{ id: 'k', name: 'k', parts: [part('K')] }] })],
        feet('R', action),
      );
      rig.engine.recall(from, 1);
      press(rig, 1000);
      expect(`${JSON.stringify(action)} ${rig.here}`).toBe(`${JSON.stringify(action)} ${expected}`);
    }
  });

  it('transpose later notes; each ends where it began', () => {
    const rig = new TestRig(
      [tin({ layers: [layer('A'), layer('B', { followsTranspose: false })] })],
      feet('Up', { kind: 'transposeUp' }),
    );
    rig.on(60, 900);
    press(rig, 1000);
    rig.off(60, 1010);
    rig.on(60, 1020);
    rig.off(60, 1030);
    expect(rig.take()).toEqual([
      '1/A on 60 100',
      '1/B on 60 100',
      '1/B off 60',
      '1/A off 60',
      '1/A on 61 100',
      '1/B on 60 100',
      '1/B off 60',
      '1/A off 61',
    ]);
  });

  it('hold keeps what sounds until it is pressed again', () => {
    const rig = new TestRig([tin()], feet('Keep', { kind: 'hold' }));
    rig.on(60, 900);
    press(rig, 1000);
    rig.off(60, 1010);
    rig.on(64, 1020);
    rig.off(64, 1030);
    rig.engine.recall(2, 1040);
    expect(rig.engine.sounding().map(({ key }) => key)).toEqual([60, 60]);
    press(rig, 1100);
    expect(rig.engine.sounding()).toEqual([]);
  });

  it('tap the tempo from the mean of the last gaps', () => {
    const rig = new TestRig([tin({ map: steadyMap(90) })], feet('Tap', { kind: 'tapTempo' }));
    for (const at of [1000, 1500, 2010, 2500]) press(rig, at);
    expect(rig.engine.tempoBpm).toBeCloseTo(120, 0);
    rig.engine.recall(2, 3000);
    expect(rig.engine.tempoBpm).toBeCloseTo(120, 0);
  });

  it('act for a program change of one bank, not of another, and for a pair of pedals', () => {
    const rig = new TestRig([tin()], {
      gear: {
        ...gear(
          { role: 'Next', source: { port: 'Feet', kind: 'program', number: 5, msb: 1 }, guardMs: 0 },
          { role: 'Back', source: { port: 'Feet', kind: 'program', number: 5, msb: 2 }, guardMs: 0 },
          { role: 'Next', source: { port: 'Feet', kind: 'program', number: 7 }, guardMs: 0 },
        ),
      },
      setlist: { bindings: [bind('Next', { kind: 'nextStep' }), bind('Back', { kind: 'previousStep' })] },
    });
    rig.cc(0, 1, 1, 'Treadle 6');
    rig.program(5, 2);
    rig.program(7, 3);
    expect(rig.here).toBe('Tin/2');
    rig.cc(0, 2, 4, 'Treadle 6');
    rig.program(5, 5);
    expect(rig.here).toBe('Tin/1/quiet');
    rig.cc(0, 3, 6, 'Treadle 6');
    rig.program(5, 7);
    expect(rig.reasons()).toContain('no-such-program');
  });

  it('on a passed-on key re-arm at its release', () => {
    const rig = new TestRig(
      [tin()],
      feet('Next', { kind: 'nextStep' }, { port: 'Keys', kind: 'note', number: 60 }, { passOn: true }),
    );
    for (const at of [1000, 1100]) {
      rig.on(60, at);
      rig.off(60, at + 10);
    }
    expect(rig.here).toBe('Tin/2');
    expect(rig.engine.sounding()).toEqual([]);
  });

  it('are not made by a pedal that trembles around its middle', () => {
    const rig = new TestRig([tin()], feet('Next', { kind: 'nextStep' }));
    [70, 62, 65, 60, 66].forEach((value, i) => rig.cc(80, value, 1000 + i * 10, 'Treadle 6'));
    expect(rig.here).toBe('Tin/1/quiet');
  });

  it('come from keys of the computer', () => {
    const rig = new TestRig([tin()], {
      gear: gear({ role: 'Next', source: { kind: 'computerKey', code: 'PageDown' } }),
      setlist: { bindings: [bind('Next', { kind: 'nextStep' })] },
    });
    expect(rig.engine.computerKey('PageDown', true, 1000)).toBe(true);
    expect(rig.engine.computerKey('PageUp', true, 1001)).toBe(false);
    expect(rig.here).toBe('Tin/1/quiet');
  });

  it('follow a counter’s two directions, each with its own role', () => {
    const ports = GEAR.ports.map((port) =>
      port.alias === 'Feet' ? { ...port, programs: { kind: 'counter', lowest: 0, highest: 9, guardMs: 0 } } : port,
    );
    const rig = new TestRig([tin()], {
      gear: {
        ...GEAR,
        ports,
        roles: [
          { role: 'On', source: { port: 'Feet', kind: 'count', direction: 'up' }, guardMs: 0 },
          { role: 'Off', source: { port: 'Feet', kind: 'count', direction: 'down' }, guardMs: 0 },
        ],
      },
      setlist: { bindings: [bind('On', { kind: 'patch', number: 2 }), bind('Off', { kind: 'patch', number: 1 })] },
    });
    rig.program(5, 1);
    rig.program(6, 2);
    expect(rig.here).toBe('Tin/2');
    rig.program(5, 3);
    expect(rig.here).toBe('Tin/1');
  });
});

describe('preset steps', () => {
  const stepping = (sound: object, over: object = {}) => ({
    songs: [
      song('Moth', {
        layers: [layer('S', { sound })],
        patches: [
          { id: 'p', name: 'p', parts: [part('S')] },
          { id: 'q', name: 'q', parts: [part('S')] },
        ],
        bindings: [
          bind('Next sound', { kind: 'presetStep', layerId: 'S', by: 1 }, over),
          bind('Last sound', { kind: 'presetStep', layerId: 'S', by: -1 }, over),
        ],
      }),
    ],
    gear: gear(
      { role: 'Next sound', source: { port: 'Feet', kind: 'controller', number: 80 }, guardMs: 0 },
      { role: 'Last sound', source: { port: 'Feet', kind: 'controller', number: 81 }, guardMs: 0 },
    ),
  });
  const press = (rig: TestRig, controller: number, atMs: number): void => {
    rig.cc(controller, 127, atMs, 'Treadle 6');
    rig.cc(controller, 0, atMs + 1, 'Treadle 6');
  };

  it('walk a built-in instrument’s presets, which wrap; a recall brings its own back', () => {
    const [instrument] = BUILT_INS;
    const { songs, gear: list } = stepping({ instrumentId: instrument.id, presetId: instrument.presets[0].id });
    const rig = new TestRig(songs, { gear: list });
    press(rig, 80, 100);
    press(rig, 81, 200);
    press(rig, 81, 300);
    expect(rig.told.filter((line) => line.includes('preset'))).toEqual([
      'p/S preset 1',
      'p/S preset 0',
      `p/S preset ${instrument.presets.length - 1}`,
    ]);
    expect(rig.engine.balanceNow()[0].steppedTo).toBe(instrument.presets.length - 1);
    rig.engine.recall(0, 400);
    expect(rig.told.at(-1)).toBe('p/S preset 0');
    expect(rig.engine.balanceNow()[0].steppedTo).toBeNull();
  });

  it('and mutes say how they stand, for whoever draws them', () => {
    const { songs } = stepping({ instrumentId: BUILT_INS[0].id, presetId: BUILT_INS[0].presets[0].id });
    const hush = bind('Hush', { kind: 'layerSwitch', layerId: 'S', what: 'mute' });
    const list = gear(
      { role: 'Hush', source: { port: 'Feet', kind: 'controller', number: 80 }, guardMs: 0 },
      { role: 'Keep', source: { port: 'Feet', kind: 'controller', number: 81 }, guardMs: 0 },
    );
    const bindings = [...songs[0].bindings, hush, bind('Keep', { kind: 'hold' })];
    const rig = new TestRig([{ ...songs[0], bindings } as (typeof songs)[0]], { gear: list });
    const isOn = (role: string) => rig.engine.controlStates().find((control) => control.role === role)!.does[0].on;
    expect([isOn('Hush'), isOn('Keep')]).toEqual([false, false]);
    press(rig, 80, 100);
    press(rig, 81, 200);
    expect([isOn('Hush'), isOn('Keep')]).toEqual([true, true]);
    expect(rig.engine.balanceNow()[0].mute).toBe(true);
    press(rig, 80, 300);
    expect(isOn('Hush')).toBe(false);
  });

  it('send an outboard instrument’s next address', () => {
    const { songs, gear: list } = stepping({ instrumentId: 'skerry', presetId: 'sk0' }, { onRecall: 'hand' });
    const rig = new TestRig(songs, { gear: list, instruments: [outboardInstrument({ switchMs: 0 })] });
    rig.take();
    press(rig, 80, 1000);
    const sent = rig.take();
    expect(sent.at(-1)).toMatch(/^Skerry program/);
    rig.engine.recall(1, 1100);
    expect(rig.take()).toEqual([]);
  });

  // Found by property 6 (seed 20261123, path 266:…): an edit told the channel its own address again, over what a
  // message had put there.
  it('send nothing at an edit, whatever has been put on the channel meanwhile', () => {
    const { songs, gear: list } = stepping({ instrumentId: 'skerry', presetId: 'sk0' });
    const entering = [{ kind: 'program', port: 'Skerry', channel: 1, program: 99 }];
    const rig = new TestRig(
      songs.map((moth) => ({ ...moth, patches: moth.patches.map((patch) => ({ ...patch, entering })) }) as typeof moth),
      { gear: list, instruments: [outboardInstrument({ switchMs: 0 })] },
    );
    press(rig, 80, 100);
    rig.engine.recall(1, 200);
    rig.take();
    rig.edit(
      'Moth',
      (moth) => ({ ...moth, patches: moth.patches.map((patch) => ({ ...patch, name: `${patch.name}!` })) }),
      300,
    );
    expect(rig.take()).toEqual([]);
  });

  it('count an instrument that knows only next and previous, the shorter way round; its count can be set right', () => {
    const names = Array.from({ length: 6 }, (_, i) => ({ id: `c${i}`, name: `c${i}`, program: i }));
    const counted = outboardInstrument({
      switchMs: 0,
      names,
      counted: { next: { kind: 'controller', number: 20, value: 127 }, previous: { kind: 'note', number: 3 } },
    });
    const { songs, gear: list } = stepping({ instrumentId: 'skerry', presetId: 'c2' });
    const rig = new TestRig(songs, { gear: list, instruments: [counted] });
    expect(rig.take()).toEqual(['Skerry cc 20 127', 'Skerry cc 20 127']);
    press(rig, 81, 1000);
    expect(rig.take()).toEqual(['Skerry on 3 100', 'Skerry off 3']);
    rig.engine.setCount(rig.registry.findOutputPort('Skerry'), 0, 5);
    press(rig, 80, 1100);
    expect(rig.take()).toEqual(['Skerry cc 20 127', 'Skerry cc 20 127', 'Skerry cc 20 127']);
    rig.engine.outputGone(rig.registry.findOutputPort('Skerry'), 1200);
    rig.engine.outputBack(rig.registry.findOutputPort('Skerry'), 1300);
    expect(rig.take()).toEqual([]);
  });
});

describe('resend', () => {
  it('tells all gear of the patch its address and controllers again', () => {
    const rig = new TestRig(
      [
        song('Moth', {
          layers: [layer('S', { sound: { instrumentId: 'skerry', presetId: 'sk0' } })],
          patches: [{ id: 'p', name: 'p', parts: [part('S')] }],
        }),
      ],
      { instruments: [outboardInstrument({ switchMs: 0 })] },
    );
    const first = rig.take();
    rig.cc(11, 90, 10);
    rig.take();
    rig.engine.perform('resend', 20);
    expect(rig.take()).toEqual([...first, 'Skerry cc 11 90']);
  });
});

describe('an outside clock', () => {
  const clocked = (bpm: number) => {
    const ports = [...GEAR.ports, { direction: 'in', alias: 'Pilot', device: 'Pilot Cutter', plays: false }];
    const rig = new TestRig(
      [
        tin({
          map: steadyMap(100),
          cues: [
            { kind: 'recall', id: 'c0', atTick: 0, patchId: 'p1' },
            { kind: 'recall', id: 'c1', atTick: 3840, patchId: 'p2' },
            { kind: 'recall', id: 'c2', atTick: 3860, patchId: 'p1', blendId: 'b' },
          ],
        }),
      ],
      { gear: { ...GEAR, ports, clockFrom: 'Pilot' } },
    );
    const pilot = rig.port('Pilot Cutter');
    const everyMs = 60_000 / bpm / 24;
    return {
      rig,
      everyMs,
      send: (status: number, atMs: number, data1 = 0, data2 = 0) =>
        rig.engine.receive(pilot, status, data1, data2, atMs),
    };
  };

  it('is armed by start; the next pulse is 1 | 1 | 0, and 24 make a quarter', () => {
    const { rig, everyMs, send } = clocked(120);
    send(0xfa, 100);
    expect(rig.engine.isPlaying).toBe(false);
    for (let i = 0; i < 96; i++) send(0xf8, 110 + i * everyMs);
    expect(rig.engine.tickAt(110 + 95 * everyMs)).toBe(95 * 40);
    expect(rig.here).toBe('Tin/1');
    send(0xf8, 110 + 96 * everyMs);
    expect(rig.here).toBe('Tin/2');
    rig.engine.advance(110 + 96.4 * everyMs);
    expect(rig.here).toBe('Tin/2');
    rig.engine.advance(110 + 96.6 * everyMs);
    expect(rig.here).toBe('Tin/1/quiet');
    expect(rig.engine.tempoBpm).toBeCloseTo(120, 0);
  });

  it('stops, takes a song position, and continues there, with what belongs there', () => {
    const { rig, everyMs, send } = clocked(100);
    send(0xfa, 0);
    for (let i = 0; i < 4; i++) send(0xf8, i * everyMs);
    send(0xfc, 200);
    expect(rig.engine.isPlaying).toBe(false);
    send(0xf2, 300, 16);
    send(0xfb, 310);
    send(0xf8, 320);
    expect(rig.here).toBe('Tin/2');
    expect(rig.engine.tickAt(320)).toBe(3840);
  });

  it('counts the clock of other ports and changes nothing by it; the page cannot start what is clocked from outside', () => {
    const { rig } = clocked(100);
    rig.engine.receive(rig.port('Aster 73'), 0xfa, 0, 0, 10);
    rig.engine.receive(rig.port('Aster 73'), 0xf8, 0, 0, 20);
    rig.engine.perform('play', 30);
    expect(rig.engine.isPlaying).toBe(false);
    expect(rig.reasons()).toEqual(['other-clock', 'other-clock']);
  });

  it('that is lost stops nothing that sounds', () => {
    const { rig, everyMs, send } = clocked(120);
    send(0xfa, 0);
    for (let i = 0; i < 10; i++) send(0xf8, i * everyMs);
    rig.on(60, 300);
    rig.engine.advance(60_000);
    expect(rig.engine.sounding()).not.toEqual([]);
  });
});

describe('the clock that is sent', () => {
  it('is start, 24 pulses a quarter at their exact times, stop; in the middle song position and continue', () => {
    const ports = GEAR.ports.map((port) => (port.alias === 'Skerry' ? { ...port, sendsClock: true } : port));
    const rig = new TestRig([tin({ map: steadyMap(120) })], { gear: { ...GEAR, ports } });
    rig.sent.length = 0;
    rig.engine.perform('play', 1000);
    for (let dueMs = rig.engine.advance(1000); dueMs <= 1500; dueMs = rig.engine.advance(dueMs));
    const pulses = rig.sent.filter(({ status }) => status === 0xf8);
    expect(rig.sent[0].status).toBe(0xfa);
    expect(pulses).toHaveLength(25);
    expect(pulses[24].atMs).toBeCloseTo(1500, 6);
    rig.engine.perform('stop', 1510);
    expect(rig.sent.at(-1)!.status).toBe(0xfc);
    rig.engine.locate(3840, 1600);
    rig.sent.length = 0;
    rig.engine.perform('play', 1700);
    expect(rig.sent.map(({ status, data1 }) => [status, data1])).toEqual([
      [0xf2, 16],
      [0xfb, 0],
    ]);
  });
});
