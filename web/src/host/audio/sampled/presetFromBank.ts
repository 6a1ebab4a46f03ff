import { BasicSoundBank, GeneratorTypes as G, type BasicPreset, type BasicZone } from 'spessasynth_core';
import { doubled } from './doubled';
import type { EnvelopeTimes, SampleData, SampleZone, SampledPreset, Wave } from './sampledPreset';

type GeneratorType = Parameters<BasicZone['getGenerator']>[0];

const OPEN_CENTS = 13_500;
const HZ_AT_ZERO_CENTS = 8.176;
const LONGEST_S = 30;
/** Samples of at most this rate are made faster, in Hz. */
const SLOW_RATE = 33_000;
/**
 * Generators that a preset adds to those of its instrument (SoundFont 2.04, 9.4), with the value that an instrument has
 * without them; 0 for all others.
 */
const ADDED: ReadonlyMap<GeneratorType, number> = new Map<GeneratorType, number>([
  [G.initialFilterFc, OPEN_CENTS],
  ...[
    G.delayVolEnv,
    G.attackVolEnv,
    G.holdVolEnv,
    G.decayVolEnv,
    G.releaseVolEnv,
    G.delayModEnv,
    G.attackModEnv,
    G.holdModEnv,
    G.decayModEnv,
    G.releaseModEnv,
    G.delayVibLFO,
    G.delayModLFO,
  ].map((time): [GeneratorType, number] => [time, -12_000]),
  [G.scaleTuning, 100],
]);

/** As the file has it: bit 7 stands for the drums, what is above it for the LSB. */
const bankOf = (preset: BasicPreset): number => preset.bankMSB | (preset.isGMGSDrum ? 128 : 0) | (preset.bankLSB << 8);

/**
 * A preset of a bank as zones and samples. Played: every generator of SoundFont 2.04 (8.1.2) but the sends to a chorus
 * and a reverb, which
 * the layer has instead. Not played: modulators of the bank's own; wheel, modulation and
 * sound controllers work
 * as everywhere.
 * @returns null when the bank has no such preset.
 */
export function presetFromBank(bank: BasicSoundBank, bankNumber: number, program: number): SampledPreset | null {
  const preset = bank.presets.find((candidate) => candidate.program === program && bankOf(candidate) === bankNumber);
  if (!preset) return null;
  const samples: SampleData[] = [];
  const known = new Map<object, number>();
  const zones: SampleZone[] = [];
  for (const presetZone of preset.zones) {
    for (const zone of presetZone.instrument.zones) {
      const inner = rangesOf(zone, presetZone.instrument.globalZone);
      const outer = rangesOf(presetZone, preset.globalZone);
      const ranges = {
        lowKey: Math.max(inner.lowKey, outer.lowKey),
        highKey: Math.min(inner.highKey, outer.highKey),
        lowVelocity: Math.max(inner.lowVelocity, outer.lowVelocity),
        highVelocity: Math.min(inner.highVelocity, outer.highVelocity),
      };
      if (ranges.lowKey > ranges.highKey || ranges.lowVelocity > ranges.highVelocity) continue;
      const { sample } = zone;
      if (!known.has(sample)) {
        const data = dataOf(sample);
        if (data === null) continue;
        known.set(
          sample,
          samples.push({
            channels: [data],
            sampleRate: sample.sampleRate >= 400 ? Math.min(192_000, sample.sampleRate) : 44_100,
          }) - 1,
        );
      }
      const at = known.get(sample)!;
      const own = (type: GeneratorType, otherwise: number): number =>
        zone.getGenerator<number>(type, presetZone.instrument.globalZone.getGenerator<number>(type, otherwise));
      const added = (type: GeneratorType): number => {
        return (
          own(type, ADDED.get(type) ?? 0) +
          presetZone.getGenerator<number>(type, preset.globalZone.getGenerator<number>(type, 0))
        );
      };
      zones.push(zoneOf(ranges, at, sample, samples[at].channels[0].length, own, added));
    }
  }
  return withoutSlow({ zones, samples });
}

/** Slow samples at twice their rate, or four times. */
function withoutSlow({ zones, samples }: SampledPreset): SampledPreset {
  const times = samples.map(({ sampleRate }) => (sampleRate > SLOW_RATE ? 1 : sampleRate > SLOW_RATE / 2 ? 2 : 4));
  return {
    samples: samples.map(({ channels, sampleRate }, i) => ({
      channels: channels.map((channel) => {
        let data = channel;
        for (let by = 1; by < times[i]; by *= 2) data = doubled(data);
        return data;
      }),
      sampleRate: sampleRate * times[i],
    })),
    zones: zones.map((zone) => {
      const by = times[zone.sample];
      const { start, end, loop } = zone;
      if (by === 1) return zone;
      return {
        ...zone,
        start: start * by,
        end: end * by,
        loop: loop && { start: loop.start * by, end: loop.end * by },
      };
    }),
  };
}

function rangesOf(
  zone: BasicZone,
  whole: BasicZone,
): Pick<SampleZone, 'lowKey' | 'highKey' | 'lowVelocity' | 'highVelocity'> {
  const keys = zone.hasKeyRange ? zone.keyRange : whole.hasKeyRange ? whole.keyRange : { min: 0, max: 127 };
  const velocities = zone.hasVelRange ? zone.velRange : whole.hasVelRange ? whole.velRange : { min: 0, max: 127 };
  return {
    lowKey: Math.max(0, keys.min),
    highKey: Math.min(127, keys.max),
    lowVelocity: Math.max(0, velocities.min),
    highVelocity: Math.min(127, velocities.max),
  };
}

/** The sample's numbers, or null where there are none that can be read. */
function dataOf(sample: { getAudioData(): Float32Array }): Float32Array<ArrayBuffer> | null {
  try {
    const data = sample.getAudioData();
    return data.length > 1 ? new Float32Array(data) : null;
  } catch {
    return null;
  }
}

/** Of a generator that puts something in the place of what is played. */
const fixed = (value: number): number | null => (value >= 0 && value <= 127 ? value : null);

const secondsOf = (timecents: number): number =>
  timecents <= -11_000 ? 0 : Math.min(LONGEST_S, 2 ** (timecents / 1200));

/** At most ten octaves (8.1.3). */
const depth = (cents: number): number => Math.min(12_000, Math.max(-12_000, cents));

interface Sample {
  originalKey: number;
  pitchCorrection: number;
  loopStart: number;
  loopEnd: number;
}

function zoneOf(
  ranges: Pick<SampleZone, 'lowKey' | 'highKey' | 'lowVelocity' | 'highVelocity'>,
  at: number,
  sample: Sample,
  length: number,
  own: (type: GeneratorType, otherwise: number) => number,
  added: (type: GeneratorType) => number,
): SampleZone {
  const mode = own(G.sampleModes, 0) & 3;
  const frames = (fine: GeneratorType, coarse: GeneratorType): number => own(fine, 0) + own(coarse, 0) * 32_768;
  const loop = {
    start: sample.loopStart + frames(G.startloopAddrsOffset, G.startloopAddrsCoarseOffset),
    end: sample.loopEnd + frames(G.endloopAddrsOffset, G.endloopAddrsCoarseOffset),
  };
  const start = Math.min(length - 2, Math.max(0, frames(G.startAddrsOffset, G.startAddrsCoarseOffset)));
  const end = Math.min(length, Math.max(start + 2, length + frames(G.endAddrOffset, G.endAddrsCoarseOffset)));
  const root = own(G.overridingRootKey, -1);
  const filterCents = added(G.initialFilterFc);
  const times = (
    delay: GeneratorType,
    attack: GeneratorType,
    hold: GeneratorType,
    decay: GeneratorType,
    release: GeneratorType,
    holdByKey: GeneratorType,
    decayByKey: GeneratorType,
  ): EnvelopeTimes => ({
    delayS: secondsOf(added(delay)),
    attackS: secondsOf(added(attack)),
    holdS: secondsOf(added(hold)),
    decayS: secondsOf(added(decay)),
    releaseS: secondsOf(added(release)),
    holdCentsPerKey: added(holdByKey),
    decayCentsPerKey: added(decayByKey),
  });
  const volume = times(
    G.delayVolEnv,
    G.attackVolEnv,
    G.holdVolEnv,
    G.decayVolEnv,
    G.releaseVolEnv,
    G.keyNumToVolEnvHold,
    G.keyNumToVolEnvDecay,
  );
  const sweep = { pitchCents: depth(added(G.modEnvToPitch)), filterCents: depth(added(G.modEnvToFilterFc)) };
  const wave = (
    delay: GeneratorType,
    rate: GeneratorType,
    pitchCents: number,
    waveFilterCents: number,
    levelDb: number,
  ): Wave => ({
    delayS: secondsOf(added(delay)),
    rateHz: Math.min(40, HZ_AT_ZERO_CENTS * 2 ** (added(rate) / 1200)),
    pitchCents: depth(pitchCents),
    filterCents: depth(waveFilterCents),
    levelDb: Math.min(24, Math.max(-24, levelDb)),
  });
  return {
    ...ranges,
    sample: at,
    start,
    end,
    rootKey: root >= 0 && root <= 127 ? root : Math.min(127, sample.originalKey),
    tuneCents: added(G.coarseTune) * 100 + added(G.fineTune) + sample.pitchCorrection,
    centsPerKey: added(G.scaleTuning),
    fixedKey: fixed(own(G.keyNum, -1)),
    fixedVelocity: fixed(own(G.velocity, -1)),
    loop:
      (mode === 1 || mode === 3) && loop.start >= 0 && loop.end <= length && loop.end - loop.start >= 2 ? loop : null,
    loopsWhileHeld: mode === 3,
    // Banks are written for players that take 0.4 of the attenuation that they name.
    levelDb: -(Math.max(0, added(G.initialAttenuation)) * 0.4) / 10,
    pan: Math.min(1, Math.max(-1, added(G.pan) / 500)),
    envelope: {
      ...volume,
      releaseS: Math.max(0.02, volume.releaseS),
      sustainDb: -Math.min(100, Math.max(0, added(G.sustainVolEnv)) / 10),
    },
    sweep:
      sweep.pitchCents === 0 && sweep.filterCents === 0
        ? null
        : {
            ...times(
              G.delayModEnv,
              G.attackModEnv,
              G.holdModEnv,
              G.decayModEnv,
              G.releaseModEnv,
              G.keyNumToModEnvHold,
              G.keyNumToModEnvDecay,
            ),
            sustain: 1 - Math.min(1, Math.max(0, added(G.sustainModEnv) / 1000)),
            ...sweep,
          },
    waves: [
      wave(G.delayVibLFO, G.freqVibLFO, added(G.vibLfoToPitch), 0, 0),
      wave(
        G.delayModLFO,
        G.freqModLFO,
        added(G.modLfoToPitch),
        added(G.modLfoToFilterFc),
        added(G.modLfoToVolume) / 10,
      ),
    ].filter(({ pitchCents, filterCents: cents, levelDb }) => pitchCents !== 0 || cents !== 0 || levelDb !== 0),
    filterHz:
      filterCents >= OPEN_CENTS ? null : Math.min(20_000, Math.max(20, HZ_AT_ZERO_CENTS * 2 ** (filterCents / 1200))),
    resonanceDb: Math.min(40, Math.max(0, added(G.initialFilterQ) / 10)),
    group: own(G.exclusiveClass, 0),
  };
}
