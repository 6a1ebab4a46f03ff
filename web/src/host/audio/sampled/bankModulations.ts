import {
  GeneratorTypes as G,
  Modulator,
  ModulatorControllerSources as From,
  ModulatorCurveTypes,
  ModulatorTransformTypes,
  type BasicPreset,
  type BasicPresetZone,
  type BasicZone,
} from 'spessasynth_core';
import type { Modulation, ModulationSource, ModulationTarget } from './modulations';

const TARGETS: ReadonlyMap<number, readonly [to: ModulationTarget, times: number]> = new Map([
  [G.initialAttenuation, ['attenuationCb', 1]],
  [G.initialFilterFc, ['filterCents', 1]],
  [G.initialFilterQ, ['resonanceCb', 1]],
  [G.fineTune, ['pitchCents', 1]],
  [G.coarseTune, ['pitchCents', 100]],
  [G.pan, ['panTenthsOfPercent', 1]],
  [G.startAddrsOffset, ['startFrames', 1]],
  [G.startAddrsCoarseOffset, ['startFrames', 32_768]],
  [G.delayVolEnv, ['volumeDelayTimecents', 1]],
  [G.attackVolEnv, ['volumeAttackTimecents', 1]],
  [G.holdVolEnv, ['volumeHoldTimecents', 1]],
  [G.decayVolEnv, ['volumeDecayTimecents', 1]],
  [G.sustainVolEnv, ['volumeSustainCb', 1]],
  [G.releaseVolEnv, ['volumeReleaseTimecents', 1]],
  [G.delayModEnv, ['sweepDelayTimecents', 1]],
  [G.attackModEnv, ['sweepAttackTimecents', 1]],
  [G.holdModEnv, ['sweepHoldTimecents', 1]],
  [G.decayModEnv, ['sweepDecayTimecents', 1]],
  [G.releaseModEnv, ['sweepReleaseTimecents', 1]],
  [G.modEnvToFilterFc, ['sweepFilterCents', 1]],
  [G.modEnvToPitch, ['sweepPitchCents', 1]],
] as const);

const CURVES = new Map<number, ModulationSource['curve']>([
  [ModulatorCurveTypes.linear, 'linear'],
  [ModulatorCurveTypes.concave, 'concave'],
  [ModulatorCurveTypes.convex, 'convex'],
  [ModulatorCurveTypes.switch, 'switch'],
]);

/** Volume, pan and expression, which the layer has: what a bank does by them is not done twice. */
const OF_THE_LAYER = new Set([7, 10, 11]);
const WHEEL_AT_REST = 63.5;

/**
 * Modulators of a zone, as far as they lead from what is played, or from controllers at rest, to what can be moved here:
 * those of the instrument over the default ones, those of the preset added (SoundFont 2.04, 9.5).
 */
export function bankModulations(zone: BasicZone, presetZone: BasicPresetZone, preset: BasicPreset): Modulation[] {
  // Of the default ones only velocity counts for a note as it begins.
  const always = preset.parentSoundBank.defaultModulators.filter(
    ({ primarySource }) => !primarySource.isCC && primarySource.index === From.noteOnVelocity,
  );
  const inner = unique([zone.modulators, presetZone.instrument.globalZone.modulators, always]);
  const outer = unique([presetZone.modulators, preset.globalZone.modulators]);
  return [...inner, ...outer].flatMap((modulator) => modulationOf(modulator) ?? []);
}

/** What comes first takes the place of what is the same further on, but for its amount. */
function unique(lists: readonly (readonly Modulator[])[]): Modulator[] {
  const kept: Modulator[] = [];
  for (const modulator of lists.flat())
    if (!kept.some((known) => Modulator.isIdentical(known, modulator))) kept.push(modulator);
  return kept;
}

function modulationOf({
  primarySource,
  secondarySource,
  destination,
  transformAmount,
  transformType,
}: Modulator): Modulation | null {
  const target = TARGETS.get(destination);
  const by = sourceOf(primarySource);
  const and = sourceOf(secondarySource);
  if (!target || !by || !and || transformAmount === 0) return null;
  const [to, times] = target;
  return {
    to,
    amount: transformAmount * times,
    by,
    and,
    isAbsolute: transformType === ModulatorTransformTypes.absolute,
  };
}

function sourceOf({
  index,
  isCC,
  isBipolar,
  isNegative,
  curveType,
}: Modulator['primarySource']): ModulationSource | null {
  const source = { curve: CURVES.get(curveType) ?? 'linear', falls: isNegative, isBipolar };
  if (isCC) return OF_THE_LAYER.has(index) ? null : { of: 0, ...source };
  switch (index) {
    case From.noController:
      return { of: 'always', ...source };
    case From.noteOnVelocity:
      return { of: 'velocity', ...source };
    case From.noteOnKeyNum:
      return { of: 'key', ...source };
    case From.pitchWheel:
      return { of: WHEEL_AT_REST, ...source };
    case From.polyPressure:
    case From.channelPressure:
      return { of: 0, ...source };
    default:
      return null;
  }
}
