import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Song, SongMap, type Section } from '../src/show';
import {
  repeatedMap,
  tempoMapOf,
  tempoMapOfSong,
  withEqualMaps,
  withMeterAt,
  withTempoAt,
  withoutTempoAt,
} from '../src/timeline';
import { TestRig, layer, part, song } from './build';

const BAR = 3840;
/** Verse, chorus, the verse again, the chorus again; four bars each. */
const sections = [
  { id: 'v', name: 'Verse', fromTick: 0, toTick: 4 * BAR },
  { id: 'c', name: 'Chorus', fromTick: 4 * BAR, toTick: 8 * BAR },
  { id: 'v2', name: 'Verse 2', fromTick: 8 * BAR, toTick: 12 * BAR, repeats: 'v' },
  { id: 'c2', name: 'Chorus 2', fromTick: 12 * BAR, toTick: 16 * BAR, repeats: 'c' },
];
const tin = (map: object): Song =>
  song('Tin', {
    layers: [layer('A')],
    patches: [{ id: 'p0', name: 'p0', parts: [part('A')] }],
    map: { meters: [{ bar: 1, beats: 4, unit: 4 }], bars: 20, ...map },
    sections,
  });
const at = (map: SongMap): string[] =>
  map.tempos.map(({ atTick, bpm, ramp }) => `${atTick / BAR} ${Math.round(bpm * 100) / 100}${ramp ? ' ramp' : ''}`);

describe('a repeated section', () => {
  it('has the tempo of the one that it repeats, and what comes behind it keeps its own', () => {
    const steps = tin({
      tempos: [
        { atTick: 0, bpm: 100 },
        { atTick: 2 * BAR, bpm: 120 },
        { atTick: 4 * BAR, bpm: 90 },
        { atTick: 10 * BAR, bpm: 60 },
      ],
    });
    expect(at(repeatedMap(steps))).toEqual(['0 100', '2 120', '4 90', '8 100', '10 120', '12 90', '16 60']);
    const ramps = tin({
      tempos: [
        { atTick: 0, bpm: 100, ramp: true },
        { atTick: 2 * BAR, bpm: 120 },
        { atTick: 4 * BAR, bpm: 90 },
      ],
    });
    expect(at(repeatedMap(ramps))).toEqual(['0 100 ramp', '2 120', '4 90', '8 100 ramp', '10 120', '12 90']);
    // Nothing to do: it is the very same.
    const steady = tin({ tempos: [{ atTick: 0, bpm: 100 }] });
    expect(repeatedMap(steady)).toBe(steady.map);
  });

  it('has its meter, while every tick stays where it is', () => {
    const { map } = tin({ tempos: [{ atTick: 0, bpm: 100 }] });
    const waltz = withMeterAt(withMeterAt(map, 2, { beats: 3, unit: 4 }), 6, { beats: 4, unit: 4 });
    const played = tempoMapOf(repeatedMap({ ...tin({ tempos: [{ atTick: 0, bpm: 100 }] }), map: waltz }));
    for (let tick = 0; tick < 4 * BAR; tick += 480)
      expect(played.meterAt(8 * BAR + tick)).toMatchObject({ beats: tempoMapOf(waltz).meterAt(tick).beats });
    expect(played.meterAt(12 * BAR)).toMatchObject({ beats: 4, unit: 4 });
    expect(played.endTick).toBe(tempoMapOf(waltz).endTick);
  });

  it('is as the other one at every tick, whatever the tempos; done twice it is the same', () => {
    const tempo = fc.record({
      atTick: fc.integer({ min: 1, max: 19 * BAR }),
      bpm: fc.integer({ min: 40, max: 240 }),
      ramp: fc.boolean(),
    });
    fc.assert(
      fc.property(
        fc.array(tempo, { maxLength: 12 }),
        fc.array(fc.tuple(fc.integer({ min: 2, max: 18 }), fc.integer({ min: 2, max: 7 })), { maxLength: 4 }),
        (tempos, meters) => {
          const unique = [
            ...new Map([{ atTick: 0, bpm: 100, ramp: false }, ...tempos].map((one) => [one.atTick, one])).values(),
          ].sort((a, b) => a.atTick - b.atTick);
          const plain = tin({ tempos: unique });
          const map = meters.reduce((made, [bar, beats]) => withMeterAt(made, bar, { beats, unit: 4 }), plain.map);
          const made = SongMap.parse(repeatedMap({ ...plain, map }));
          const times = tempoMapOf(made);
          for (const { fromTick, toTick, repeats } of plain.sections) {
            const original = plain.sections.find(({ id }) => id === repeats);
            if (!original) continue;
            for (let tick = 0; tick < toTick - fromTick - 1; tick += 97) {
              expect(times.bpmAt(fromTick + tick)).toBeCloseTo(times.bpmAt(original.fromTick + tick), 6);
              expect(times.meterAt(fromTick + tick)).toMatchObject({
                beats: times.meterAt(original.fromTick + tick).beats,
              });
            }
          }
          const before = tempoMapOf(map);
          expect(times.endTick).toBeGreaterThanOrEqual(before.endTick);
          // Outside of what repeats nothing has changed, but for a ramp into it.
          for (let tick = 16 * BAR; tick < 20 * BAR; tick += 97)
            expect(times.bpmAt(tick)).toBeCloseTo(before.bpmAt(tick), 6);
          expect(at(repeatedMap({ ...plain, map: made }))).toEqual(at(made));
        },
      ),
      { seed: 20_261_129, numRuns: 30 },
    );
  });

  it('is edited with it: a tempo put into one, or taken out, is put into all', () => {
    const plain = tin({ tempos: [{ atTick: 0, bpm: 100 }] });
    const edited = (from: Song, map: SongMap): Song => withEqualMaps(from, { ...from, map });
    const first = edited(plain, withTempoAt(plain.map, { atTick: BAR, bpm: 140, ramp: false }));
    expect(at(first.map)).toEqual(['0 100', '1 140', '8 100', '9 140']);
    const second = edited(first, withTempoAt(first.map, { atTick: 10 * BAR, bpm: 70, ramp: false }));
    // It holds up to the next one, in the second chorus too: so in the first.
    expect(at(second.map)).toEqual(['0 100', '1 140', '2 70', '8 100', '9 140', '10 70']);
    const third = edited(second, withoutTempoAt(second.map, 2 * BAR));
    expect(at(third.map)).toEqual(['0 100', '1 140', '8 100', '9 140', '16 70']);
    // One that begins to repeat takes what is there.
    const own = Song.parse({ ...third, sections: third.sections.map((one): Section => ({ ...one, repeats: null })) });
    const apart = edited(own, withTempoAt(own.map, { atTick: 10 * BAR, bpm: 70, ramp: false }));
    const again = withEqualMaps(apart, { ...apart, sections: plain.sections });
    expect(at(again.map).slice(0, 4)).toEqual(['0 100', '1 140', '8 100', '9 140']);
  });

  it('is played so, also where a file does not say it', () => {
    const slow = tin({
      tempos: [
        { atTick: 0, bpm: 60 },
        { atTick: 4 * BAR, bpm: 120 },
      ],
    });
    expect(tempoMapOfSong(slow).msAt(12 * BAR)).toBeCloseTo(16_000 + 8000 + 16_000, 6);
    const rig = new TestRig([slow]);
    rig.engine.perform('play', 0);
    rig.engine.advance(25_000);
    expect(rig.engine.tempoBpm).toBe(60);
  });
});
