import { describe, expect, it } from '@jest/globals';
import {
  actionInWords,
  openRoles,
  proposeSources,
  rolesInUse,
  sourceConflicts,
  withRenamedRole,
  withoutRole,
} from '../src/controls';
import { GearList, Setlist, gearFromPorts, withoutLayer, type GearListId, type Song } from '../src/show';
import { layer, part, song } from './build';

const moth = song('Moth', {
  layers: [layer('A'), layer('B')],
  patches: [
    {
      id: 'm1',
      name: 'Dusk',
      parts: [part('A')],
      bindings: [{ role: 'Bright', action: { kind: 'layerValue', layerId: 'B', value: 'pan' } }],
    },
    { id: 'm2', name: 'Ash', parts: [part('B')] },
  ],
  bindings: [
    { role: 'Bright', action: { kind: 'layerValue', layerId: 'A', value: 'levelDb' } },
    { role: 'Reeds out', action: { kind: 'layerSwitch', layerId: 'B', what: 'mute' } },
  ],
});
const kelp = song('Kelp', {
  layers: [layer('K')],
  patches: [
    {
      id: 'k1',
      name: 'Sway',
      parts: [part('K')],
      bindings: [{ role: 'Low end', action: { kind: 'layerValue', layerId: 'K', value: 'levelDb' } }],
    },
  ],
});
const songs: Record<string, Song> = { [moth.id]: moth, [kelp.id]: kelp };
const setlist = Setlist.parse({
  id: 'n',
  name: 'N',
  roles: ['Next', 'Spare'],
  entries: [moth, kelp].map(({ id }) => ({ kind: 'song', id: `e${id}`, songId: id })),
  bindings: [
    { role: 'Next', action: { kind: 'nextStep' } },
    { role: 'Bright', action: { kind: 'wholeValue', value: 'levelDb' } },
  ],
});
const controller = (port: string, number: number, over: object = {}) => ({ port, kind: 'controller', number, ...over });
const gear = (over: object = {}) =>
  GearList.parse({
    id: 'g',
    name: 'Loft',
    ports: [
      { direction: 'in', alias: 'Cobble', device: 'Cobble 25' },
      { direction: 'in', alias: 'Clack', device: 'Clack 2' },
    ],
    ...over,
  });

describe('roles of a setlist', () => {
  it('are its own in their order, then those that songs name, each with all that it does', () => {
    const roles = rolesInUse(setlist, songs);
    expect(roles.map(({ role, isValue, uses }) => [role, isValue, uses.map(({ scope }) => scope)])).toEqual([
      ['Next', false, ['setlist']],
      ['Spare', null, []],
      ['Bright', true, ['setlist', 'song', 'patch']],
      ['Reeds out', false, ['song']],
      ['Low end', true, ['patch']],
    ]);
  });

  it('say where a nearer use hides a wider one', () => {
    const [setlistUse, songUse, patchUse] = rolesInUse(setlist, songs).find(({ role }) => role === 'Bright')!.uses;
    expect(setlistUse.hiddenIn).toEqual([
      { songId: 'Moth', patchId: null },
      { songId: 'Moth', patchId: 'm1' },
    ]);
    expect(songUse.hiddenIn).toEqual([{ songId: 'Moth', patchId: 'm1' }]);
    expect(patchUse.hiddenIn).toEqual([]);
  });

  it('left open by the gear say which songs and patches miss them', () => {
    const list = gear({
      roles: [
        { role: 'Next', source: controller('Clack', 80) },
        { role: 'Reeds out', source: controller('Elsewhere', 1) },
      ],
    });
    expect(openRoles(setlist, songs, list).map(({ role, missedIn }) => [role.role, missedIn])).toEqual([
      ['Spare', []],
      ['Bright', null],
      ['Reeds out', [{ songId: 'Moth', patchIds: null }]],
      ['Low end', [{ songId: 'Kelp', patchIds: ['k1'] }]],
    ]);
    const switchedOff = GearList.parse({
      ...list,
      ports: list.ports.map((port) => ({ ...port, on: port.alias !== 'Clack' })),
    });
    expect(openRoles(setlist, songs, switchedOff)[0].role.role).toBe('Next');
  });

  it('are renamed and removed everywhere at once; what does not name them stays the same object', () => {
    const all = { everySetlist: [], setlists: [setlist], songs: [moth, kelp] };
    const renamed = withRenamedRole('Bright', 'Shine', {
      ...all,
      gearLists: [gear({ roles: [{ role: 'Bright', source: controller('Cobble', 20) }] }), gear()],
    });
    expect(renamed.songs.map(({ id }) => id)).toEqual(['Moth']);
    expect(renamed.gearLists).toHaveLength(1);
    expect(rolesInUse(renamed.setlists[0], { ...songs, Moth: renamed.songs[0] }).map(({ role }) => role)).toContain(
      'Shine',
    );
    const without = withoutRole('Bright', all);
    expect(rolesInUse(without.setlists[0], { ...songs, Moth: without.songs[0] }).map(({ role }) => role)).toEqual([
      'Next',
      'Spare',
      'Reeds out',
      'Low end',
    ]);
  });

  it('lose what they did to a layer that is removed', () => {
    const left = withoutLayer(moth, 'B');
    expect([left.bindings.map(({ role }) => role), left.patches[0].bindings]).toEqual([['Bright'], []]);
  });
});

describe('proposals for open roles', () => {
  const knobs = [20, 21, 22].map((number, i) => ({ name: `knob ${i + 1}`, source: controller('Cobble', number) }));
  const pads = [36, 37].map((number, i) => ({
    name: `pad ${i + 1}`,
    source: { port: 'Cobble', kind: 'note', number, channel: 10 },
  }));
  const pedals = [{ name: 'left pedal', source: controller('Clack', 80) }];
  const withControls = (roles: object[] = []) =>
    gear({
      ports: [
        { direction: 'in', alias: 'Cobble', device: 'Cobble 25', controls: [...pads, ...knobs] },
        { direction: 'in', alias: 'Clack', device: 'Clack 2', controls: pedals },
      ],
      roles,
    });
  const home = GearList.parse({
    id: 'h',
    name: 'Home',
    ports: [
      {
        direction: 'in',
        alias: 'Desk',
        device: 'Desk',
        controls: [1, 2].map((number) => ({ name: `knob ${number}`, source: controller('Desk', number) })),
      },
    ],
    roles: [
      { role: 'Low end', source: controller('Desk', 1), reversed: true, pickUp: 'drawnIn' },
      { role: 'Bright', source: controller('Desk', 2) },
      { role: 'Reeds out', source: { port: 'Desk', kind: 'note', number: 5 } },
      { role: 'Next', source: controller('Desk', 9) },
    ],
  });

  it('are of the same kind, and knob for knob in the order in which they stood', () => {
    const found = proposeSources(setlist, songs, withControls(), [home]).map(({ role, control }) => [
      role,
      control.name,
    ]);
    expect(found).toEqual([
      ['Next', 'left pedal'],
      ['Spare', 'pad 2'],
      ['Bright', 'knob 2'],
      ['Reeds out', 'pad 1'],
      ['Low end', 'knob 1'],
    ]);
  });

  it('keep the pick-up that the role had, but not the direction of other hardware', () => {
    expect(
      proposeSources(setlist, songs, withControls(), [home]).find(({ role }) => role === 'Low end')!.source,
    ).toMatchObject({ pickUp: 'drawnIn', reversed: false });
  });

  it('never take what does something as it is: counters, program pedals, wheels and pedals of a keyboard', () => {
    const program = (port: string, number: number) => ({ port, kind: 'program', number });
    const busy = gear({
      ports: [
        {
          direction: 'in',
          alias: 'Treadle',
          device: 'Treadle 6',
          controls: [{ name: 'pedal 1', source: program('Treadle', 0) }],
        },
        {
          direction: 'in',
          alias: 'Updown',
          device: 'Updown 2',
          programs: { kind: 'counter', channels: null, lowest: 0, highest: 9, guardMs: 120 },
          controls: [{ name: 'up', source: { port: 'Updown', kind: 'count', direction: 'up' } }],
        },
        {
          direction: 'in',
          alias: 'Keys',
          device: 'Aster 73',
          controls: [
            { name: 'wheel', source: { port: 'Keys', kind: 'wheel' } },
            { name: 'sustain pedal', source: controller('Keys', 64) },
          ],
        },
      ],
    });
    expect(proposeSources(setlist, songs, busy, [home])).toEqual([]);
  });

  it('never take a control that plays a role already, nor a knob for a press', () => {
    const taken = withControls([
      { role: 'Next', source: controller('Clack', 80) },
      ...[36, 37].map((number, i) => ({
        role: `Pad ${i}`,
        source: { port: 'Cobble', kind: 'note', number, channel: null },
      })),
    ]);
    expect(proposeSources(setlist, songs, taken, []).map(({ role, control }) => [role, control.name])).toEqual([
      ['Bright', 'knob 1'],
      ['Low end', 'knob 2'],
    ]);
  });
});

describe('gear', () => {
  it('tells two roles on one control', () => {
    const list = gear({
      roles: [
        { role: 'Next', source: controller('Clack', 80) },
        { role: 'Next', source: controller('Clack', 81) },
        { role: 'Panic', source: controller('Clack', 80, { channel: 3 }) },
      ],
    });
    expect(sourceConflicts(list.roles).map((pair) => pair.map(({ role }) => role))).toEqual([['Next', 'Panic']]);
  });

  it('made from what is here tells twins apart, and takes the second port of a device as its double', () => {
    const list = gearFromPorts(
      'g' as GearListId,
      'G',
      ['Aster 73', 'Aster 73, second port', 'Clack 2', 'Clack 2'].map((name) => ({ name, direction: 'in' as const })),
    );
    expect(list.ports.map((port) => [port.alias, port.direction === 'in' ? port.doubleOf : null])).toEqual([
      ['Aster 73', null],
      ['Aster 73, second port', 'Aster 73'],
      ['Clack 2', null],
      ['Clack 2 2', null],
    ]);
  });

  it('says what roles do in a player’s words', () => {
    const words = (action: object): string =>
      actionInWords(Setlist.parse({ id: 'x', name: 'x', bindings: [{ role: 'r', action }] }).bindings[0].action, {
        layer: () => 'Late Boat',
        effect: () => 'drive',
      });
    expect(
      [
        { kind: 'nextStep' },
        { kind: 'blend', number: 0 },
        { kind: 'layerValue', layerId: 'a', value: 'levelDb' },
        { kind: 'layerController', layerId: 'a', controller: 74 },
        { kind: 'effectSwitch', effect: 'echo' },
        { kind: 'effectValue', layerId: 'a', effectId: 'e', parameter: 'mix' },
        { kind: 'sharedEffectOnOff', effectId: 'e' },
      ].map(words),
    ).toEqual([
      'next patch',
      'the patch’s own balance',
      'level of Late Boat',
      'brightness of Late Boat',
      'echo on and off',
      'mix of drive, Late Boat',
      'drive on and off',
    ]);
  });
});
