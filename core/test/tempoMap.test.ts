import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SongMap, steadyMap, type Meter } from '../src/show';
import {
  TempoMap,
  formatPosition,
  parsePosition,
  ticksPerBar,
  withMeterAt,
  withTempoAt,
  withoutMeterAt,
  withoutTempoAt,
} from '../src/timeline';

const HOUR_MS = 3_600_000;
const mapOf = (given: Partial<SongMap>): SongMap => SongMap.parse({ ...steadyMap(), ...given });

const bpm = fc.double({ min: 3.58, max: 1000, noNaN: true });
const meter: fc.Arbitrary<Meter> = fc.record({
  beats: fc.integer({ min: 1, max: 13 }),
  unit: fc.constantFrom(1, 2, 4, 8, 16, 32, 64),
});

/** Up to 500 tempos, steps and ramps; meters that change at any bar, some inside it; with or without an upbeat. */
const anyMap: fc.Arbitrary<SongMap> = fc
  .record({
    tempos: fc.array(fc.record({ gap: fc.integer({ min: 1, max: 60_000 }), bpm, ramp: fc.boolean() }), {
      minLength: 1,
      maxLength: 500,
    }),
    meters: fc.array(fc.tuple(meter, fc.integer({ min: 1, max: 40 }), fc.double({ min: 0, max: 0.9, noNaN: true })), {
      minLength: 1,
      maxLength: 20,
    }),
    upbeat: fc.double({ min: 0, max: 0.95, noNaN: true }),
  })
  .map(({ tempos, meters, upbeat }) => {
    let atTick = 0;
    let bar = 1;
    return SongMap.parse({
      tempos: tempos.map(({ gap, ...tempo }, i) => ({ atTick: i === 0 ? 0 : (atTick += gap), ...tempo })),
      meters: meters.map(([one, bars, early], i) => ({
        ...one,
        bar: i === 0 ? 1 : (bar += bars),
        early: i === 0 ? 0 : Math.floor(early * ticksPerBar(meters[i - 1][0])),
      })),
      upbeatTicks: Math.floor(upbeat * ticksPerBar(meters[0][0])),
      bars: bar + 40,
    });
  });

/** Time of a tick by summing a thousand slices of each segment: what the closed form has to agree with. */
function summedMs({ tempos }: SongMap, tick: number): number {
  let ms = 0;
  tempos.forEach((tempo, i) => {
    const next = tempos[i + 1] as SongMap['tempos'][number] | undefined;
    const end = Math.min(tick, next?.atTick ?? Infinity);
    const length = end - tempo.atTick;
    if (length <= 0) return;
    const rise = tempo.ramp && next ? (next.bpm - tempo.bpm) / (next.atTick - tempo.atTick) : 0;
    const slices = 1000;
    for (let slice = 0; slice < slices; slice++)
      ms += (length / slices) * (62.5 / (tempo.bpm + rise * ((slice + 0.5) / slices) * length));
  });
  return ms;
}

describe('time of a tick', () => {
  it('and back is the tick itself, and a microsecond over an hour of 500 tempos is not lost', () => {
    fc.assert(
      fc.property(anyMap, fc.array(fc.integer({ min: 0, max: 30_000_000 }), { maxLength: 40 }), (given, ticks) => {
        const map = new TempoMap(given);
        for (const tick of [...ticks, ...given.tempos.map(({ atTick }) => atTick)]) {
          const ms = map.msAt(tick);
          if (ms > HOUR_MS) continue;
          expect(map.tickAt(ms)).toBe(tick);
          expect(Math.abs(map.msAt(map.tickAt(ms + 0.37)) - (ms + 0.37))).toBeLessThan(0.001);
        }
      }),
      { seed: 21, numRuns: 100 },
    );
  });

  it('never falls, and is what sums of small slices come to', () => {
    fc.assert(
      fc.property(
        anyMap,
        fc.integer({ min: 0, max: 2_000_000 }),
        fc.integer({ min: 1, max: 5000 }),
        (given, tick, by) => {
          const map = new TempoMap(given);
          expect(map.msAt(tick + by)).toBeGreaterThan(map.msAt(tick));
          const summed = summedMs(given, tick);
          expect(Math.abs(map.msAt(tick) - summed)).toBeLessThanOrEqual(1e-3 * summed);
        },
      ),
      { seed: 22, numRuns: 60 },
    );
  });

  it('at one tempo is what a clock says; in a ramp the closed logarithm', () => {
    expect(new TempoMap(steadyMap(120)).msAt(120 * 60 * 960)).toBe(HOUR_MS);
    const ramp = new TempoMap(
      mapOf({
        tempos: [
          { atTick: 0, bpm: 60, ramp: true },
          { atTick: 9600, bpm: 120, ramp: false },
        ],
      }),
    );
    // ∫ 62.5 / (60 + t/160) dt over 9600 ticks is 10 000 ln 2.
    expect(ramp.msAt(9600)).toBeCloseTo(10_000 * Math.LN2, 9);
    expect([ramp.bpmAt(0), ramp.bpmAt(4800), ramp.bpmAt(9600), ramp.bpmAt(50_000)]).toEqual([60, 90, 120, 120]);
    expect(ramp.msAt(9600 + 960) - ramp.msAt(9600)).toBeCloseTo(500, 9);
    expect([ramp.nextTempoTick(0), ramp.nextTempoTick(9000), ramp.nextTempoTick(9600)]).toEqual([960, 9600, Infinity]);
  });

  it('where a ramp’s ends nearly agree, is that of its tempo', () => {
    const tempos = (end: number) => [
      { atTick: 0, bpm: 120, ramp: true },
      { atTick: 960_000, bpm: end, ramp: false },
    ];
    const level = new TempoMap(mapOf({ tempos: tempos(120) })).msAt(960_000);
    expect(level).toBe(500_000);
    for (const by of [1e-6, 1e-9, 1e-12])
      expect(Math.abs(new TempoMap(mapOf({ tempos: tempos(120 + by) })).msAt(960_000) - level)).toBeLessThan(by * 2200);
  });
});

describe('place of a tick', () => {
  it('goes both ways, also as it is written, in every meter, with an upbeat and bars that end early', () => {
    fc.assert(
      fc.property(anyMap, fc.array(fc.integer({ min: 0, max: 400_000 }), { maxLength: 30 }), (given, ticks) => {
        const map = new TempoMap(given);
        for (const tick of ticks) {
          const position = map.positionAt(tick);
          expect(map.tickOf(position)).toBe(tick);
          expect(parsePosition(formatPosition(position), map)).toBe(tick);
          expect(position.bar >= 1 || tick < given.upbeatTicks).toBe(true);
          expect(map.barFrom(tick)).toBeLessThanOrEqual(tick);
          if (position.bar > 0) expect(map.barFrom(tick)).toBe(map.barTick(position.bar));
          expect(map.barTo(tick)).toBe(map.barTick(position.bar + 1));
        }
      }),
      { seed: 23, numRuns: 200 },
    );
  });

  it('rises with the tick', () => {
    fc.assert(
      fc.property(anyMap, fc.integer({ min: 0, max: 400_000 }), (given, tick) => {
        const map = new TempoMap(given);
        const [a, b] = [map.positionAt(tick), map.positionAt(tick + 1)];
        expect(b.bar > a.bar || (b.bar === a.bar && (b.beat > a.beat || (b.beat === a.beat && b.tick > a.tick)))).toBe(
          true,
        );
      }),
      { seed: 24, numRuns: 300 },
    );
  });

  it('of an upbeat is the end of bar 0; bar 1 begins after it', () => {
    const map = new TempoMap(mapOf({ upbeatTicks: 960, bars: 8 }));
    expect([0, 480, 960, 960 + 3840].map((tick) => formatPosition(map.positionAt(tick)))).toEqual([
      '0 : 4',
      '0 : 4 + 480',
      '1 : 1',
      '2 : 1',
    ]);
    expect(parsePosition('0 : 3', map)).toBeNull();
    expect(map.endTick).toBe(960 + 8 * 3840);
  });

  it('in a bar that ends early exists only up to there', () => {
    const map = new TempoMap(
      mapOf({
        meters: [
          { bar: 1, beats: 4, unit: 4, early: 0 },
          { bar: 3, beats: 6, unit: 8, early: 1920 },
        ],
        bars: 4,
      }),
    );
    expect(map.barTick(3)).toBe(2 * 3840 - 1920);
    expect(parsePosition('2 : 2 + 959', map)).toBe(3840 + 1919);
    expect(parsePosition('2 : 3', map)).toBeNull();
    expect(formatPosition(map.positionAt(map.barTick(3) + 480 * 5))).toBe('3 : 6');
    expect(map.endTick).toBe(map.barTick(3) + 2 * 2880);
    expect(map.meterAt(map.barTick(3) - 1)).toMatchObject({ beats: 4, unit: 4 });
  });

  it('reads as a player writes it, and refuses what does not exist', () => {
    const map = new TempoMap(steadyMap());
    expect(['29', '29:1', '29 : 2 + 480', '29|2|480'].map((text) => parsePosition(text, map))).toEqual([
      28 * 3840,
      28 * 3840,
      28 * 3840 + 960 + 480,
      28 * 3840 + 960 + 480,
    ]);
    for (const wrong of ['', '0', '0 : 4', '3:5', '3:1+960', 'x', '-2']) expect(parsePosition(wrong, map)).toBeNull();
  });
});

describe('a map', () => {
  it('that contradicts itself is refused with a word', () => {
    const tempo = { atTick: 0, bpm: 120 };
    const first = { bar: 1, beats: 4, unit: 4 };
    const words = (given: object): string =>
      SongMap.safeParse({ tempos: [tempo], meters: [first], bars: 8, ...given }).error?.issues[0].message ?? '';
    expect(words({})).toBe('');
    expect(words({ tempos: [{ ...tempo, atTick: 5 }] })).toBe('the first tempo is at the start');
    expect(words({ tempos: [tempo, tempo] })).toBe('tempos stand in their order, each at its own place');
    expect(words({ tempos: [{ ...tempo, bpm: 0 }] })).toBe('at least 3.58');
    expect(words({ meters: [{ ...first, bar: 2 }] })).toBe('the first meter is that of bar 1');
    expect(words({ meters: [first, { ...first, bar: 3 }, { ...first, bar: 2 }] })).toContain('in their order');
    expect(words({ meters: [first, { ...first, bar: 9 }] })).toBe('a meter stands after the last bar, 8');
    expect(words({ meters: [first, { ...first, bar: 2, early: 3840 }] })).toBe('a bar that ends early has a length');
    expect(words({ meters: [{ ...first, unit: 3 }] })).not.toBe('');
    expect(words({ upbeatTicks: 3840 })).toBe('an upbeat is shorter than a bar');
  });

  it('takes tempos and meters, and gives them up; ticks stay, and the song is no shorter', () => {
    const map = steadyMap(100, { beats: 4, unit: 4 }, 16);
    const faster = withTempoAt(map, { atTick: 3840, bpm: 140, ramp: false });
    expect(withTempoAt(faster, { atTick: 3840, bpm: 150, ramp: true }).tempos).toHaveLength(2);
    expect(withoutTempoAt(faster, 3840)).toEqual(map);
    expect(withoutTempoAt(map, 0)).toEqual(map);
    const waltz = withMeterAt(map, 5, { beats: 3, unit: 4 });
    expect(waltz.meters.map(({ bar, beats }) => [bar, beats])).toEqual([
      [1, 4],
      [5, 3],
    ]);
    expect(new TempoMap(waltz).endTick).toBe(16 * 3840);
    expect(withoutMeterAt(waltz, 5)).toEqual(map);
    fc.assert(
      fc.property(
        anyMap,
        fc.integer({ min: 1, max: 60 }),
        fc.record({ beats: fc.integer({ min: 2, max: 13 }), unit: fc.constantFrom<4 | 8 | 16>(4, 8, 16) }),
        (given, bar, next) => {
          const at = Math.min(bar, given.bars);
          const ticks = (map: SongMap): number[] =>
            map.meters.slice(1).map((one) => new TempoMap(map).barTick(one.bar));
          for (const changed of [withMeterAt(given, at, next), withoutMeterAt(given, at)]) {
            expect(SongMap.safeParse(changed).error?.issues ?? []).toEqual([]);
            expect(new TempoMap(changed).endTick).toBeGreaterThanOrEqual(new TempoMap(given).endTick);
            const here = new TempoMap(given).barTick(at);
            expect(ticks(changed).filter((tick) => tick !== here)).toEqual(
              ticks(given).filter((tick) => tick !== here),
            );
          }
        },
      ),
      { seed: 25, numRuns: 200 },
    );
  });
});
