import {
  GeneratorTypes as G,
  type BasicPreset,
  type BasicPresetZone,
  type BasicSample,
  type BasicSoundBank,
  type BasicZone,
} from 'spessasynth_core';
import type { BankAsked } from './bankAsked';
import { bankModulations } from './bankModulations';
import { BankSamples, type SampleAbout } from './bankSample';
import { everyOther, inPairs, type BankZone } from './bankZones';
import type { Modulation } from './modulations';
import type { EnvelopeTimes, SampleData, SampleZone, SampledPreset, Wave } from './sampledPreset';

type GeneratorType = Parameters<BasicZone['getGenerator']>[0];

const OPEN_CENTS = 13_500;
const HZ_AT_ZERO_CENTS = 8.176;
const LONGEST_S = 30;
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

/** What stands for a sample whose numbers nobody wants. */
const OUTLINE: SampleAbout = { frames: 2, sampleRate: 44_100, loop: { start: 0, end: 2 }, times: 1, ringing: null };

/** As the file has it: bit 7 stands for the drums, what is above it for the LSB. */
const bankOf = (preset: BasicPreset): number => preset.bankMSB | (preset.isGMGSDrum ? 128 : 0) | (preset.bankLSB << 8);

/**
 * A preset of a bank as zones and samples. Played: every generator of SoundFont 2.04 (8.1.2) but the sends to a chorus
 * and a reverb, which the layer has instead; and its modulators, as far as they lead from key and velocity or from
 * controllers at rest. Wheel, modulation and sound controllers work as everywhere.
 * @returns null when the bank has no such preset. A sample that is there already comes without its numbers.
 */
export function presetFromBank(
  bank: BasicSoundBank,
  asked: BankAsked,
  samples = new BankSamples(),
): SampledPreset | null {
  const preset = bank.presets.find(
    (candidate) => candidate.program === asked.program && bankOf(candidate) === asked.bank,
  );
  if (!preset) return null;
  const zones = preset.zones.flatMap((presetZone) => {
    const places = presetZone.instrument.zones.flatMap((zone) => placeOf(zone, presetZone, preset) ?? []);
    return (asked.everyOtherKey ? everyOther(places) : places).flatMap((place): BankZone | [] => {
      const about = asked.isOutline ? OUTLINE : samples.about(place.zone.sample, asked);
      if (!about) return [];
      const modulations = bankModulations(place.zone, presetZone, preset);
      return { zone: zoneOf(place, about, modulations), samples: [place.zone.sample] };
    });
  });
  const made = gathered(inPairs(zones), bank, asked, samples);
  samples.letGo();
  return made;
}

/** Zones with places in a list of samples, each of which stands there once. */
function gathered(
  zones: readonly BankZone[],
  bank: BasicSoundBank,
  asked: BankAsked,
  from: BankSamples,
): SampledPreset {
  const here = new Set(asked.has);
  const samples: SampleData[] = [];
  const places = new Map<string, number>();
  const placed = zones.map(({ zone, samples: parts }): SampleZone => {
    const id = `${parts.map((part) => bank.samples.indexOf(part)).join('+')} ${asked.mostS}`;
    const known = places.get(id);
    if (known !== undefined) return { ...zone, sample: known };
    const { sampleRate, frames } = asked.isOutline ? OUTLINE : from.about(parts[0], asked)!;
    const place =
      samples.push({
        id,
        frames,
        sides: parts.length === 2 ? 2 : 1,
        sampleRate,
        channels: asked.isOutline || here.has(id) ? [] : parts.map((part) => from.take(part, asked)),
      }) - 1;
    places.set(id, place);
    return { ...zone, sample: place };
  });
  return { zones: placed, samples };
}

/** A zone of a bank within a zone of a preset: where it lies, and what its generators come to. */
interface Place extends Ranges {
  zone: BasicZone & { sample: BasicSample };
  /** Of 500 to either side. */
  pan: number;
  own(type: GeneratorType, otherwise: number): number;
  added(type: GeneratorType): number;
}

function placeOf(zone: Place['zone'], presetZone: BasicPresetZone, preset: BasicPreset): Place | null {
  const { globalZone } = presetZone.instrument;
  const ranges = bothRanges(rangesOf(zone, globalZone), rangesOf(presetZone, preset.globalZone));
  if (!ranges) return null;
  const own = (type: GeneratorType, otherwise: number): number =>
    zone.getGenerator<number>(type, globalZone.getGenerator<number>(type, otherwise));
  const added = (type: GeneratorType): number =>
    own(type, ADDED.get(type) ?? 0) +
    presetZone.getGenerator<number>(type, preset.globalZone.getGenerator<number>(type, 0));
  return { ...ranges, zone, pan: added(G.pan), own, added };
}

type Ranges = Pick<SampleZone, 'lowKey' | 'highKey' | 'lowVelocity' | 'highVelocity'>;

function bothRanges(inner: Ranges, outer: Ranges): Ranges | null {
  const both = {
    lowKey: Math.max(inner.lowKey, outer.lowKey),
    highKey: Math.min(inner.highKey, outer.highKey),
    lowVelocity: Math.max(inner.lowVelocity, outer.lowVelocity),
    highVelocity: Math.min(inner.highVelocity, outer.highVelocity),
  };
  return both.lowKey > both.highKey || both.lowVelocity > both.highVelocity ? null : both;
}

function rangesOf(zone: BasicZone, whole: BasicZone): Ranges {
  const keys = zone.hasKeyRange ? zone.keyRange : whole.hasKeyRange ? whole.keyRange : { min: 0, max: 127 };
  const velocities = zone.hasVelRange ? zone.velRange : whole.hasVelRange ? whole.velRange : { min: 0, max: 127 };
  return {
    lowKey: Math.max(0, keys.min),
    highKey: Math.min(127, keys.max),
    lowVelocity: Math.max(0, velocities.min),
    highVelocity: Math.min(127, velocities.max),
  };
}

/** Of a generator that puts something in the place of what is played. */
const fixed = (value: number): number | null => (value >= 0 && value <= 127 ? value : null);

const secondsOf = (timecents: number): number =>
  timecents <= -11_000 ? 0 : Math.min(LONGEST_S, 2 ** (timecents / 1200));

/** At most ten octaves (8.1.3). */
const depth = (cents: number): number => Math.min(12_000, Math.max(-12_000, cents));

/** A sample that was cut goes round whatever its bank says; else those of the modes 1 and 3 (SoundFont 2.04, 8.1.2). */
const goesRound = (mode: number, ringing: SampleAbout['ringing']): boolean =>
  ringing !== null || mode === 1 || mode === 3;

/** It moves nothing, and nothing can make it. */
const isStill = (
  { pitchCents, filterCents }: { pitchCents: number; filterCents: number },
  modulations: readonly Modulation[],
): boolean =>
  pitchCents === 0 &&
  filterCents === 0 &&
  !modulations.some(({ to }) => to === 'sweepPitchCents' || to === 'sweepFilterCents');

function zoneOf(
  { zone: { sample }, pan, own, added, ...ranges }: Place,
  { frames: length, loop: sampleLoop, times: by, ringing }: SampleAbout,
  modulations: readonly Modulation[],
): SampleZone {
  const mode = own(G.sampleModes, 0) & 3;
  const frames = (fine: GeneratorType, coarse: GeneratorType): number => (own(fine, 0) + own(coarse, 0) * 32_768) * by;
  // Where it was cut it goes round as it has to, whatever the bank has.
  const loop = ringing
    ? sampleLoop
    : {
        start: sampleLoop.start + frames(G.startloopAddrsOffset, G.startloopAddrsCoarseOffset),
        end: sampleLoop.end + frames(G.endloopAddrsOffset, G.endloopAddrsCoarseOffset),
      };
  const start = Math.min(length - 2, Math.max(0, frames(G.startAddrsOffset, G.startAddrsCoarseOffset)));
  const end = ringing
    ? length
    : Math.min(length, Math.max(start + 2, length + frames(G.endAddrOffset, G.endAddrsCoarseOffset)));
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
    sample: 0,
    start,
    end,
    rootKey: root >= 0 && root <= 127 ? root : Math.min(127, sample.originalKey),
    tuneCents: added(G.coarseTune) * 100 + added(G.fineTune) + sample.pitchCorrection,
    centsPerKey: added(G.scaleTuning),
    fixedKey: fixed(own(G.keyNum, -1)),
    fixedVelocity: fixed(own(G.velocity, -1)),
    loop: goesRound(mode, ringing) && loop.start >= 0 && loop.end <= length && loop.end - loop.start >= 2 ? loop : null,
    loopsWhileHeld: !ringing && mode === 3,
    ringing,
    gainDb: 0,
    // Banks are written for players that take 0.4 of the attenuation that they name.
    levelDb: -(Math.max(0, added(G.initialAttenuation)) * 0.4) / 10,
    pan: Math.min(1, Math.max(-1, pan / 500)),
    envelope: {
      ...volume,
      releaseS: Math.max(0.02, volume.releaseS),
      sustainDb: -Math.min(100, Math.max(0, added(G.sustainVolEnv)) / 10),
    },
    sweep: isStill(sweep, modulations)
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
    modulations,
  };
}
