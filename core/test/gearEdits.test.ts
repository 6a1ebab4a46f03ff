import { describe, expect, it } from '@jest/globals';
import { inputsOf, openRoles, type Learned } from '../src/controls';
import {
  Click,
  EverySetlist,
  playedSetlist,
  GearList,
  Setlist,
  Song,
  type ControlSource,
  withLearned,
  withPort,
  withSource,
  withoutLastSource,
  withoutPort,
  withoutSource,
} from '../src/show';
import demo from '../../demo/tern-ledge.json';

const gear = GearList.parse(demo.gearLists[0]);
const learned = (source: ControlSource, over: Partial<Learned> = {}): Learned =>
  ({
    source,
    kind: 'button',
    button: 'momentary',
    reversed: false,
    sure: 1,
    saw: '',
    others: [],
    counter: null,
    advice: null,
    ...over,
  }) as Learned;
const controller = (port: string, number: number): ControlSource => ({
  kind: 'controller',
  port,
  channel: 1,
  number,
  coding: 'absolute',
});
const inputs = (list: GearList) => inputsOf(list).map(({ alias }) => alias as string);
/** Every alias of an input that a gear list names outside its ports' own names. */
const namedIn = (list: GearList): Set<string> =>
  new Set([
    ...list.roles.flatMap(({ source }) => (source.kind === 'computerKey' ? [] : [source.port])),
    ...inputsOf(list).flatMap((port) => [
      ...port.pedalsFor,
      ...(port.doubleOf === null ? [] : [port.doubleOf]),
      ...port.controls.flatMap(({ source }) => (source.kind === 'computerKey' ? [] : [source.port])),
    ]),
    ...(list.clockFrom === null ? [] : [list.clockFrom]),
  ]);

describe('the click of a gear list', () => {
  it('goes along with its port when that gets another name, and with no other', () => {
    const click = Click.parse({ to: { kind: 'port', port: 'Skerry' } });
    const named = (alias: string) => (port: GearList['ports'][number]) => ({ ...port, alias }) as typeof port;
    const renamed = withPort({ ...gear, click }, 'Skerry', 'out', named('Module'));
    expect(renamed.click.to).toMatchObject({ kind: 'port', port: 'Module' });
    expect(withPort({ ...gear, click }, 'Beacon', 'out', named('Lamp')).click).toBe(click);
  });
});

describe('what learn has found', () => {
  it('plays its role, and changes no other', () => {
    const next = withLearned(gear, 'Echo', learned(controller('Cobble 25', 22)));
    expect(next.roles.slice(0, -1)).toEqual(gear.roles);
    expect(next.roles.at(-1)).toMatchObject({
      role: 'Echo',
      source: { port: 'Cobble 25', number: 22 },
      lowest: 0,
      highest: 127,
    });
    expect(next.ports).toBe(gear.ports);
    const setlist = Setlist.parse(demo.setlists[0]);
    const songs = Object.fromEntries(demo.songs.map((song) => [song.id, Song.parse(song)]));
    const open = (list: GearList) =>
      openRoles(playedSetlist(setlist, EverySetlist.parse(demo.everySetlist[0])), songs, list).map(
        ({ role }) => role.role,
      );
    expect(open(gear)).toContain('Echo');
    expect(open(next)).toEqual(open(gear).filter((role) => role !== 'Echo'));
  });

  it('waits for a knob to meet the value, and never for pedals, breath, wheels and pressure', () => {
    const pickUp = (source: ControlSource) => withLearned(gear, 'Echo', learned(source)).roles.at(-1)!.pickUp;
    expect(pickUp(controller('Cobble 25', 22))).toBe('onMeeting');
    for (const number of [1, 2, 4, 11]) expect(pickUp(controller('Heel 1', number))).toBe('atOnce');
    expect(pickUp({ kind: 'wheel', port: 'Keys', channel: 1 })).toBe('atOnce');
    expect(pickUp({ kind: 'pressure', port: 'Keys', channel: 1 })).toBe('atOnce');
  });

  it('takes a port in that the gear list does not have: it plays roles only, and its programs recall nothing', () => {
    const next = withLearned(gear, 'Swell', learned(controller('Attic pedal', 4)));
    expect(inputsOf(next).at(-1)).toMatchObject({
      alias: 'Attic pedal',
      device: 'Attic pedal',
      plays: false,
      programs: { kind: 'off' },
    });
    expect(GearList.safeParse(next).success).toBe(true);
  });

  it('describes the counter of a controller that counts, once', () => {
    const up: ControlSource = { kind: 'count', port: 'Treadle 6', channel: 1, direction: 'up' };
    const next = withLearned(gear, 'Next song', learned(up, { counter: { lowest: 0, highest: 9 } }));
    expect(inputsOf(next).find(({ alias }) => alias === 'Treadle 6')!.programs).toMatchObject({
      kind: 'counter',
      lowest: 0,
      highest: 9,
    });
    const again = withLearned(next, 'Next patch', learned(up, { counter: { lowest: 2, highest: 7 } }));
    expect(again.ports).toBe(next.ports);
  });

  it('goes off again, the last first', () => {
    const once = withLearned(gear, 'Swell', learned(controller('Cobble 25', 22)));
    expect(withoutLastSource(once, 'Swell')).toEqual(gear);
    expect(withoutLastSource(gear, 'no such role')).toBe(gear);
  });

  it('of a computer key needs no port', () => {
    const next = withLearned(gear, 'Next patch', learned({ kind: 'computerKey', code: 'PageDown' }));
    expect(next.ports).toBe(gear.ports);
  });
});

describe('a control of a role', () => {
  it('is changed in its place, and a value that cannot be is refused', () => {
    const [first] = gear.roles;
    expect(withSource(gear, first, { guardMs: 300 }).roles).toEqual([
      { ...first, guardMs: 300 },
      ...gear.roles.slice(1),
    ]);
    expect(() => withSource(gear, first, { curve: 500 })).toThrow();
    expect(withoutSource(gear, first).roles).toEqual(gear.roles.slice(1));
  });
});

describe('a port', () => {
  it.each(inputs(gear))('%s: its new name goes into everything of the gear list that names it', (alias) => {
    const next = withPort(gear, alias, 'in', (port) => ({ ...port, alias: 'Another name' }) as typeof port);
    expect(inputs(next)).toEqual(inputs(gear).map((other) => (other === alias ? 'Another name' : other)));
    expect([...namedIn(next)].sort()).toEqual(
      [...namedIn(gear)].map((other) => (other === alias ? 'Another name' : other)).sort(),
    );
    const back = withPort(next, 'Another name', 'in', (port) => ({ ...port, alias }) as typeof port);
    expect(back).toEqual(gear);
  });

  it('that is an output leaves an input of the same name alone', () => {
    const both = GearList.parse({
      ...gear,
      ports: [...gear.ports, { direction: 'out', alias: 'Cobble 25', device: 'Cobble 25' }],
    });
    const next = withPort(
      both,
      'Cobble 25',
      'out',
      (port) => ({ ...port, alias: 'Lights of the pads' }) as typeof port,
    );
    expect([inputs(next), next.roles]).toEqual([inputs(both), both.roles]);
    expect(withoutPort(both, 'Cobble 25', 'out')).toEqual(gear);
  });

  it('that is taken out takes the controls with it by which it played roles, and only those', () => {
    const next = withoutPort(gear, 'Cobble 25', 'in');
    expect(inputs(next)).toEqual(inputs(gear).filter((alias) => alias !== 'Cobble 25'));
    expect(gear.roles.length).toBeGreaterThan(next.roles.length);
    expect(next.roles).toEqual(
      gear.roles.filter(({ source }) => source.kind === 'computerKey' || source.port !== 'Cobble 25'),
    );
  });

  it('that is not there changes nothing', () => {
    expect(
      withPort(gear, 'nobody', 'in', () => {
        throw new Error('not asked for');
      }),
    ).toBe(gear);
  });
});
