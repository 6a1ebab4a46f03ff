import { BasicSoundBank, GeneratorTypes as G, type BasicPreset, type BasicZone } from 'spessasynth_core';
import type { SampleData, SampleZone, SampledPreset } from './sampledPreset';

type GeneratorType = Parameters<BasicZone['getGenerator']>[0];

const OPEN_CENTS = 13_500;
const HZ_AT_ZERO_CENTS = 8.176;
const LONGEST_S = 30;
/** Generators that a preset adds to those of its instrument (SoundFont 2.04, 9.4), with the value that an instrument has without them. */
const ADDED: readonly [GeneratorType, number][] = [
  [G.initialFilterFc, OPEN_CENTS], [G.initialFilterQ, 0], [G.pan, 0], [G.delayVolEnv, -12_000], [G.attackVolEnv, -12_000], [G.holdVolEnv, -12_000], [G.decayVolEnv, -12_000], [G.sustainVolEnv, 0],
  [G.releaseVolEnv, -12_000], [G.initialAttenuation, 0], [G.coarseTune, 0], [G.fineTune, 0], [G.scaleTuning, 100],
];

/** As the file has it: bit 7 stands for the drums, what is above it for the LSB. */
const bankOf = (preset: BasicPreset): number => preset.bankMSB | (preset.isGMGSDrum ? 128 : 0) | (preset.bankLSB << 8);

/**
 * A preset of a bank as zones and samples. Played: ranges, samples and loops, tuning, level, pan, volume envelope, filter, exclusive class.
 * Not played: modulators of the bank's own, LFOs and the modulation envelope; wheel, modulation and sound controllers work as everywhere.
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
      const ranges = { lowKey: Math.max(inner.lowKey, outer.lowKey), highKey: Math.min(inner.highKey, outer.highKey), lowVelocity: Math.max(inner.lowVelocity, outer.lowVelocity), highVelocity: Math.min(inner.highVelocity, outer.highVelocity) };
      if (ranges.lowKey > ranges.highKey || ranges.lowVelocity > ranges.highVelocity) continue;
      const { sample } = zone;
      if (!known.has(sample)) {
        const data = dataOf(sample);
        if (data === null) continue;
        known.set(sample, samples.push({ channels: [data], sampleRate: sample.sampleRate >= 400 ? Math.min(192_000, sample.sampleRate) : 44_100 }) - 1);
      }
      const at = known.get(sample)!;
      const own = (type: GeneratorType, otherwise: number): number => zone.getGenerator<number>(type, presetZone.instrument.globalZone.getGenerator<number>(type, otherwise));
      const added = (type: GeneratorType): number => {
        const rest = ADDED.find(([candidate]) => candidate === type)?.[1] ?? 0;
        return own(type, rest) + presetZone.getGenerator<number>(type, preset.globalZone.getGenerator<number>(type, 0));
      };
      zones.push(zoneOf(ranges, at, sample, samples[at].channels[0].length, own, added));
    }
  }
  return { zones, samples };
}

function rangesOf(zone: BasicZone, whole: BasicZone): Pick<SampleZone, 'lowKey' | 'highKey' | 'lowVelocity' | 'highVelocity'> {
  const keys = zone.hasKeyRange ? zone.keyRange : whole.hasKeyRange ? whole.keyRange : { min: 0, max: 127 };
  const velocities = zone.hasVelRange ? zone.velRange : whole.hasVelRange ? whole.velRange : { min: 0, max: 127 };
  return { lowKey: Math.max(0, keys.min), highKey: Math.min(127, keys.max), lowVelocity: Math.max(0, velocities.min), highVelocity: Math.min(127, velocities.max) };
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

const secondsOf = (timecents: number): number => (timecents <= -11_000 ? 0 : Math.min(LONGEST_S, 2 ** (timecents / 1200)));

interface Sample {
  originalKey: number;
  pitchCorrection: number;
  loopStart: number;
  loopEnd: number;
}

function zoneOf(
  ranges: Pick<SampleZone, 'lowKey' | 'highKey' | 'lowVelocity' | 'highVelocity'>, at: number, sample: Sample, length: number, own: (type: GeneratorType, otherwise: number) => number, added: (type: GeneratorType) => number,
): SampleZone {
  const mode = own(G.sampleModes, 0) & 3;
  const start = sample.loopStart + own(G.startloopAddrsOffset, 0) + own(G.startloopAddrsCoarseOffset, 0) * 32_768;
  const end = sample.loopEnd + own(G.endloopAddrsOffset, 0) + own(G.endloopAddrsCoarseOffset, 0) * 32_768;
  const root = own(G.overridingRootKey, -1);
  const filterCents = added(G.initialFilterFc);
  return {
    ...ranges, sample: at, rootKey: root >= 0 && root <= 127 ? root : Math.min(127, sample.originalKey), tuneCents: added(G.coarseTune) * 100 + added(G.fineTune) + sample.pitchCorrection, centsPerKey: added(G.scaleTuning),
    loop: (mode === 1 || mode === 3) && start >= 0 && end <= length && end - start >= 2 ? { start, end } : null, loopsWhileHeld: mode === 3,
    // Banks are written for players that take 0.4 of the attenuation that they name.
    levelDb: -(Math.max(0, added(G.initialAttenuation)) * 0.4) / 10, pan: Math.min(1, Math.max(-1, added(G.pan) / 500)),
    envelope: {
      delayS: secondsOf(added(G.delayVolEnv)), attackS: secondsOf(added(G.attackVolEnv)), holdS: secondsOf(added(G.holdVolEnv)), decayS: secondsOf(added(G.decayVolEnv)),
      sustainDb: -Math.min(100, Math.max(0, added(G.sustainVolEnv)) / 10), releaseS: Math.max(0.02, secondsOf(added(G.releaseVolEnv))),
    },
    filterHz: filterCents >= OPEN_CENTS ? null : Math.min(20_000, Math.max(20, HZ_AT_ZERO_CENTS * 2 ** (filterCents / 1200))), resonanceDb: Math.min(40, Math.max(0, added(G.initialFilterQ) / 10)),
    group: own(G.exclusiveClass, 0),
  };
}
