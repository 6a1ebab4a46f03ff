import { describe, expect, it } from '@jest/globals';
import { openRoles, rolesInUse, withRenamedRole, withoutRole } from '../src/controls';
import {
  Binding,
  EverySetlist,
  GearList,
  Setlist,
  copiedSetlist,
  emptySetlistLike,
  madeEvery,
  madeOfOne,
  playedSetlist,
  showFaults,
  withEveryBinding,
} from '../src/show';
import { openedShow } from '../src/formats';
import { bodiesOf } from '../src/show';
import { soundcheck } from '../src/soundcheck';
import { GEAR, TestRig, layer, part, song } from './build';

const SWITCHES = {
  ...GEAR,
  ports: [
    { direction: 'in', alias: 'Keys', device: 'Aster 73' },
    { direction: 'in', alias: 'Feet', device: 'Treadle 6', plays: false, programs: { kind: 'off' } },
  ],
  roles: [
    { role: 'On', guardMs: 0, source: { kind: 'controller', port: 'Feet', number: 80 } },
    { role: 'Loud', source: { kind: 'controller', port: 'Keys', number: 7 } },
  ],
};
const binding = (role: string, action: object): Binding => Binding.parse({ role, action });
const every = (...bindings: Binding[]): EverySetlist =>
  EverySetlist.parse({ id: 'every-setlist', roles: bindings.map(({ role }) => role), bindings });
const two = () =>
  song('Moth', {
    layers: [layer('A')],
    patches: [
      { id: 'p1', name: 'P1', parts: [part('A')] },
      { id: 'p2', name: 'P2', parts: [part('A')] },
      { id: 'p3', name: 'P3', parts: [part('A')] },
    ],
  });
/** Presses the switch once, at a setlist with these bindings. */
const pressed = (everySetlist: EverySetlist[], setlist: object = {}): string => {
  const rig = new TestRig([two()], { gear: SWITCHES, setlist, everySetlist });
  rig.cc(80, 127, 10, 'Treadle 6');
  return rig.here;
};

describe('what is done in every setlist', () => {
  const next = binding('On', { kind: 'nextStep' });

  it('is done in a setlist that says nothing of its own', () => {
    expect(pressed([])).toBe('Moth/P1');
    expect(pressed([every(next)])).toBe('Moth/P2');
  });

  it('gives way to the setlist, the song and the patch, the nearest first', () => {
    const patch = (number: number): object => ({ role: 'On', action: { kind: 'patch', number } });
    expect(pressed([every(next)], { bindings: [patch(3)] })).toBe('Moth/P3');
    const rig = new TestRig([{ ...two(), bindings: [binding('On', { kind: 'patch', number: 3 })] }], {
      gear: SWITCHES,
      everySetlist: [every(next)],
    });
    rig.cc(80, 127, 10, 'Treadle 6');
    expect(rig.here).toBe('Moth/P3');
  });

  it('is changed while it is played: the next press does what is said then, and nothing sounds anew', () => {
    const rig = new TestRig([two()], { gear: SWITCHES });
    rig.on(60, 5);
    rig.take();
    rig.become({ ...rig.show, everySetlist: [every(binding('On', { kind: 'patch', number: 3 }))] }, 6);
    expect(rig.take()).toEqual([]);
    rig.cc(80, 127, 10, 'Treadle 6');
    expect(rig.here).toBe('Moth/P3');
    rig.become({ ...rig.show, everySetlist: [] }, 20);
    rig.cc(80, 0, 30, 'Treadle 6');
    rig.cc(80, 127, 40, 'Treadle 6');
    expect(rig.here).toBe('Moth/P3');
  });

  it('is listed before the setlist’s own, and says where a nearer use hides it', () => {
    const setlist = Setlist.parse({ id: 'night', name: 'Night', bindings: [binding('On', { kind: 'panic' })] });
    const [on, loud] = rolesInUse(setlist, {}, every(next, binding('Loud', { kind: 'wholeValue', value: 'levelDb' })));
    expect(on.uses.map(({ scope, hiddenIn }) => [scope, hiddenIn])).toEqual([
      ['everySetlist', [{ songId: null, patchId: null }]],
      ['setlist', []],
    ]);
    expect([loud.isValue, loud.uses[0].hiddenIn]).toEqual([true, []]);
  });

  it('counts as missing in the whole setlist when nothing plays it, and is looked at by the soundcheck', () => {
    const gear = GearList.parse({ ...SWITCHES, roles: [] });
    const setlist = Setlist.parse({ id: 'night', name: 'Night' });
    expect(openRoles(playedSetlist(setlist, every(next)), {}, gear).map(({ missedIn }) => missedIn)).toEqual([null]);
    const rig = new TestRig([two()], { gear: SWITCHES, everySetlist: [every(next)] });
    const codes = (show: typeof rig.show) => soundcheck(show).findings.map(({ rule }) => rule);
    expect(codes(rig.show)).not.toContain('no-step');
    expect(codes({ ...rig.show, everySetlist: [] })).toContain('no-step');
  });

  it('goes there from one setlist and back, with the role’s name', () => {
    const setlist = Setlist.parse({ id: 'night', name: 'Night', roles: ['On'], bindings: [next] });
    const up = madeEvery(setlist, every(), 'On');
    expect([up.setlist.bindings, up.everySetlist.roles, up.everySetlist.bindings]).toEqual([[], ['On'], [next]]);
    const down = madeOfOne({ ...up.setlist, roles: [] }, up.everySetlist, 'On');
    expect([down.setlist.roles, down.setlist.bindings, down.everySetlist.roles, down.everySetlist.bindings]).toEqual([
      ['On'],
      [next],
      [],
      [],
    ]);
  });

  it('takes the place of what the role did in every setlist before', () => {
    const setlist = Setlist.parse({ id: 'night', name: 'Night', bindings: [binding('On', { kind: 'panic' })] });
    const { everySetlist } = madeEvery(setlist, every(next), 'On');
    expect(everySetlist.bindings.map(({ action }) => action.kind)).toEqual(['panic']);
  });

  it('moves no layer and no effect: that is a fault, which the repair takes out', () => {
    const rig = new TestRig([two()], {});
    const layerUse = binding('On', { kind: 'layerSwitch', layerId: 'A', what: 'mute' });
    const effectUse = binding('Loud', { kind: 'sharedEffectOnOff', effectId: 'hall' });
    const show = { ...rig.show, everySetlist: [every(layerUse, effectUse, next)] };
    expect(showFaults(show).map(({ code }) => code)).toEqual(['not-in-every-setlist', 'not-in-every-setlist']);
    const { draft, repairs } = openedShow(bodiesOf(rig.show), show, 'theirs', () => 'x');
    expect(draft.everySetlist).toEqual([{ ...every(layerUse, effectUse, next), bindings: [next] }]);
    expect(repairs).toHaveLength(2);
  });

  it('stands once: a file that has another one asks which, and never makes two', () => {
    const rig = new TestRig([two()], { everySetlist: [every(next)] });
    const file = { ...rig.show, everySetlist: [every(binding('On', { kind: 'panic' }))] };
    const kinds = (choice: 'mine' | 'theirs' | 'both') =>
      openedShow(bodiesOf(rig.show), file, choice, () => 'x').draft.everySetlist?.length;
    expect([kinds('mine'), kinds('theirs'), kinds('both')]).toEqual([0, 1, 0]);
  });

  it('is renamed and removed with the role, in every other setlist too', () => {
    const lists = ['night', 'noon'].map((id) => Setlist.parse({ id, name: id, roles: ['On'], bindings: [next] }));
    const all = { everySetlist: [every(next)], setlists: lists, songs: [], gearLists: [GearList.parse(SWITCHES)] };
    const renamed = withRenamedRole('On', 'Onward', all);
    expect(renamed.everySetlist[0].roles).toEqual(['Onward']);
    expect(renamed.setlists.map(({ roles }) => roles)).toEqual([['Onward'], ['Onward']]);
    expect(renamed.gearLists[0].roles[0].role).toBe('Onward');
    expect(withoutRole('On', all).everySetlist[0].bindings).toEqual([]);
  });

  it('has a further use of a role that it names once only', () => {
    expect(withEveryBinding(every(next), binding('On', { kind: 'panic' })).roles).toEqual(['On']);
  });
});

describe('another gig', () => {
  const night = Setlist.parse({
    id: 'night',
    name: 'Night',
    date: '2026-06-20',
    place: 'Tern Ledge',
    programsFrom: 0,
    gearListId: 'loft',
    entries: [{ kind: 'song', id: 'e1', songId: 'Moth', keyShift: 2 }],
    roles: ['On'],
  });

  it('starts as a copy: its songs and keys, entries of its own, no day and no place', () => {
    const copy = copiedSetlist(night, 'noon' as never, 'Noon', () => 'e2' as never);
    expect(copy).toEqual({
      ...night,
      id: 'noon',
      name: 'Noon',
      date: null,
      place: '',
      entries: [{ ...night.entries[0], id: 'e2' }],
    });
  });

  it('or empty, by the same gear and way of counting', () => {
    const made = emptySetlistLike(night, 'noon' as never, 'Noon');
    expect([made.entries, made.gearListId, made.programsFrom, made.roles]).toEqual([[], 'loft', 0, []]);
  });
});

describe('tonight’s key', () => {
  const shifted = (keyShift: number) => {
    const one = song('Moth', {
      transpose: -1,
      layers: [layer('A', { preset: 'sk0' }), layer('B', { preset: 'sk0', channel: 2, followsTranspose: false })],
      patches: [{ id: 'p1', name: 'P1', parts: [part('A'), part('B')] }],
    });
    const entries = [
      { kind: 'song', id: 'e1', songId: 'Moth', keyShift },
      { kind: 'song', id: 'e2', songId: 'Moth' },
    ];
    return new TestRig([one], { setlist: { entries } });
  };

  it('shifts the song at this place in the set only, and only layers that transpose', () => {
    const rig = shifted(3);
    rig.take();
    rig.on(60, 10);
    expect(rig.take()).toEqual(['Skerry on 62 100', 'Skerry ch2 on 60 100']);
    rig.off(60, 11);
    rig.take();
    rig.engine.recall(1, 20);
    rig.take();
    rig.on(60, 30);
    expect(rig.take()).toEqual(['Skerry on 59 100', 'Skerry ch2 on 60 100']);
  });

  it('is changed under a held key: the key ends what it began, and the next one sounds in the new key', () => {
    const rig = shifted(0);
    rig.on(60, 10);
    rig.take();
    const [setlist] = rig.show.setlists;
    const entries = setlist.entries.map((entry) => (entry.id === 'e1' ? { ...entry, keyShift: 2 } : entry));
    rig.become({ ...rig.show, setlists: [{ ...setlist, entries } as Setlist] }, 20);
    expect(rig.take()).toEqual([]);
    rig.off(60, 30);
    expect(rig.take()).toContain('Skerry off 59');
    rig.on(60, 40);
    expect(rig.take()).toContain('Skerry on 61 100');
  });
});
