import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import type { EngineInput } from '../src/engine';
import { Show, bodiesOf, everySetlistOf, playedSetlist } from '../src/show';
import { Simulation, type SentMessage } from '../src/simulate';
import { STIMULI, SimulatedCheck, UNKNOWN_HERE, type SimulatedFinding } from '../src/soundcheck';
import { healthyShow } from './healthy';

type Simulate = (...of: ConstructorParameters<typeof Simulation>) => Simulation;

const demo = Show.parse(JSON.parse(readFileSync(join(__dirname, '../../demo/tern-ledge.json'), 'utf8')));

function checkOf(show: Show, simulate?: Simulate, all = false): SimulatedCheck {
  return new SimulatedCheck(
    {
      setlist: playedSetlist(show.setlists[0], everySetlistOf(bodiesOf(show))),
      gear: show.gearLists[0],
      songs: show.songs,
      instruments: show.instruments,
      here: UNKNOWN_HERE,
    },
    all,
    simulate,
  );
}

function findingsOf(show: Show, simulate?: Simulate): SimulatedFinding[] {
  const check = checkOf(show, simulate);
  check.run(Infinity);
  return check.findings();
}

/** An engine whose output goes through faulty hands. */
class Faulty extends Simulation {
  constructor(
    of: ConstructorParameters<typeof Simulation>,
    private readonly spoil: (sent: SentMessage[]) => SentMessage[],
  ) {
    super(...of);
  }

  override take(): SentMessage[] {
    return this.spoil(super.take());
  }
}

const spoilt =
  (spoil: (sent: SentMessage[]) => SentMessage[]): Simulate =>
  (...of) =>
    new Faulty(of, spoil);

const kind = (status: number) => (message: SentMessage) => (message.status & 0xf0) === status;
const [isOff, isOn, isProgram, isWheel] = [kind(0x80), kind(0x90), kind(0xc0), kind(0xe0)];
const isPedalUp = ({ status, data1, data2 }: SentMessage): boolean =>
  (status & 0xf0) === 0xb0 && data1 === 64 && data2 === 0;

/** The third song, which has outboard gear behind it, and carries of every kind. */
const few: Show = {
  ...demo,
  setlists: [{ ...demo.setlists[0], entries: demo.setlists[0].entries.slice(2, 5) }],
};

const FAULTS: readonly (readonly [string, string, (sent: SentMessage[]) => SentMessage[]])[] = [
  ['a note-off that is lost', 'goes on sounding', (sent) => sent.filter((one, i) => !(isOff(one) && i % 7 === 0))],
  [
    'a note-off that is sent twice',
    'ends twice',
    (sent) => sent.flatMap((one, i) => (isOff(one) && i % 7 === 0 ? [one, one] : [one])),
  ],
  ['a note-on that is lost', 'is silent', (sent) => sent.filter((one) => !(isOn(one) && one.to.endsWith('Round')))],
  ['a program change that is lost', 'has not got its preset', (sent) => sent.filter((one) => !isProgram(one))],
  [
    'a wheel that is not brought back',
    'stays out of tune',
    (sent) => sent.filter((one) => !(isWheel(one) && one.data1 === 0 && one.data2 === 64)),
  ],
  ['a pedal that is not let up', 'the pedal stays down', (sent) => sent.filter((one) => !isPedalUp(one))],
  [
    'a note that comes late',
    'comes late',
    (sent) => sent.map((one) => (isOn(one) ? { ...one, atMs: one.atMs + 15 } : one)),
  ],
];

describe('the simulated soundcheck', () => {
  it('finds nothing in the demo, at any pair of its steps, nor in shows that nothing is wrong with', () => {
    expect(findingsOf(demo)).toEqual([]);
    for (let seed = 0; seed < 40; seed++) expect([seed, findingsOf(healthyShow(seed))]).toEqual([seed, []]);
    const all = checkOf(few, undefined, true);
    all.run(Infinity);
    expect(all.findings()).toEqual([]);
    expect(all.pairs.length).toBeGreaterThan(checkOf(few).pairs.length);
  });

  it.each(FAULTS)('finds %s', (_, words, spoil) => {
    const findings = findingsOf(few, spoilt(spoil));
    expect(findings.some(({ message }) => message.includes(words))).toBe(true);
    expect(findings.every(({ severity, cases }) => severity === 'willFail' && cases.length > 0)).toBe(true);
  });

  it('finds a held note that a recall ends', () => {
    /** Lets go of every key with each recall. */
    class Cutting extends Simulation {
      private recalls = 0;
      private held: SentMessage[] = [];
      override feed(...[input, atMs]: Parameters<Simulation['feed']>): void {
        super.feed(input, atMs);
        if (input.type === 'recall') this.recalls++;
        if (input.type === 'perform') this.recalls = 0;
      }
      override take(): SentMessage[] {
        const sent = super.take();
        this.held.push(...sent.filter(isOn));
        if (this.recalls < 2) return sent;
        return [...sent, ...this.held.splice(0).map((one) => ({ ...one, status: one.status & 0x8f }))];
      }
    }
    const findings = findingsOf(few, (...of) => new Cutting(...of));
    expect(findings.some(({ message }) => /^a held note of .* is cut off$/.test(message))).toBe(true);
  });

  /** What comes in goes through other hands. */
  const through =
    (hands: (input: EngineInput) => EngineInput[]): Simulate =>
    (...of) =>
      new (class extends Simulation {
        override feed(...[input, atMs]: Parameters<Simulation['feed']>): void {
          for (const one of hands(input)) super.feed(one, atMs);
        }
      })(...of);
  const isOf = (input: EngineInput, device: string, kind: number): boolean =>
    input.type === 'message' && input.device === device && (input.status & 0xf0) === kind;

  it('presses tonight’s switch, and sends the number of what it comes to', () => {
    const heard = new Set<string>();
    findingsOf(
      few,
      through((input) => {
        if (isOf(input, 'Clack 2', 0xb0)) heard.add(`switch ${(input as { data1: number }).data1}`);
        if (isOf(input, 'Treadle 6', 0xc0)) heard.add('number');
        return [input];
      }),
    );
    expect([...heard].sort()).toEqual(['number', 'switch 80', 'switch 81']);
  });

  it.each<[string, string, (input: EngineInput) => EngineInput[]]>([
    ['a switch that is not heard', 'by its switch', (input) => (isOf(input, 'Clack 2', 0xb0) ? [] : [input])],
    [
      'a number that recalls something else',
      'by its number',
      (input) =>
        isOf(input, 'Treadle 6', 0xc0)
          ? [{ ...input, data1: (input as { data1: number }).data1 + 1 } as EngineInput]
          : [input],
    ],
  ])('finds %s', (_, how, hands) => {
    const findings = findingsOf(few, through(hands));
    expect(findings.length).toBeGreaterThan(0);
    expect(findings.every(({ message }) => message.endsWith('does not come'))).toBe(true);
    expect(findings.every(({ where }) => where.includes(how))).toBe(true);
  });

  it('finds a nervous foot that steps twice where its switch has no guard of its own', () => {
    // The engine is told that there is a guard, and the switch has none.
    const [gear] = few.gearLists;
    const bare: Show = { ...few, gearLists: [{ ...gear, roles: gear.roles.map((role) => ({ ...role, guardMs: 0 })) }] };
    expect(findingsOf(bare)).toEqual([]);
    const findings = findingsOf(
      few,
      (show, setlist, _, more) => new Simulation(show, setlist, bare.gearLists[0], more),
    );
    expect(findings.length).toBeGreaterThan(0);
    expect(findings.every(({ message }) => message.endsWith('does not come'))).toBe(true);
  });

  it('pulls each of several outputs alone: what does not go through it goes on', () => {
    const all = findingsOf(
      few,
      through((input) =>
        // Whatever is pulled, all notes end.
        input.type === 'output' && !input.here && input.device === 'Skerry'
          ? [input, { type: 'perform', action: 'panic' }]
          : [input],
      ),
    );
    expect(
      all.some(({ message, where }) => message.includes('is cut off') && where.includes('with Skerry pulled')),
    ).toBe(true);
  });

  it('finds an engine that throws, and goes on with the next case', () => {
    class Throwing extends Simulation {
      override feed(...[input, atMs]: Parameters<Simulation['feed']>): void {
        if (input.type === 'recall' && input.position === 9) throw new Error('no such step');
        super.feed(input, atMs);
      }
    }
    const findings = findingsOf(demo, (...of) => new Throwing(...of));
    expect(findings.map(({ message }) => message)).toEqual(['the engine stops: no such step']);
  });

  it('finds a layer that another one silences on its channel', () => {
    const songs = few.songs.map((song) =>
      song.id !== 'moth-and-lamp'
        ? song
        : {
            ...song,
            layers: [
              ...song.layers,
              {
                ...song.layers[4],
                id: 'two' as never,
                name: 'Two' as never,
                sound: { ...song.layers[4].sound, presetId: 'skerry/3' as never },
              },
            ],
            patches: song.patches.map((patch) =>
              patch.name === 'Ash'
                ? {
                    ...patch,
                    parts: [
                      ...patch.parts,
                      {
                        ...patch.parts[0],
                        layerId: 'two' as never,
                        zone: { ...patch.parts[0].zone, lowKey: 100, highKey: 110 },
                      },
                    ],
                  }
                : patch,
            ),
          },
    );
    expect(findingsOf({ ...few, songs }).map(({ message }) => message)).toContain('Two is silent');
  });

  it('goes on a stretch at a time, and plays a case once more', () => {
    const check = checkOf(few);
    check.run(5);
    // Each of the two outputs is pulled alone, too; there is one keyboard.
    expect(check.progress).toEqual({ done: 5, of: check.pairs.length * (STIMULI.length + 2) });
    expect(check.isDone).toBe(false);
    check.run(Infinity);
    expect(check.isDone).toBe(true);
    const [{ from, to }] = check.pairs;
    const { sent } = check.roll({ from: from.position, to: to.position, stimulus: 'held' })!;
    expect(sent.filter(isOn).length).toBeGreaterThan(0);
    expect(sent.every(({ atMs }) => atMs >= 0)).toBe(true);
    expect(check.roll({ from: 0, to: 0, stimulus: 'held' })).toBeNull();
  });

  it('says the same every time', () => {
    const spoil = spoilt(FAULTS[0][2]);
    expect(findingsOf(few, spoil)).toEqual(findingsOf(few, spoil));
  });
});
