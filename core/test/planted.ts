// Shows for the soundcheck: one that nothing is wrong with, and every fault that its rules are there for.

import { Show } from '../src/show';
import { type Here, type Severity } from '../src/soundcheck';
import { keysPort, pedalsPort, stepBindings, stepRoles, skerry } from './rig';

/** A show as a test breaks it: its JSON, where anything may be written, wrong things too; Zod reads it afterwards. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- a type that allows every mistake is none
export type Loose = any;

const FILE = 'd'.repeat(64);

/** Two songs that nothing is wrong with, with one of everything in them. */
function base(): Loose {
  const song = (id: string): object => ({
    id,
    name: id,
    layers: [
      {
        id: `${id}/piano`,
        name: 'Piano',
        tape: 'straw',
        sound: { instrumentId: 'causeway', presetId: 'causeway/late-boat' },
      },
      { id: `${id}/bass`, name: 'Bass', tape: 'moss', sound: { instrumentId: 'keelson', presetId: 'keelson/round' } },
      {
        id: `${id}/choir`,
        name: 'Choir',
        tape: 'teal',
        sound: { instrumentId: 'skerry', presetId: 'sk0', channel: 1 },
      },
    ],
    patches: [
      {
        id: `${id}/one`,
        name: 'One',
        parts: [
          { layerId: `${id}/bass`, zone: { highKey: 50 } },
          { layerId: `${id}/piano`, zone: { lowKey: 51 } },
        ],
      },
      {
        id: `${id}/two`,
        name: 'Two',
        parts: [{ layerId: `${id}/piano` }, { layerId: `${id}/choir`, zone: { lowKey: 60 } }],
      },
      { id: `${id}/three`, name: 'Three', parts: [{ layerId: `${id}/piano` }] },
    ],
  });
  const numbers = ['a', 'b'].flatMap((songId) =>
    ['one', 'two', 'three'].map((patch) => ({ target: { songId, patchId: `${songId}/${patch}` } })),
  );
  return {
    format: 'rackle-show',
    version: Show.shape.version.value,
    songs: [song('a'), song('b')],
    instruments: [
      skerry(80, [
        { id: 'sk0', name: 'Low Water', msb: 0, lsb: 0, program: 0 },
        { id: 'sk1', name: 'Weed', msb: 0, lsb: 1, program: 7 },
        { id: 'sk2', name: 'Rope', program: 9 },
      ]),
      {
        kind: 'recordings',
        id: 'mine',
        name: 'Mine',
        presets: [{ id: 'wave', name: 'Wave', file: FILE, lengthSeconds: 4, plays: 'loop' }],
      },
    ],
    gearLists: [
      {
        id: 'loft',
        name: 'Loft',
        ports: [
          keysPort({ lowest: 28, highest: 100 }),
          { direction: 'in', alias: 'Lower', device: 'Cobble 25', programs: { kind: 'off' } },
          pedalsPort(),
          { direction: 'in', alias: 'Feet', device: 'Treadle 6', plays: false, buttons: { count: 6, pages: 2 } },
          { direction: 'out', alias: 'Skerry', device: 'Skerry' },
        ],
        roles: stepRoles(),
      },
    ],
    setlists: [
      {
        id: 'night',
        name: 'Night',
        entries: ['a', 'b'].map((id) => ({ kind: 'song', id: `e-${id}`, songId: id })),
        gearListId: 'loft',
        roles: ['Next', 'Back'],
        bindings: stepBindings(),
        programs: numbers.map((line, program) => ({ ...line, program })),
      },
    ],
  };
}

/** What nothing is wrong with, changed. */
export const showOf = (change: (show: Loose) => void): Show => {
  const show = base();
  change(show);
  return Show.parse(show);
};

export const setlist = (show: Loose): Loose => show.setlists[0];
export const gear = (show: Loose): Loose => show.gearLists[0];
export const port = (show: Loose, alias: string): Loose => gear(show).ports.find((one: Loose) => one.alias === alias);
export const a = (show: Loose): Loose => show.songs[0];
export const patch = (show: Loose, i = 0): Loose => a(show).patches[i];
const controller = (number: number, over: object = {}): object => ({
  kind: 'controller',
  number,
  port: 'Pedals',
  channel: null,
  ...over,
});

/** A fault, and the rule that has to find it. */
export interface Planted {
  rule: string;
  what: string;
  severity: Severity;
  plant: (show: Loose) => void;
  here?: Partial<Here>;
  /** Whether a button mends it. */
  mends: boolean;
}

/** One fault a rule, at least. */
export const PLANTED: readonly Planted[] = [
  {
    rule: 'points-nowhere',
    what: 'a part without its layer',
    severity: 'willFail',
    mends: false,
    plant: (s) => patch(s).parts.push({ layerId: 'gone' }),
  },
  {
    rule: 'setlist-points-nowhere',
    what: 'an entry without its song',
    severity: 'willFail',
    mends: false,
    plant: (s) => setlist(s).entries.push({ kind: 'song', id: 'x', songId: 'gone' }),
  },
  {
    rule: 'port-names',
    what: 'an output that is off',
    severity: 'willFail',
    mends: true,
    plant: (s) => (port(s, 'Skerry').on = false),
  },
  {
    rule: 'port-names',
    what: 'a keyboard that is not there',
    severity: 'willFail',
    mends: false,
    plant: (s) => (patch(s).parts[0].zone.input = 'Upper'),
  },
  {
    rule: 'port-names',
    what: 'a cue to lights that are not there',
    severity: 'mayFail',
    mends: false,
    plant: (s) => {
      a(s).cues = [
        { kind: 'lights', id: 'l', atTick: 960, name: 'Blue', port: 'Beacon', bytes: [0xb0, 7, 40] },
        { kind: 'lights', id: 'm', atTick: 1920, name: 'Red', port: 'Gone', bytes: [0xb0, 7, 1], off: true },
      ];
    },
  },
  {
    rule: 'port-names',
    what: 'a patch that sends to what is switched off, and the timeline too',
    severity: 'willFail',
    mends: true,
    plant: (s) => {
      gear(s).ports.push({ direction: 'out', alias: 'Beacon', device: 'Beacon', on: false });
      a(s).cues = [{ kind: 'lights', id: 'l', atTick: 960, name: 'Blue', port: 'Beacon', bytes: [0xb0, 7, 40] }];
      patch(s).leaving = [{ kind: 'controller', port: 'Beacon', channel: 1, controller: 7, value: 0 }];
    },
  },
  {
    rule: 'setlist-port-names',
    what: 'a click on a port that is switched off',
    severity: 'mayFail',
    mends: true,
    plant: (s) => {
      gear(s).ports.push({ direction: 'out', alias: 'Drum box', device: 'Drum box', on: false });
      gear(s).click = { on: true, to: { kind: 'port', port: 'Drum box' } };
    },
  },
  {
    rule: 'setlist-port-names',
    what: 'a clock from nowhere',
    severity: 'mayFail',
    mends: false,
    plant: (s) => (gear(s).clockFrom = 'Drum box'),
  },
  {
    rule: 'setlist-port-names',
    what: 'standing layers of gear that is not there',
    severity: 'willFail',
    mends: false,
    plant: (s) => {
      s.instruments.push({ ...s.instruments[0], id: 'organ', name: 'Organ', port: 'Organ' });
      setlist(s).layers = [
        { id: 'st', name: 'Standing', tape: 'moss', sound: { instrumentId: 'organ', presetId: 'sk0' } },
      ];
      setlist(s).standing = [{ layerId: 'st' }];
    },
  },
  {
    rule: 'permission',
    what: 'ports refused',
    severity: 'willFail',
    mends: false,
    plant: () => undefined,
    here: { midi: 'refused' },
  },
  {
    rule: 'permission',
    what: 'system exclusive refused, that a cue sends',
    severity: 'willFail',
    mends: false,
    plant: (s) => {
      s.gearLists[0].ports.find(({ alias }: Loose) => alias === 'Skerry').allowsSysex = true;
      a(s).cues = [{ kind: 'message', id: 'c', atTick: 960, port: 'Skerry', bytes: [0xf0, 1, 2, 0xf7] }];
    },
    here: { sysex: 'refused' },
  },
  {
    rule: 'sysex-refused',
    what: 'system exclusive to a port that lets none through',
    severity: 'willFail',
    mends: true,
    plant: (s) => (patch(s).entering = [{ kind: 'sysex', port: 'Skerry', bytes: [1, 2] }]),
  },
  {
    rule: 'number-twice',
    what: 'a number twice',
    severity: 'willFail',
    mends: true,
    plant: (s) => (setlist(s).programs[3].program = 0),
  },
  {
    rule: 'number-unreachable',
    what: 'a number that a role has taken',
    severity: 'willFail',
    mends: true,
    plant: (s) =>
      gear(s).roles.push({ role: 'Next', source: { kind: 'program', port: 'Feet', number: 2, channel: null } }),
  },
  {
    rule: 'number-unreachable',
    what: 'a bank that is not listened to',
    severity: 'willFail',
    mends: true,
    plant: (s) => {
      setlist(s).programs[5] = { ...setlist(s).programs[5], program: 0, lsb: 3 };
      port(s, 'Feet').programs = { kind: 'direct', bank: 'none' };
    },
  },
  {
    rule: 'number-unreachable',
    what: 'a number from a port that does not call',
    severity: 'willFail',
    mends: true,
    plant: (s) => (setlist(s).programs[1].port = 'Keys'),
  },
  {
    rule: 'number-leads-nowhere',
    what: 'a number of a song that is not played',
    severity: 'mayFail',
    mends: true,
    plant: (s) => setlist(s).entries.pop(),
  },
  {
    rule: 'no-button',
    what: 'more numbers than buttons',
    severity: 'mayFail',
    mends: false,
    plant: (s) => (port(s, 'Feet').buttons = { count: 2, pages: 2 }),
  },
  {
    rule: 'off-by-one',
    what: 'calls one beside every number',
    severity: 'mayFail',
    mends: false,
    plant: (s) => setlist(s).programs.forEach((line: Loose) => line.program++),
    here: { unanswered: [{ port: 'Feet', msb: 0, lsb: 0, program: 0 }] },
  },
  {
    rule: 'off-by-one',
    what: 'a name list from 1',
    severity: 'mayFail',
    mends: true,
    plant: (s) =>
      (s.instruments[0].names = Array.from({ length: 9 }, (_, i) => ({
        id: `sk${i}`,
        name: `N${i}`,
        msb: 0,
        lsb: 0,
        program: i + 1,
      }))),
  },
  {
    rule: 'no-keyboard',
    what: 'the only keyboard switched off',
    severity: 'willFail',
    mends: true,
    plant: (s) => {
      for (const each of gear(s).ports) if (each.alias !== 'Keys' && each.direction === 'in') each.plays = false;
      port(s, 'Keys').on = false;
    },
  },
  {
    rule: 'no-keyboard',
    what: 'the only keyboard plays nothing',
    severity: 'willFail',
    mends: false,
    plant: (s) => {
      for (const each of gear(s).ports) if (each.direction === 'in') each.plays = false;
    },
  },
  {
    rule: 'no-step',
    what: 'no way on',
    severity: 'mayFail',
    mends: false,
    plant: (s) => {
      gear(s).roles = gear(s).roles.slice(1);
      port(s, 'Feet').programs = { kind: 'off' };
      setlist(s).programs = [];
    },
  },
  {
    rule: 'song-without-step',
    what: 'a song that is passed over',
    severity: 'mayFail',
    mends: true,
    plant: (s) => a(s).patches.forEach((one: Loose) => (one.isStep = false)),
  },
  {
    rule: 'song-without-step',
    what: 'a song without a patch',
    severity: 'willFail',
    mends: false,
    plant: (s) => {
      a(s).patches = [];
      setlist(s).programs = setlist(s).programs.slice(3);
    },
  },
  {
    rule: 'control-twice',
    what: 'one pedal for two roles',
    severity: 'willFail',
    mends: true,
    plant: (s) => (gear(s).roles[1].source = controller(80)),
  },
  {
    rule: 'control-channel',
    what: 'a control on a channel that is not heard',
    severity: 'willFail',
    mends: true,
    plant: (s) => {
      gear(s).roles[0].source = controller(80, { channel: 3 });
      port(s, 'Pedals').channels = [1];
    },
  },
  {
    rule: 'control-channel',
    what: 'programs on a channel that is not heard',
    severity: 'willFail',
    mends: true,
    plant: (s) => {
      port(s, 'Feet').channels = [1];
      port(s, 'Feet').programs = { kind: 'direct', channels: [2] };
    },
  },
  {
    rule: 'counter-reference',
    what: 'a counter that is not followed',
    severity: 'willFail',
    mends: true,
    plant: (s) => (gear(s).roles[0].source = { kind: 'count', port: 'Pedals', channel: null, direction: 'up' }),
  },
  {
    rule: 'latching',
    what: 'a latching pedal taken for momentary',
    severity: 'willFail',
    mends: true,
    plant: (s) => (gear(s).roles[1].button = 'momentary'),
  },
  {
    rule: 'latching',
    what: 'a momentary pedal taken for latching',
    severity: 'willFail',
    mends: true,
    plant: (s) => (gear(s).roles[0].button = 'latching'),
  },
  {
    rule: 'not-repeating',
    what: 'a pedal that does not repeat, to step by',
    severity: 'mayFail',
    mends: false,
    plant: (s) => {
      port(s, 'Feet').buttons.repeats = false;
      gear(s).roles[0].source = { kind: 'program', port: 'Feet', number: 100, channel: null };
    },
  },
  {
    rule: 'not-repeating',
    what: 'the same number twice in a row',
    severity: 'mayFail',
    mends: false,
    plant: (s) => {
      port(s, 'Feet').buttons.repeats = false;
      a(s).patches = a(s).patches.slice(0, 1);
      setlist(s).entries.splice(1, 0, { kind: 'song', id: 'again', songId: 'a' });
      setlist(s).programs = setlist(s).programs.filter((_: unknown, i: number) => i === 0 || i > 2);
    },
  },
  {
    rule: 'opposite',
    what: 'next here, previous there',
    severity: 'mayFail',
    mends: false,
    plant: (s) => (s.songs[1].bindings = [{ role: 'Next', action: { kind: 'previousStep' } }]),
  },
  {
    rule: 'opposite',
    what: 'a step here, everything off there',
    severity: 'mayFail',
    mends: false,
    plant: (s) => (patch(s, 1).bindings = [{ role: 'Next', action: { kind: 'panic' } }]),
  },
  {
    rule: 'own-echo',
    what: 'a keyboard that is played by itself and by Rackle',
    severity: 'mayFail',
    mends: false,
    plant: (s) => (port(s, 'Skerry').device = 'Aster 73'),
  },
  {
    rule: 'own-echo',
    what: 'a device that is sent to and calls',
    severity: 'mayFail',
    mends: true,
    plant: (s) => (port(s, 'Skerry').device = 'Treadle 6'),
  },
  {
    rule: 'role-open',
    what: 'a role without a control',
    severity: 'toKnow',
    mends: false,
    plant: (s) => setlist(s).bindings.push({ role: 'Off', action: { kind: 'panic' } }),
  },
  {
    rule: 'role-idle',
    what: 'a control that does nothing',
    severity: 'toKnow',
    mends: false,
    plant: (s) => gear(s).roles.push({ role: 'Nothing', source: controller(99) }),
  },
  {
    rule: 'role-idle',
    what: 'a use that every song hides',
    severity: 'toKnow',
    mends: false,
    plant: (s) =>
      s.songs.forEach((one: Loose) => (one.bindings = [{ role: 'Back', action: { kind: 'previousStep' } }])),
  },
  {
    rule: 'no-number',
    what: 'a patch without a number',
    severity: 'toKnow',
    mends: false,
    plant: (s) => setlist(s).programs.pop(),
  },
  {
    rule: 'sound-missing',
    what: 'a preset that is gone',
    severity: 'willFail',
    mends: false,
    plant: (s) => (a(s).layers[0].sound.presetId = 'gone'),
  },
  {
    rule: 'sound-missing',
    what: 'an instrument that is gone',
    severity: 'willFail',
    mends: false,
    plant: (s) => (a(s).layers[0].sound.instrumentId = 'gone'),
  },
  {
    rule: 'sound-missing',
    what: 'a file that is not there',
    severity: 'willFail',
    mends: false,
    plant: (s) => (a(s).layers[0].sound = { instrumentId: 'mine', presetId: 'wave' }),
    here: { files: new Set() },
  },
  {
    rule: 'standing-sound-missing',
    what: 'a standing preset that is gone',
    severity: 'willFail',
    mends: false,
    plant: (s) => {
      setlist(s).layers = [{ ...a(s).layers[0], id: 'st', sound: { instrumentId: 'causeway', presetId: 'gone' } }];
      setlist(s).standing = [{ layerId: 'st' }];
    },
  },
  {
    rule: 'never-sounds',
    what: 'muted, with nothing to change it',
    severity: 'willFail',
    mends: true,
    plant: (s) => (patch(s, 1).parts[1].mute = true),
  },
  {
    rule: 'never-sounds',
    what: 'another one heard alone',
    severity: 'willFail',
    mends: true,
    plant: (s) => (patch(s, 1).parts[0].solo = true),
  },
  {
    rule: 'never-sounds',
    what: 'no key plays it',
    severity: 'willFail',
    mends: true,
    plant: (s) => (patch(s, 1).parts[1].keys = 'none'),
  },
  {
    rule: 'never-sounds',
    what: 'another one takes its keys',
    severity: 'willFail',
    mends: true,
    plant: (s) => (patch(s, 1).parts[0].keys = 'taken'),
  },
  {
    rule: 'never-sounds',
    what: 'a shift off the keyboard',
    severity: 'willFail',
    mends: true,
    plant: (s) => {
      patch(s, 1).parts[1].zone = { lowKey: 90 };
      patch(s, 1).parts[1].shift = 48;
    },
  },
  {
    rule: 'never-sounds',
    what: 'a zone off tonight’s keyboard',
    severity: 'willFail',
    mends: true,
    plant: (s) => {
      patch(s, 1).parts[1].zone = { lowKey: 110, highKey: 120, input: 'Keys' };
    },
  },
  {
    rule: 'never-sounds',
    what: 'a channel that no keyboard plays',
    severity: 'willFail',
    mends: true,
    plant: (s) => {
      patch(s, 1).parts[1].zone = { channels: [9] };
      port(s, 'Keys').playsOn = [1];
      port(s, 'Lower').playsOn = [1];
    },
  },
  {
    rule: 'silent-patch',
    what: 'an empty patch',
    severity: 'mayFail',
    mends: false,
    plant: (s) => (patch(s, 1).parts = []),
  },
  {
    rule: 'silent-keys',
    what: 'a gap in a split',
    severity: 'mayFail',
    mends: false,
    plant: (s) => (patch(s).parts[1].zone.lowKey = 55),
  },
  {
    rule: 'silent-keys',
    what: 'keys that the patches before and after have',
    severity: 'mayFail',
    mends: false,
    plant: (s) =>
      (patch(s, 1).parts = [
        { layerId: 'a/piano', zone: { lowKey: 60 } },
        { layerId: 'a/choir', zone: { lowKey: 60 } },
      ]),
  },
  {
    rule: 'silent-keys',
    what: 'keys at the end of a patch that were played there',
    severity: 'mayFail',
    mends: false,
    here: { silentStrikes: [{ songId: 'b', patchId: 'b/three', device: 'Aster 73', key: 40 }] },
    plant: (s) => (s.songs[1].patches[2].parts[0].zone = { lowKey: 48 }),
  },
  {
    rule: 'silent-keys',
    what: 'velocities between others',
    severity: 'mayFail',
    mends: false,
    plant: (s) =>
      (patch(s, 2).parts = [
        { layerId: 'a/piano', zone: { highVelocity: 60 } },
        { layerId: 'a/bass', zone: { lowVelocity: 90 } },
      ]),
  },
  {
    rule: 'channel-shared',
    what: 'two presets on one channel',
    severity: 'willFail',
    mends: true,
    plant: (s) => {
      a(s).layers.push({
        ...a(s).layers[2],
        id: 'a/weed',
        name: 'Weed',
        sound: { instrumentId: 'skerry', presetId: 'sk1', channel: 1 },
      });
      patch(s, 1).parts.push({ layerId: 'a/weed' });
    },
  },
  {
    rule: 'bank-not-sent',
    what: 'a program alone among banks',
    severity: 'mayFail',
    mends: true,
    plant: (s) => {
      a(s).layers[2].sound.presetId = 'sk1';
      s.songs[1].layers[2].sound.presetId = 'sk2';
    },
  },
  {
    rule: 'standing-covers',
    what: 'standing keys that are taken',
    severity: 'willFail',
    mends: true,
    plant: (s) => (a(s).standing = [{ layerId: 'a/choir', keys: 'taken', zone: { lowKey: 20, highKey: 127 } }]),
  },
  {
    rule: 'switch-key',
    what: 'a switch among the keys',
    severity: 'mayFail',
    mends: false,
    plant: (s) =>
      gear(s).roles.push({ role: 'Next', source: { kind: 'note', port: 'Keys', channel: null, number: 40 } }),
  },
  {
    rule: 'loop-over-keys',
    what: 'a loop under every key',
    severity: 'mayFail',
    mends: true,
    plant: (s) => {
      a(s).layers[1].sound = { instrumentId: 'mine', presetId: 'wave' };
      a(s).layers[1].carry = { kind: 'cut' };
      patch(s, 1).parts.push({ layerId: 'a/bass' });
      patch(s).parts[0].zone = { lowKey: 60, highKey: 60 };
      patch(s).parts[1].zone = {};
    },
  },
  {
    rule: 'sustain-half',
    what: 'a half that no pedal holds',
    severity: 'mayFail',
    mends: true,
    plant: (s) => {
      port(s, 'Lower').ignoredPedals = [64];
      patch(s).parts[0].zone.input = 'Lower';
      patch(s).parts[1].zone = { input: 'Keys' };
    },
  },
  {
    rule: 'sustain-half',
    what: 'a layer that does not listen to it',
    severity: 'toKnow',
    mends: false,
    plant: (s) => (a(s).layers[1].ignoredControllers = [64]),
  },
  {
    rule: 'live-feedback',
    what: 'an open microphone',
    severity: 'mayFail',
    mends: false,
    plant: (s) => (a(s).layers[2].source = { kind: 'live', input: 'Quay mic' }),
  },
  {
    rule: 'no-shared-effect',
    what: 'a send to nothing',
    severity: 'willFail',
    mends: false,
    plant: (s) => (patch(s).parts[0].sends = [{ to: 'Cathedral', percent: 20 }]),
  },
  {
    rule: 'effect-gone',
    what: 'a role that moves no effect',
    severity: 'mayFail',
    mends: false,
    plant: (s) =>
      (a(s).bindings = [{ role: 'Dirt', action: { kind: 'effectOnOff', layerId: 'a/piano', effectId: 'gone' } }]),
  },
  {
    rule: 'setlist-effect-gone',
    what: 'the same of the setlist',
    severity: 'mayFail',
    mends: false,
    plant: (s) =>
      setlist(s).bindings.push({
        role: 'Hall',
        action: { kind: 'sharedEffectValue', effectId: 'gone', parameter: 'mix' },
      }),
  },
  {
    rule: 'left-at-nothing',
    what: 'a swell that stays down',
    severity: 'mayFail',
    mends: false,
    plant: (s) => {
      setlist(s).bindings.push({ role: 'Swell', action: { kind: 'wholeValue', value: 'levelDb' }, onRecall: 'hand' });
      gear(s).roles.push({ role: 'Swell', source: controller(11) });
    },
  },
  {
    rule: 'out-of-range',
    what: 'a shift off the notes at one end',
    severity: 'mayFail',
    mends: false,
    plant: (s) => (patch(s, 2).parts[0].shift = 48),
  },
  {
    rule: 'bend-ranges',
    what: 'another bend range',
    severity: 'mayFail',
    mends: false,
    plant: (s) =>
      (patch(s, 1).entering = [
        [101, 0],
        [100, 0],
        [6, 12],
      ].map(([number, value]) => ({ kind: 'controller', port: 'Skerry', channel: 1, controller: number, value }))),
  },
  {
    rule: 'cue-idle',
    what: 'a cue that recalls nothing',
    severity: 'willFail',
    mends: true,
    plant: (s) => (a(s).cues = [{ kind: 'recall', id: 'c', atTick: 0, patchId: 'gone' }]),
  },
  {
    rule: 'switched-late',
    what: 'a layer that does not wait for its gear',
    severity: 'mayFail',
    mends: true,
    plant: (s) => (a(s).layers[2].notReady = 'atOnce'),
  },
  {
    rule: 'switched-late',
    what: 'a note while the gear switches',
    severity: 'willFail',
    mends: false,
    plant: (s) =>
      (a(s).cues = [
        { kind: 'recall', id: 'c', atTick: 960, patchId: 'a/two' },
        {
          kind: 'note',
          id: 'n',
          atTick: 980,
          to: { kind: 'port', port: 'Skerry', channel: 1 },
          key: 60,
          lengthTicks: 100,
        },
      ]),
  },
  {
    rule: 'too-many-voices',
    what: 'more notes than the machine has',
    severity: 'mayFail',
    mends: false,
    plant: (s) => (patch(s, 1).parts[0].chord = [4, 7]),
    here: { voices: 24 },
  },
  {
    rule: 'endless',
    what: 'a loop that goes on',
    severity: 'mayFail',
    mends: true,
    plant: (s) => {
      a(s).layers[1].sound = { instrumentId: 'mine', presetId: 'wave' };
      patch(s).parts[0].zone = { lowKey: 60, highKey: 60 };
      patch(s).parts[1].zone = {};
    },
  },
  {
    rule: 'cable-full',
    what: 'a chord too large for a cable',
    severity: 'mayFail',
    mends: false,
    plant: (s) =>
      (a(s).cues = Array.from({ length: 20 }, (_, i) => ({
        kind: 'note',
        id: `n${i}`,
        atTick: 960,
        to: { kind: 'port', port: 'Skerry', channel: 1 },
        key: 40 + i,
        lengthTicks: 100,
      }))),
  },
  {
    rule: 'position-too-far',
    what: 'a song longer than song positions',
    severity: 'mayFail',
    mends: false,
    plant: (s) => {
      port(s, 'Skerry').sendsClock = true;
      a(s).map = { tempos: [{ atTick: 0, bpm: 120 }], meters: [{ bar: 1, beats: 4, unit: 4 }], bars: 1200 };
    },
  },
  {
    rule: 'switch-unmeasured',
    what: 'gear said to switch in no time',
    severity: 'toKnow',
    mends: false,
    plant: (s) => (s.instruments[0].switchMs = 0),
  },
];
