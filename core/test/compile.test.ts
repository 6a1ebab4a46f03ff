import { describe, expect, it } from '@jest/globals';
import { Registry, ShowCompiler } from '../src/engine';
import { GEAR, TestRig, layer, outboardInstrument, part, song } from './build';

const songs = () =>
  ['Tin', 'Moth', 'Kelp'].map((id) =>
    song(id, {
      layers: [layer('a')],
      patches: [
        { id: `${id}p`, name: 'P', parts: [part('a')], blends: [{ id: `${id}b`, name: 'b' }] },
        { id: `${id}q`, name: 'Q', parts: [part('a')] },
      ],
    }),
  );
const parts = (rig: TestRig) =>
  [{ songs: rig.show.songs, instruments: rig.show.instruments }, rig.show.setlists[0], rig.show.gearLists[0]] as const;

describe('compiling a show', () => {
  it('keeps what has not changed: an edit compiles its own song only', () => {
    const rig = new TestRig(songs());
    const compiler = new ShowCompiler(new Registry());
    const before = compiler.compile(...parts(rig));
    rig.show = { ...rig.show, songs: rig.show.songs.map((s, i) => (i === 1 ? { ...s, transpose: 2 } : s)) };
    const after = compiler.compile(...parts(rig));
    expect(after.patches.map((patch, i) => patch === before.patches[i])).toEqual([
      true,
      true,
      false,
      false,
      true,
      true,
    ]);
  });

  it('compiles no song anew when the gear changes, only what the inputs reach', () => {
    const rig = new TestRig(songs());
    const compiler = new ShowCompiler(new Registry());
    const before = compiler.compile(...parts(rig));
    rig.show = { ...rig.show, gearLists: [{ ...rig.show.gearLists[0], sendAgain: true }] };
    const after = compiler.compile(...parts(rig));
    expect(after.patches.every((patch, i) => patch === before.patches[i])).toBe(true);
    expect(after.rows).not.toBe(before.rows);
  });

  it('shares equal key rows, and blends share their patch’s plan', () => {
    const rig = new TestRig(songs());
    const compiled = new ShowCompiler(new Registry()).compile(...parts(rig));
    expect(new Set(compiled.patches.map((patch) => compiled.rows[patch.keymap][0])).size).toBe(1);
    expect(compiled.steps).toHaveLength(9);
    expect(compiled.patches).toHaveLength(6);
    expect(compiled.plans.count).toBe(6);
  });

  it('gives devices, outputs and layers the same numbers again', () => {
    const rig = new TestRig(songs());
    const numbers = () => [rig.port('Aster 73'), rig.registry.findOutputPort('Skerry'), rig.registry.laneCount];
    const before = numbers();
    rig.show = {
      ...rig.show,
      gearLists: [{ ...rig.show.gearLists[0], ports: [...rig.show.gearLists[0].ports].reverse() }],
    };
    rig.load(1);
    expect(numbers()).toEqual(before);
  });

  it('tells what it leaves out', () => {
    const notes = (change: { songs?: object; setlist?: object; gear?: object }) => {
      const rig = new TestRig(
        [
          song('Tin', {
            layers: [layer('a', { preset: 'sk0' }), layer('b', { preset: 'sk1' })],
            patches: [{ id: 'p', name: 'P', parts: [part('a'), part('b')] }],
            ...change.songs,
          }),
        ],
        { instruments: [outboardInstrument()], setlist: change.setlist, gear: change.gear },
      );
      return new ShowCompiler(new Registry()).compile(...parts(rig)).notes.map((note) => note.code);
    };
    expect(notes({})).toEqual(['channel-taken']);
    expect(notes({ songs: { patches: [{ id: 'p', name: 'P', parts: [part('ghost')] }] } })).toEqual(['no-such-layer']);
    expect(
      notes({
        songs: { patches: [{ id: 'p', name: 'P', entering: [{ kind: 'sysex', port: 'Skerry', bytes: [1] }] }] },
      }),
    ).toEqual(['sysex-not-allowed']);
    expect(
      notes({
        songs: {
          layers: [{ id: 'a', name: 'a', tape: 'moss', sound: { instrumentId: 'gone', presetId: 'x' } }],
          patches: [{ id: 'p', name: 'P', parts: [part('a')] }],
        },
      }),
    ).toEqual(['no-such-instrument']);
    expect(
      notes({ songs: { patches: [] }, setlist: { programs: [{ target: { songId: 'gone' }, program: 3 }] } }),
    ).toEqual(['program-leads-nowhere']);
    const source = { port: 'Keys', kind: 'note', number: 30 };
    expect(
      notes({
        songs: { patches: [] },
        setlist: {
          bindings: [
            { role: 'Next', action: { kind: 'nextStep' } },
            { role: 'Back', action: { kind: 'previousStep' } },
          ],
        },
        gear: {
          ...GEAR,
          roles: [
            { role: 'Next', source },
            { role: 'Back', source },
          ],
        },
      }),
    ).toEqual(['source-twice']);
  });

  it('lets a number be bound to one port and channel, which comes before the same number from anywhere', () => {
    const rig = new TestRig(songs(), {
      setlist: {
        programs: [
          { target: { songId: 'Tin', patchId: 'Tinq' }, program: 5 },
          { target: { songId: 'Kelp', patchId: 'Kelpq' }, program: 5, port: 'Feet', channel: 2 },
        ],
      },
    });
    rig.engine.receive(rig.port('Treadle 6'), 0xc1, 5, 0, 1);
    expect(rig.here).toBe('Kelp/Q');
    rig.program(5, 2);
    expect(rig.here).toBe('Tin/Q');
  });
});
