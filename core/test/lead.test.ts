import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { packed } from '../src/midi';
import { Instrument, Song, type CueId } from '../src/show';
import {
  canGoAhead,
  freeChannel,
  leadsOf,
  tempoMapOf,
  usualNotes,
  withAllAhead,
  withGearAhead,
  withSecondChannel,
} from '../src/timeline';
import { layer, outboardInstrument, part, song } from './build';

/** At 125 a minute a tick is half a millisecond. */
const MAP = { tempos: [{ atTick: 0, bpm: 125 }], meters: [{ bar: 1, beats: 4, unit: 4 }], bars: 32 };
const SKERRY = [Instrument.parse(outboardInstrument({ switchMs: 300 }))];
const note = (id: string, atTick: number, lengthTicks = 480) => ({
  kind: 'note',
  id,
  atTick,
  to: { kind: 'port', port: 'Skerry', channel: 1 },
  key: 60,
  lengthTicks,
});
const program = (id: string, atTick: number, over: object = {}) => ({
  kind: 'program',
  id,
  atTick,
  port: 'Skerry',
  channel: 1,
  program: 7,
  ...over,
});
const timed = (cues: object[], over: Record<string, unknown> = {}): Song => song('Tin', { map: MAP, cues, ...over });
let count = 0;
const mint = (): CueId => `new-${++count}` as CueId;

describe('the lead of a cue', () => {
  it('is the bytes on the wire, the switching time and 10 ms; notes that come before it are counted', () => {
    const [lead] = leadsOf(timed([program('p', 1920), note('a', 1940), note('b', 2600), note('c', 2545)]), SKERRY);
    // Two bytes of 320 µs, 300 ms, 10 ms.
    expect(lead.needsMs).toBeCloseTo(310.64, 9);
    expect(lead.readyTick).toBe(1920 + 622);
    expect(lead).toMatchObject({ lateNotes: 1, firstNoteTick: 1940 });
  });

  it('counts what hands usually play there, where the patch that sounds has that gear under the key', () => {
    const tin = timed([{ kind: 'recall', id: 'r', atTick: 1920, patchId: 'S' }], {
      layers: [layer('A'), layer('S', { preset: 'sk1' })],
      patches: [
        { id: 'A', name: 'A', parts: [part('A')] },
        { id: 'S', name: 'S', parts: [part('S', { zone: { lowKey: 40, highKey: 70 } })] },
      ],
    });
    const run = (...keys: number[]) => keys.map((key, i) => ({ atTick: 1900 + 40 * i, key }));
    const lead = (runs: ReturnType<typeof run>[]) => leadsOf(tin, SKERRY, usualNotes(runs))[0];
    // The first comes before the recall, 80 lies above the zone.
    expect(lead([run(60, 61, 80, 62)])).toMatchObject({ lateNotes: 2, lateHandNotes: 2, firstNoteTick: 1940 });
    expect(lead([])).toMatchObject({ lateNotes: 0, lateHandNotes: 0, safeTick: null });
    // Played once in three runs, 61 is not usual; 62 is in two of them.
    expect(lead([run(60, 61, 62), run(60, 59, 62), run(60)])).toMatchObject({ lateHandNotes: 1, firstNoteTick: 1980 });
    // What was played only earlier is not played any more.
    expect(lead([run(60), run(60, 61), run(60, 61)])).toMatchObject({ lateHandNotes: 0 });
  });

  it('adds up what goes out before it on the same cable', () => {
    const leads = leadsOf(timed([program('p', 0, { msb: 1, lsb: 2 }), program('q', 0, { channel: 2 })]), SKERRY);
    expect(leads.map(({ needsMs }) => Math.round(needsMs * 100) / 100)).toEqual([312.56, 313.2]);
  });

  it('is none where the gear stands there already, and where it needs no time it still has its margin', () => {
    const preset = (id: string, atTick: number, presetId: string) => ({
      kind: 'preset',
      id,
      atTick,
      instrumentId: 'skerry',
      presetId,
    });
    const leads = leadsOf(timed([preset('a', 0, 'sk1'), preset('b', 960, 'sk1'), preset('c', 1920, 'sk0')]), SKERRY);
    expect(leads.map(({ cue }) => cue.id)).toEqual(['a', 'c']);
  });

  it('goes to the last tick that is safe, and never before the release of the note that the old sound has there', () => {
    const early = leadsOf(timed([note('o', 0, 960), program('p', 1920), note('a', 1920)]), SKERRY)[0];
    expect(early.safeTick).toBe(1920 - 622);
    const ringing = leadsOf(timed([note('o', 0, 1800), program('p', 1920), note('a', 1920)]), SKERRY)[0];
    expect(ringing).toMatchObject({ safeTick: null, lateNotes: 1 });
    expect(canGoAhead(ringing)).toBe(false);
    expect(leadsOf(timed([program('p', 100), note('a', 100)]), SKERRY)[0].safeTick).toBeNull();
    // It does not pass the program before it.
    const behind = leadsOf(timed([program('o', 1500), program('p', 1920, { program: 8 }), note('a', 1920)]), SKERRY)[1];
    expect(behind).toMatchObject({ safeTick: null, lateNotes: 1 });
  });

  it('of a recall is that of its outboard layers; a preset cue ahead makes it ready, the recall stays', () => {
    const tin = timed([{ kind: 'recall', id: 'r', atTick: 3840, patchId: 'p1' }], {
      layers: [layer('A'), layer('S', { preset: 'sk1' })],
      patches: [
        { id: 'p0', name: 'p0', parts: [part('A')] },
        { id: 'p1', name: 'p1', parts: [part('A'), part('S')] },
      ],
      backing: [
        {
          id: 'b',
          name: 'Drone',
          to: { kind: 'layer', layerId: 'S' },
          events: packed([
            { atTick: 3840, status: 0x90, data1: 60, data2: 90 },
            { atTick: 4800, status: 0x80, data1: 60, data2: 64 },
          ]),
        },
      ],
    });
    const [lead] = leadsOf(tin, SKERRY);
    expect(lead).toMatchObject({ lateNotes: 1, firstNoteTick: 3840, isUnderHands: false });
    const ahead = withGearAhead(tin, lead, mint);
    expect(ahead.cues).toHaveLength(2);
    expect(ahead.cues[0]).toMatchObject({ kind: 'preset', presetId: 'sk1', atTick: lead.safeTick });
    expect(leadsOf(ahead, SKERRY).map(({ lateNotes }) => lateNotes)).toEqual([0]);
    const free = freeChannel(tin, SKERRY, 'Skerry')!;
    expect(free).toBe(2);
    const second = withSecondChannel(tin, lead, free, mint);
    expect(second.layers[1].sound.channel).toBe(2);
    expect(leadsOf(second, SKERRY).every(({ lateNotes }) => lateNotes === 0)).toBe(true);
  });

  it('under the hands on the patch before is left to be decided one by one, and is not among all of an instrument', () => {
    const tin = timed(
      [
        { kind: 'recall', id: 'r', atTick: 3840, patchId: 'p1' },
        { ...note('n', 3900), to: { kind: 'layer', layerId: 'T' } },
      ],
      {
        layers: [layer('S', { preset: 'sk0' }), layer('T', { preset: 'sk1' })],
        patches: [
          { id: 'p0', name: 'p0', parts: [part('S')] },
          { id: 'p1', name: 'p1', parts: [part('T')] },
        ],
      },
    );
    const leads = leadsOf(tin, SKERRY);
    expect(leads).toMatchObject([{ isUnderHands: true, lateNotes: 1 }]);
    expect(canGoAhead(leads[0])).toBe(true);
    expect(withAllAhead(tin, leads, 'skerry', mint)).toBe(tin);
  });

  it('is found among hundreds of thousands of notes', () => {
    const events = packed(
      Array.from({ length: 65_000 }, (_, i) => [
        { atTick: 70_000 + i, status: 0x90, data1: 60, data2: 90 },
        { atTick: 70_001 + i, status: 0x80, data1: 60, data2: 64 },
      ])
        .flat()
        .sort((a, b) => a.atTick - b.atTick),
    );
    const to = { kind: 'port', port: 'Skerry', channel: 1 };
    const backing = ['b', 'c'].map((id) => ({ id, name: id, to, events }));
    const tin = timed([program('p', 100_000)], { backing, map: { ...MAP, bars: 200 } });
    expect(leadsOf(tin, SKERRY)).toMatchObject([{ lateNotes: 2 * 622, safeTick: null }]);
  });

  it('property: sent ahead where that is safe, no note of it is late any more and none of the old sound is cut', () => {
    const cuesArb = fc.array(
      fc.tuple(
        fc.integer({ min: 0, max: 20_000 }),
        fc.integer({ min: 1, max: 1500 }),
        fc.boolean(),
        fc.integer({ min: 0, max: 127 }),
      ),
      { minLength: 1, maxLength: 14 },
    );
    fc.assert(
      fc.property(cuesArb, fc.integer({ min: 0, max: 900 }), (made, switchMs) => {
        const gear = [Instrument.parse(outboardInstrument({ switchMs }))];
        const tin = timed(
          made.map(([atTick, length, isNote, number], i) =>
            isNote ? note(`n${i}`, atTick, length) : program(`p${i}`, atTick, { program: number }),
          ),
        );
        const map = tempoMapOf(tin.map);
        for (const lead of leadsOf(tin, gear)) {
          if (lead.safeTick === null) continue;
          expect(lead.safeTick).toBeLessThanOrEqual(lead.atTick);
          const readyMs = map.msAt(lead.safeTick) + lead.needsMs;
          expect(readyMs).toBeLessThanOrEqual(map.msAt(lead.firstNoteTick!) + 1e-6);
          // Any tick later is too late.
          expect(map.msAt(lead.safeTick + 1) + lead.needsMs).toBeGreaterThan(map.msAt(lead.firstNoteTick!) - 1e-6);
          for (const cue of tin.cues)
            if (cue.kind === 'note' && cue.atTick < lead.firstNoteTick!)
              expect(cue.atTick + cue.lengthTicks).toBeLessThanOrEqual(lead.safeTick);
        }
        const all = withAllAhead(tin, leadsOf(tin, gear), 'skerry', mint);
        expect(Song.safeParse(all).success).toBe(true);
      }),
      { seed: 5, numRuns: 300 },
    );
  });
});
