import { describe, expect, it } from '@jest/globals';
import { Registry, ShowCompiler } from '../src/engine';
import {
  EFFECT_KINDS,
  EFFECT_PARAMETERS,
  Effect,
  SharedEffect,
  effectChanges,
  withEffectChanges,
  withEffectValue,
  steadyMap,
} from '../src/show';
import { GEAR, TestRig, layer, part, song } from './build';

const drive = { id: 'd', kind: 'drive', amount: 30, mix: 100 };
const filter = { id: 'f', kind: 'filter', hz: 2000, resonance: 10 };
const knob = (role: string, number: number) => ({
  role,
  source: { port: 'Keys', kind: 'controller', number },
  pickUp: 'atOnce',
});
const pad = (role: string, number: number) => ({ role, source: { port: 'Keys', kind: 'note', number }, guardMs: 0 });
const gear = {
  ...GEAR,
  roles: [knob('Drive', 20), knob('Open', 21), pad('Dirt', 30), knob('Hall', 22), pad('Hush', 31)],
};
const bind = (role: string, action: object, over: object = {}) => ({ role, action, ...over });
const stomp = (over: object = {}) =>
  song('Stomp', {
    layers: [layer('A', { effects: [drive, filter] }), layer('B')],
    patches: [
      {
        id: 'p',
        name: 'Verse',
        parts: [part('A'), part('B')],
        blends: [
          {
            id: 'b',
            name: 'solo',
            timeMs: 800,
            values: [
              {
                layerId: 'A',
                effects: [
                  { effectId: 'd', values: { amount: 90 } },
                  { effectId: 'f', on: false },
                ],
              },
            ],
          },
        ],
      },
      { id: 'q', name: 'Out', parts: [part('A'), part('B')] },
    ],
    bindings: [
      bind('Drive', { kind: 'effectValue', layerId: 'A', effectId: 'd', parameter: 'amount' }),
      bind('Open', { kind: 'effectValue', layerId: 'A', effectId: 'f', parameter: 'hz' }),
      bind('Dirt', { kind: 'effectOnOff', layerId: 'A', effectId: 'd' }),
    ],
    ...over,
  });
const since = (rig: TestRig): string[] => rig.told.splice(0).filter((line) => !line.startsWith('tempo'));

describe('the table of parameters', () => {
  it('names every number of every kind of effect, with the ends that the model has', () => {
    for (const kind of EFFECT_KINDS) {
      const made = Effect.parse({ id: 'e', kind });
      const numbers = Object.keys(Effect.options.find((option) => option.shape.kind.value === kind)!.shape).filter(
        (name) => !['kind', 'id', 'on', 'note', 'type'].includes(name),
      );
      expect(EFFECT_PARAMETERS[kind].map(({ name }) => name).sort()).toEqual(numbers.sort());
      for (const { name, low, high } of EFFECT_PARAMETERS[kind]) {
        for (const good of [low, high]) expect(Effect.safeParse({ ...made, [name]: good }).success).toBe(true);
        for (const bad of [low - 0.01, high + 0.01])
          expect(Effect.safeParse({ ...made, [name]: bad }).success).toBe(false);
      }
    }
  });

  it('keeps values within their ends, and leaves alone what an effect does not have', () => {
    const made = Effect.parse(drive);
    expect(withEffectValue(made, 'amount', 900)).toMatchObject({ amount: 100 });
    expect(withEffectValue(made, 'hz', 900)).toBe(made);
    expect(withEffectChanges([made], [{ effectId: 'gone' as Effect['id'], values: { mix: 3 } }])).toEqual([made]);
  });

  it('finds what leads from one state of a series to another', () => {
    const from = [Effect.parse(drive), Effect.parse(filter)];
    const to = [Effect.parse({ ...drive, amount: 90 }), Effect.parse({ ...filter, on: false })];
    expect(withEffectChanges(from, effectChanges(from, to))).toEqual(to);
    expect(effectChanges(from, from)).toEqual([]);
  });
});

describe('the effects of a layer', () => {
  it('are told at a recall; a blend goes to its own in its time, and the patch takes them back', () => {
    const rig = new TestRig([stomp()], { gear });
    expect(since(rig)).toEqual(['Verse/A effects drive 30 100, filter 2000 10 in 12']);
    rig.engine.recall(1, 10);
    expect(since(rig)).toEqual(['Verse/A effects drive 90 100, filter off 2000 10 in 800']);
    expect(rig.engine.balanceNow().map(({ effects }) => effects)).toEqual([
      [
        { effectId: 'd', values: { amount: 90 } },
        { effectId: 'f', on: false, values: {} },
      ],
      [],
    ]);
    rig.engine.recall(0, 20);
    expect(since(rig)).toEqual(['Verse/A effects drive 30 100, filter 2000 10 in 12']);
  });

  it('are moved by a knob, frequencies by ratio, until a recall brings them back', () => {
    const rig = new TestRig([stomp()], { gear });
    since(rig);
    rig.cc(20, 127, 10);
    rig.cc(21, 0, 20);
    rig.cc(21, 127, 30);
    expect(since(rig)).toEqual(['Verse/A d amount 100', 'Verse/A f hz 20', 'Verse/A f hz 20000']);
    rig.cc(21, 64, 40);
    expect(Number(since(rig)[0].split(' ').at(-1))).toBeCloseTo(20 * 1000 ** (64 / 127), 1);
    expect(rig.engine.balanceNow()[0].effects[0]).toEqual({ effectId: 'd', values: { amount: 100 } });
    rig.engine.recall(2, 50);
    expect(since(rig)).toEqual(['Out/A effects drive 30 100, filter 2000 10 in 12']);
    expect(rig.engine.balanceNow()[0].effects).toEqual([]);
  });

  it('stay as the hand left them where the binding says so, also over an edit', () => {
    const rig = new TestRig(
      [
        stomp({
          bindings: [
            bind(
              'Drive',
              { kind: 'effectValue', layerId: 'A', effectId: 'd', parameter: 'amount' },
              { onRecall: 'hand', low: 10, high: 60 },
            ),
          ],
        }),
      ],
      { gear },
    );
    rig.cc(20, 127, 10);
    since(rig);
    rig.engine.recall(2, 20);
    expect(since(rig)).toEqual(['Out/A effects drive 30 100, filter 2000 10 in 12', 'Out/A d amount 60']);
    rig.edit('Stomp', (edited) => ({ ...edited, map: steadyMap(90) }), 30);
    expect(since(rig)).toContain('Out/A d amount 60');
  });

  it('are switched by a press, and each press turns the present state round', () => {
    const rig = new TestRig([stomp()], { gear });
    since(rig);
    rig.on(30, 10);
    rig.off(30, 20);
    rig.on(30, 500);
    expect(since(rig)).toEqual(['Verse/A d on 0', 'Verse/A d on 1']);
    expect(rig.take()).toEqual([]);
  });

  it('that are not there are moved by nothing, and it is counted', () => {
    const rig = new TestRig([stomp({ layers: [layer('A'), layer('B')] })], { gear });
    since(rig);
    rig.cc(20, 127, 10);
    rig.on(30, 20);
    expect(since(rig)).toEqual([]);
    expect(rig.reasons()).toEqual(['no-layer-here', 'no-layer-here']);
  });
});

describe('effects of the setlist', () => {
  const setlist = {
    sharedEffects: [{ id: 's', name: 'Hall', effects: [{ id: 'r', kind: 'reverb', seconds: 2, mix: 100 }] }],
    wholeEffects: [{ id: 'q', kind: 'equaliser' }],
    bindings: [
      bind('Hall', { kind: 'sharedEffectValue', effectId: 'r', parameter: 'mix' }),
      bind('Hush', { kind: 'sharedEffectOnOff', effectId: 'q' }),
    ],
  };

  it('are moved and switched by roles, whatever patch is played', () => {
    const rig = new TestRig([stomp()], { gear, setlist });
    since(rig);
    rig.cc(22, 0, 10);
    rig.on(31, 20);
    rig.off(31, 25);
    rig.engine.recall(2, 30);
    rig.on(31, 500);
    expect(since(rig).filter((line) => line.startsWith('setlist'))).toEqual([
      'setlist r mix 0',
      'setlist q on 0',
      'setlist q on 1',
    ]);
  });

  it('compile no song anew when they are edited and no role moves them', () => {
    const compiledTwice = (bindings: object[]): boolean => {
      const rig = new TestRig([stomp()], { gear, setlist: { ...setlist, bindings } });
      const compiler = new ShowCompiler(new Registry());
      const compile = (mix: number) =>
        compiler.compile(
          rig.show,
          {
            ...rig.show.setlists[0],
            sharedEffects: [
              SharedEffect.parse({ ...setlist.sharedEffects[0], effects: [{ id: 'r', kind: 'reverb', mix }] }),
            ],
          },
          rig.show.gearLists[0],
        ).patches[0];
      return compile(10) !== compile(20);
    };
    expect(compiledTwice([])).toBe(false);
    expect(compiledTwice(setlist.bindings)).toBe(true);
  });

  it('are sent to anew where a blend differs in nothing else', () => {
    const sends = stomp({
      patches: [
        {
          id: 'p',
          name: 'Verse',
          parts: [part('B')],
          blends: [{ id: 'b', name: 'wet', values: [{ layerId: 'B', sends: [{ to: 'Hall', percent: 50 }] }] }],
        },
      ],
    });
    const rig = new TestRig([sends], { gear, setlist });
    const before = rig.balances.length;
    rig.engine.recall(1, 10);
    expect(rig.balances).toHaveLength(before + 1);
  });
});

describe('parameters that a patch stores', () => {
  const dark = [{ controller: 74, value: 30 }];
  const dim = (over: object = {}) =>
    song('Dim', {
      layers: [layer('A'), layer('B', { preset: 'sk1' }), layer('C', { preset: 'sk1' })],
      patches: [
        {
          id: 'p',
          name: 'Low',
          parts: [
            part('A', { parameters: dark }),
            part('B', { parameters: dark }),
            part('C', { parameters: [{ controller: 74, value: 90 }] }),
          ],
          blends: [
            {
              id: 'b',
              name: 'open',
              values: [
                {
                  layerId: 'A',
                  parameters: [
                    { controller: 74, value: 100 },
                    { controller: 72, value: 80 },
                  ],
                },
              ],
            },
          ],
        },
        { id: 'q', name: 'High', parts: [part('B')] },
        { id: 'r', name: 'Inside', parts: [part('A')] },
      ],
      ...over,
    });
  const sounds = (rig: TestRig): string[] => rig.take().filter((line) => / cc 7[0-9] /.test(line));

  it('are set at its recall, of several layers on one channel by the first; a blend sets its own and takes them back', () => {
    const rig = new TestRig([dim()]);
    expect(sounds(rig)).toEqual(['Low/A cc 74 30', 'Low/A cc 72 64', 'Skerry cc 74 30']);
    rig.engine.recall(1, 10);
    expect(sounds(rig)).toEqual(['Low/A cc 74 100', 'Low/A cc 72 80']);
    rig.engine.recall(0, 20);
    expect(sounds(rig)).toEqual(['Low/A cc 74 30', 'Low/A cc 72 64']);
  });

  it('go back to rest on an outboard channel when another patch plays there that sets nothing, and only there', () => {
    const rig = new TestRig([dim()]);
    sounds(rig);
    rig.engine.recall(3, 10);
    expect(sounds(rig)).toEqual([]);
    rig.engine.recall(2, 20);
    expect(sounds(rig)).toEqual(['Skerry cc 74 64']);
    rig.engine.recall(0, 30);
    expect(sounds(rig)).toEqual(['Skerry cc 74 30']);
  });

  it('win over what the hand left at a recall, not over a hand that moves it later, nor at an edit of something else', () => {
    const rig = new TestRig([dim()]);
    sounds(rig);
    rig.cc(74, 120, 10);
    expect(sounds(rig)).toEqual(['Low/A cc 74 120', 'Skerry cc 74 120']);
    rig.edit(
      'Dim',
      (edited) => ({ ...edited, patches: edited.patches.map((patch) => ({ ...patch, note: 'louder' })) }),
      20,
    );
    expect(sounds(rig)).toEqual([]);
    rig.engine.recall(0, 30);
    expect(sounds(rig)).toEqual(['Low/A cc 74 30', 'Skerry cc 74 30']);
    rig.edit(
      'Dim',
      (edited) => ({
        ...edited,
        patches: edited.patches.map((patch) => ({
          ...patch,
          parts: patch.parts.map((each) => ({
            ...each,
            parameters: each.parameters.map(({ controller }) => ({ controller, value: 50 })),
          })),
        })),
      }),
      40,
    );
    expect(sounds(rig)).toEqual(['Low/A cc 74 50', 'Skerry cc 74 50']);
  });

  it('are sent again to an output that was away', () => {
    const rig = new TestRig([dim()]);
    rig.engine.outputGone(rig.registry.findOutputPort('Skerry'), 10);
    sounds(rig);
    rig.engine.outputBack(rig.registry.findOutputPort('Skerry'), 20);
    expect(sounds(rig)).toEqual(['Skerry cc 74 30']);
  });
});
