import { describe, expect, it } from '@jest/globals';
import { estimatedParts } from '@rackle/core/loading';
import { BUILT_INS, GENERAL_MIDI_PROGRAMS, SoundShape } from '@rackle/core/show';
import { MATERIALS } from '../src/host/audio/materials';
import type { Material } from '../src/host/audio/materials/material';
import { materialPreset } from '../src/host/audio/materials/materialPreset';
import { shapeMaterial } from '../src/host/audio/materials/shapeMaterial';
import { RECIPES } from '../src/host/audio/recipes';
import { hitOf, kitHits } from '../src/host/audio/recipes/kit';
import { everyOther, inPairs } from '../src/host/audio/sampled/bankZones';
import { centre, centreLoop } from '../src/host/audio/sampled/centre';
import { fallOf } from '../src/host/audio/sampled/falling';
import { BY_VELOCITY, modulated, sourceValue, type ModulationSource } from '../src/host/audio/sampled/modulations';
import { oggStart } from '../src/host/audio/sampled/oggStart';
import { recordingAsPreset } from '../src/host/audio/sampled/recordingPreset';
import { ringOn } from '../src/host/audio/sampled/ringOn';
import type { SampleZone, SampledPreset } from '../src/host/audio/sampled/sampledPreset';
import { Turns } from '../src/host/audio/sampled/turns';

const RATE = 8000;
/** A zone over all keys, at key 60. */
const zone = (over: Partial<SampleZone> = {}): SampleZone => ({
  ...recordingAsPreset(
    {
      id: 'a',
      name: 'A',
      file: '',
      fileName: '',
      lengthSeconds: 1,
      startSeconds: 0,
      endSeconds: null,
      rootKey: 60,
      followsKeys: true,
      plays: 'whileHeld',
      starts: 'atOnce',
      levelDb: 0,
    } as never,
    [new Float32Array(RATE)],
    RATE,
  ).zones[0],
  ...over,
});
const preset = (...zones: SampleZone[]): SampledPreset => ({
  zones,
  samples: [{ id: '0', frames: RATE, sides: 1, channels: [], sampleRate: RATE }],
});

describe('every built-in preset', () => {
  it('is known to the loading plan by what it is made of, where it is recorded, and by nothing where it is made', () => {
    for (const { id: instrumentId, presets } of BUILT_INS)
      for (const { id: presetId } of presets)
        expect([presetId, estimatedParts({ instrumentId, presetId }, () => undefined).length > 0]).toEqual([
          presetId,
          MATERIALS[presetId] !== undefined,
        ]);
  });

  it('has a sound, and every sound a preset; what is recorded and not of General MIDI has a made one that stands in', () => {
    const ids = BUILT_INS.flatMap(({ presets }) => presets.map(({ id }) => id as string));
    expect(new Set(ids).size).toBe(ids.length);
    for (const id of ids) expect(MATERIALS[id] ?? RECIPES[id]).toBeDefined();
    for (const id of [...Object.keys(MATERIALS), ...Object.keys(RECIPES)]) expect(ids).toContain(id);
    for (const id of Object.keys(MATERIALS)) expect(id.startsWith('cargo/') || RECIPES[id] !== undefined).toBe(true);
    expect(GENERAL_MIDI_PROGRAMS).toHaveLength(128);
    // Programs 1, 41 and 128, counted from 0.
    expect(MATERIALS['cargo/acoustic-grand-piano'].parts[0].program).toBe(0);
    expect(MATERIALS['cargo/violin'].parts[0].program).toBe(40);
    expect(MATERIALS['cargo/gunshot'].parts[0].program).toBe(127);
    expect(MATERIALS['cargo/standard-kit'].parts[0]).toMatchObject({ bank: 128, program: 0 });
  });
});

describe('a bank’s own modulators', () => {
  const by = (over: Partial<ModulationSource>): ModulationSource => ({
    of: 'velocity',
    curve: 'linear',
    falls: false,
    isBipolar: false,
    ...over,
  });

  it('have the curves of SoundFont 2.04', () => {
    expect(sourceValue(by({}), 60, 127)).toBe(1);
    expect(sourceValue(by({ falls: true }), 60, 127)).toBe(0);
    expect(sourceValue(by({ of: 'key', isBipolar: true }), 0, 1)).toBe(-1);
    expect(sourceValue(by({ curve: 'switch' }), 60, 63)).toBe(0);
    expect(sourceValue(by({ curve: 'switch' }), 60, 64)).toBe(1);
    // Concave over 96 dB: 40 log of what is left.
    expect(sourceValue(by({ curve: 'concave', falls: true }), 60, 127 / 2)).toBeCloseTo((40 / 96) * Math.log10(2), 9);
    expect(sourceValue(by({ curve: 'convex' }), 60, 127 / 2)).toBeCloseTo(1 - (40 / 96) * Math.log10(2), 9);
    expect(sourceValue(by({ of: 'always' }), 60, 1)).toBe(1);
    expect(sourceValue(by({ of: 63.5, isBipolar: true }), 60, 1)).toBe(0);
  });

  it('of a key struck half as hard take 12 dB', () => {
    const soft = modulated(zone({ modulations: [BY_VELOCITY] }), 60, 63.5);
    expect(soft.levelDb).toBeCloseTo(-12.04, 2);
    expect(modulated(zone({ modulations: [BY_VELOCITY] }), 60, 127).levelDb).toBe(0);
  });

  it('move filter, times, pan and pitch, and never more than can be', () => {
    const moved = (to: (typeof BY_VELOCITY)['to'], amount: number, over: Partial<SampleZone> = {}): SampleZone =>
      modulated(zone({ modulations: [{ ...BY_VELOCITY, to, amount, by: by({}) }], ...over }), 60, 127);
    expect(moved('filterCents', -1200).filterHz).toBeCloseTo(10_000);
    expect(moved('filterCents', 2400, { filterHz: 8000 }).filterHz).toBeNull();
    expect(moved('volumeReleaseTimecents', 1200).envelope.releaseS).toBeCloseTo(0.12);
    expect(moved('panTenthsOfPercent', 5000).pan).toBe(1);
    expect(moved('pitchCents', -50).tuneCents).toBe(-50);
    expect(moved('startFrames', 1e9).start).toBe(RATE - 2);
    expect(moved('attenuationCb', -500).levelDb).toBe(0);
  });
});

describe('a long sample', () => {
  const FALLS_DB = 6;
  const dying = Float32Array.from(
    { length: RATE * 10 },
    (_, i) => Math.sin((2 * Math.PI * 440 * i) / RATE) * 10 ** ((-FALLS_DB * i) / RATE / 20),
  );
  const rms = (part: Float32Array): number => Math.sqrt(part.reduce((sum, one) => sum + one * one, 0) / part.length);

  it('is cut, and goes on falling as it fell: its end goes round at one level', () => {
    const { data, loop, ringing } = ringOn(dying, 4 * RATE, RATE);
    expect(data).toHaveLength(4 * RATE);
    expect(ringing.dbPerS).toBeCloseTo(FALLS_DB, 1);
    expect(ringing.fromS * RATE).toBeCloseTo(loop.start);
    // Before its end is crossed over, each tenth of a second of the loop is as loud as the place where it begins.
    const begins = rms(dying.subarray(loop.start, loop.start + 80));
    for (let at = loop.start; at < loop.end - 0.5 * RATE; at += 800)
      expect(20 * Math.log10(rms(data.subarray(at, at + 800)) / begins)).toBeLessThan(0.5);
    // And nothing jumps where it goes round.
    expect(Math.abs(data[loop.end - 1] - data[loop.start])).toBeLessThan(0.5 * begins * Math.SQRT2);
  });

  it('that holds its level is not made to fall', () => {
    const steady = Float32Array.from({ length: RATE * 8 }, (_, i) => Math.sin((2 * Math.PI * 440 * i) / RATE));
    expect(ringOn(steady, 4 * RATE, RATE).ringing.dbPerS).toBeLessThan(0.01);
  });

  it('falls by its envelope and by that together, straight in decibels, to −100 dB and no further', () => {
    const [first, second, last] = fallOf({ holdS: 1, decayS: 9.6, sustainDb: -100 }, { fromS: 3, dbPerS: 10 }, 1, 0);
    expect(first).toEqual({ s: 1, db: 0 });
    expect(second.s).toBe(3);
    expect(second.db).toBeCloseTo((-100 / 9.6) * 2, 6);
    expect(last.db).toBe(-100);
    // Both together from there.
    expect(last.s).toBeCloseTo(3 + (100 + second.db) / (10 + 100 / 9.6), 6);
    expect(fallOf({ holdS: 0, decayS: 1, sustainDb: 0 }, null, 1, 0)).toEqual([]);
    // An octave up it is played twice as fast: the cut comes sooner, and it falls faster.
    const up = fallOf({ holdS: 0, decayS: 1, sustainDb: 0 }, { fromS: 3, dbPerS: 10 }, 2, 0);
    expect(up).toEqual([
      { s: 1.5, db: 0 },
      { s: 6.5, db: -100 },
    ]);
  });

  it('is unpacked only as far as it is heard: whole pages of its stream', () => {
    const page = (granule: number, bytes: number): number[] => {
      const head = new Uint8Array(27 + 1);
      head.set([0x4f, 0x67, 0x67, 0x53]);
      new DataView(head.buffer).setBigInt64(6, BigInt(granule), true);
      head[26] = 1;
      head[27] = bytes;
      return [...head, ...new Array<number>(bytes).fill(7)];
    };
    const stream = Uint8Array.from([...page(0, 10), ...page(1000, 100), ...page(2000, 100), ...page(3000, 100)]);
    expect(oggStart(stream, 900)).toHaveLength(28 * 2 + 110);
    expect(oggStart(stream, 1001)).toHaveLength(28 * 3 + 210);
    expect(oggStart(stream, 1e9)).toHaveLength(stream.length);
    expect(oggStart(Uint8Array.from([1, 2, 3]), 5)).toHaveLength(3);
  });

  it('has nothing that stands still in it, nor in the part that goes round', () => {
    const samples = Float32Array.from({ length: RATE }, (_, i) => 0.2 + Math.sin((2 * Math.PI * 200 * i) / RATE));
    centre(samples, RATE);
    const loop = { start: 6000, end: 6040 };
    for (let i = loop.start; i < loop.end; i++) samples[i] += 0.1;
    centreLoop(samples, loop, RATE);
    const mean = samples.subarray(loop.start, loop.end).reduce((sum, one) => sum + one, 0) / 40;
    expect(Math.abs(mean)).toBeLessThan(1e-6);
  });
});

describe('zones of a bank', () => {
  const at = (lowKey: number, highKey: number, pan = 0) => ({
    lowKey,
    highKey,
    lowVelocity: 0,
    highVelocity: 127,
    pan,
  });

  it('are half as many where every other key is enough, and cover the same keys', () => {
    const zones = [at(0, 30), at(31, 40), at(41, 50), at(51, 127)];
    expect(everyOther(zones)).toEqual([at(0, 40), at(41, 127)]);
    expect(everyOther([at(0, 127), at(0, 127)])).toHaveLength(2);
    expect(everyOther([at(0, 60, -1), at(0, 60, 1), at(61, 127, -1), at(61, 127, 1)])).toEqual([
      at(0, 127, -1),
      at(0, 127, 1),
    ]);
  });

  it('on the left and on the right become one of two sides; what differs stays apart', () => {
    const sample = { sampleRate: 44_100 } as never;
    const left = { zone: zone({ pan: -1 }), samples: [sample] };
    const right = { zone: zone({ pan: 1 }), samples: [sample] };
    expect(inPairs([left, right])).toMatchObject([{ zone: { pan: 0, gainDb: 3.01 }, samples: [sample, sample] }]);
    expect(inPairs([left, { ...right, zone: zone({ pan: 1, rootKey: 61 }) }])).toHaveLength(2);
    expect(inPairs([left, left])).toHaveLength(2);
  });
});

describe('a preset of recorded material', () => {
  it('has its parts moved as they are meant: keys along with the pitch, to a side, softer', () => {
    const material: Material = {
      parts: [{ program: 0 }, { program: 1, semitones: 12, cents: 5, pan: 0.5, levelDb: -6 }],
      gainDb: 2,
      tuneCents: -3,
    };
    const { zones, samples } = materialPreset(material, [
      preset(zone()),
      preset(zone({ lowKey: 60, highKey: 72, rootKey: 66 })),
    ]);
    expect(samples).toHaveLength(2);
    expect(zones[0]).toMatchObject({ sample: 0, lowKey: 0, highKey: 127, gainDb: 2, tuneCents: -3 });
    expect(zones[1]).toMatchObject({
      sample: 1,
      lowKey: 48,
      highKey: 60,
      rootKey: 54,
      gainDb: -4,
      tuneCents: 2,
      pan: 0.5,
    });
  });

  it('has a sound on every key, of its nearest recording; a kit only on its own', () => {
    const part = preset(zone({ lowKey: 40, highKey: 59 }), zone({ lowKey: 60, highKey: 80 }));
    const rangesOf = (material: Material): number[][] =>
      materialPreset(material, [part]).zones.map(({ lowKey, highKey }) => [lowKey, highKey]);
    expect(rangesOf({ parts: [{ program: 0 }] })).toEqual([
      [0, 59],
      [60, 127],
    ]);
    expect(rangesOf({ parts: [{ bank: 128, program: 0 }] })).toEqual([
      [40, 59],
      [60, 80],
    ]);
  });

  it('falls, opens and ends as its material says', () => {
    const made = materialPreset(
      { parts: [{ program: 0 }], decayS: 1, releaseS: 0.5, filter: { hz: 1000, softCents: 1200, centsPerKey: 100 } },
      [preset(zone({ filterHz: 15_000 }))],
    ).zones[0];
    expect(made.envelope).toMatchObject({ decayS: 1.6, releaseS: 0.8, sustainDb: -100 });
    expect(modulated(made, 60, 127).filterHz).toBeCloseTo(1000);
    expect(modulated(made, 72, 127).filterHz).toBeCloseTo(2000);
    expect(modulated(made, 60, 0).filterHz).toBeCloseTo(500);
  });

  it('of the player’s own is moved by every control', () => {
    const material: Material = { parts: [{ program: 4 }] };
    const shaped = (over: object): Material => shapeMaterial(material, SoundShape.parse(over));
    expect(shaped({ width: 50 }).parts).toHaveLength(2);
    expect(shaped({ noise: 50 }).parts).toHaveLength(2);
    expect(shaped({ bright: -50 }).effects).toMatchObject([{ kind: 'filter' }]);
    expect(shaped({ bright: 50 }).effects).toMatchObject([{ kind: 'equaliser', highDb: 6 }]);
    expect(shaped({ attack: 100, decay: -100, release: 0 }).times).toEqual({ attack: 8, decay: 1 / 8, release: 1 });
    expect(shaped({ touch: -100 }).touch).toBe(0);
    expect(shaped({ vibrato: 100 }).vibrato).toMatchObject({ cents: 30 });
    const still = materialPreset(shaped({}), [preset(zone())]).zones[0];
    expect(still).toEqual(materialPreset(material, [preset(zone())]).zones[0]);
  });
});

describe('a made kit', () => {
  it('lies on the keys of General MIDI', () => {
    const place = (key: number): number => hitOf(key).place;
    expect(place(35)).toBe(place(36));
    expect(place(38)).toBe(place(40));
    expect(new Set([41, 43, 45, 47, 48, 50].map(place)).size).toBe(1);
    expect([41, 43, 45, 47, 48, 50].map((key) => hitOf(key).semitones)).toEqual([0, 2, 4, 6, 8, 10]);
    expect(place(42)).toBe(place(44));
    expect(place(46)).not.toBe(place(42));
    expect(place(49)).toBe(place(57));
    expect(place(51)).toBe(place(59));
    expect(place(0)).toBe(place(35));
    expect(place(127)).toBe(place(81));
  });

  it('plays the nearest of what it has where it lacks something', () => {
    const kick = RECIPES['keelson/round'];
    const snare = RECIPES['keelson/sub'];
    const hits = kitHits({ kick, snare });
    expect(hits[hitOf(38).place]).toBe(snare);
    expect(hits[hitOf(42).place]).toBe(snare);
    expect(hits[hitOf(45).place]).toBe(kick);
  });
});

describe('loading', () => {
  it('goes in turn; what is needed now goes before all that waits, and one that fails holds nobody up', async () => {
    const turns = new Turns();
    const done: string[] = [];
    const act = (name: string) => (): Promise<void> => {
      done.push(name);
      return name === 'b' ? Promise.reject(new Error('away')) : Promise.resolve();
    };
    const all = ['a', 'b', 'c', 'd'].map((name) => turns.take(name, act(name)).catch(() => undefined));
    turns.hurry('d');
    await Promise.all(all);
    expect(done).toEqual(['a', 'd', 'b', 'c']);
    await turns.take('e', act('e'));
    expect(done).toHaveLength(5);
  });
});
