import type { EnvelopeTimes, SampleZone } from './sampledPreset';

/** What a modulation adds to, in the units of the generator of SoundFont 2.04 that it is. */
export type ModulationTarget =
  | 'attenuationCb'
  | 'filterCents'
  | 'resonanceCb'
  | 'pitchCents'
  | 'panTenthsOfPercent'
  | 'startFrames'
  | `${'volume' | 'sweep'}${'Delay' | 'Attack' | 'Hold' | 'Decay' | 'Release'}Timecents`
  | 'volumeSustainCb'
  | 'sweepFilterCents'
  | 'sweepPitchCents';

/** Where a modulation comes from (SoundFont 2.04, 8.2): what is played, or a value that stands still, 0–127. */
export interface ModulationSource {
  of: 'velocity' | 'key' | 'always' | number;
  curve: 'linear' | 'concave' | 'convex' | 'switch';
  /** From its most to its least. */
  falls: boolean;
  /** From −1 to 1 instead of 0 to 1. */
  isBipolar: boolean;
}

/** `amount` times both sources is added to a target. */
export interface Modulation {
  to: ModulationTarget;
  amount: number;
  by: ModulationSource;
  and: ModulationSource;
  isAbsolute: boolean;
}

export const ALWAYS: ModulationSource = { of: 'always', curve: 'linear', falls: false, isBipolar: false };

/** A key struck half as hard sounds 12 dB softer (SoundFont 2.04, 8.4.1). */
export const BY_VELOCITY: Modulation = {
  to: 'attenuationCb',
  amount: 960,
  by: { of: 'velocity', curve: 'concave', falls: true, isBipolar: false },
  and: ALWAYS,
  isAbsolute: false,
};

const RANGE_DB = 96;
const SHORTEST_S = 0.001;
const LONGEST_S = 40;
const OPEN_HZ = 20_000;
const SOFTEST_HZ = 20;

/** The curves of 8.2.2 and 9.5: what is concave rises late, what is convex soon. */
function curved(share: number, curve: ModulationSource['curve']): number {
  switch (curve) {
    case 'linear':
      return share;
    case 'switch':
      return share >= 0.5 ? 1 : 0;
    case 'concave':
      return share >= 1 ? 1 : Math.min(1, -(40 / RANGE_DB) * Math.log10(1 - share));
    case 'convex':
      return share <= 0 ? 0 : Math.max(0, 1 + (40 / RANGE_DB) * Math.log10(share));
  }
}

/** What a source gives for a note, between 0 or −1 and 1. */
export function sourceValue(source: ModulationSource, key: number, velocity: number): number {
  if (source.of === 'always') return 1;
  const played = source.of === 'velocity' ? velocity : source.of === 'key' ? key : source.of;
  const share = source.falls ? 1 - played / 127 : played / 127;
  if (!source.isBipolar) return curved(share, source.curve);
  if (source.curve === 'linear') return 2 * share - 1;
  return share >= 0.5 ? curved(2 * share - 1, source.curve) : -curved(1 - 2 * share, source.curve);
}

/** A zone as it stands for one note: whatever moves with key and velocity has moved. */
export function modulated(zone: SampleZone, key: number, velocity: number): SampleZone {
  if (zone.modulations.length === 0) return zone;
  const sums: Partial<Record<ModulationTarget, number>> = {};
  for (const { to, amount, by, and, isAbsolute } of zone.modulations) {
    const moved = amount * sourceValue(by, key, velocity) * sourceValue(and, key, velocity);
    sums[to] = (sums[to] ?? 0) + (isAbsolute ? Math.abs(moved) : moved);
  }
  const by = (target: ModulationTarget): number => sums[target] ?? 0;
  const timed = <Times extends EnvelopeTimes>(times: Times, which: 'volume' | 'sweep'): Times => ({
    ...times,
    delayS: longer(times.delayS, by(`${which}DelayTimecents`)),
    attackS: longer(times.attackS, by(`${which}AttackTimecents`)),
    holdS: longer(times.holdS, by(`${which}HoldTimecents`)),
    decayS: longer(times.decayS, by(`${which}DecayTimecents`)),
    releaseS: longer(times.releaseS, by(`${which}ReleaseTimecents`)),
  });
  const envelope = timed(zone.envelope, 'volume');
  return {
    ...zone,
    // More than nothing is not taken away.
    levelDb: Math.min(Math.max(0, zone.levelDb), zone.levelDb - by('attenuationCb') / 10),
    tuneCents: zone.tuneCents + by('pitchCents'),
    pan: Math.min(1, Math.max(-1, zone.pan + by('panTenthsOfPercent') / 500)),
    start: Math.min(zone.end - 2, Math.max(0, Math.round(zone.start + by('startFrames')))),
    envelope: { ...envelope, sustainDb: Math.min(0, Math.max(-100, envelope.sustainDb - by('volumeSustainCb') / 10)) },
    sweep: sweptBy(zone.sweep && timed(zone.sweep, 'sweep'), by('sweepFilterCents'), by('sweepPitchCents')),
    filterHz: filterAt(zone.filterHz, by('filterCents')),
    resonanceDb: Math.min(40, Math.max(0, zone.resonanceDb + by('resonanceCb') / 10)),
  };
}

const longer = (seconds: number, timecents: number): number =>
  timecents === 0 ? seconds : Math.min(LONGEST_S, Math.max(SHORTEST_S, seconds) * 2 ** (timecents / 1200));

function filterAt(hz: number | null, cents: number): number | null {
  if (cents === 0) return hz;
  const moved = (hz ?? OPEN_HZ) * 2 ** (cents / 1200);
  return moved >= OPEN_HZ ? null : Math.max(SOFTEST_HZ, moved);
}

function sweptBy(sweep: SampleZone['sweep'], filterCents: number, pitchCents: number): SampleZone['sweep'] {
  if (sweep === null) return null;
  const most = (cents: number): number => Math.min(12_000, Math.max(-12_000, cents));
  const moved = {
    ...sweep,
    filterCents: most(sweep.filterCents + filterCents),
    pitchCents: most(sweep.pitchCents + pitchCents),
  };
  return moved.filterCents === 0 && moved.pitchCents === 0 ? null : moved;
}
