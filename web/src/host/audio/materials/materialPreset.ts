import { TWO_SIDES_DB } from '../sampled/bankZones';
import type { Modulation } from '../sampled/modulations';
import { ALWAYS } from '../sampled/modulations';
import type { SampleData, SampleZone, SampledPreset } from '../sampled/sampledPreset';
import type { Material, MaterialPart } from './material';

/** What falls by 60 dB in a second falls by 96 in so many. */
const OF_96 = 96 / 60;
/** What is made to fall falls half as long so many cents a key higher: 24 keys. */
const DECAY_CENTS_PER_KEY = 50;
const MIDDLE_KEY = 60;
/** What takes that long to come up is not what is struck. */
const SWELLS_FROM_S = 1;
const DRUMS = 128;
const LAST_KEY = 127;

/**
 * A preset of recorded material: its parts as the bank has them, with what is our own about each.
 * @param parts one for each of the material's, in order
 */
export function materialPreset(material: Material, parts: readonly SampledPreset[]): SampledPreset {
  const samples: SampleData[] = [];
  const zones: SampleZone[] = [];
  material.parts.forEach((part, i) => {
    const from = samples.length;
    samples.push(...parts[i].samples);
    const wanted = part.withoutSwells
      ? parts[i].zones.filter(({ envelope }) => envelope.attackS < SWELLS_FROM_S)
      : parts[i].zones;
    for (const zone of wanted)
      zones.push({
        ...withMaterial(placed(zone, part, parts[i].samples[zone.sample].sides), material),
        sample: from + zone.sample,
      });
  });
  return { zones: material.parts.some(({ bank }) => bank === DRUMS) ? zones : toTheEnds(zones), samples };
}

/** No key is silent: those below and above all recordings play the nearest of them. Kits have what they have. */
function toTheEnds(zones: readonly SampleZone[]): SampleZone[] {
  const lowest = Math.min(...zones.map(({ lowKey }) => lowKey));
  const highest = Math.max(...zones.map(({ highKey }) => highKey));
  return zones.map((zone) => ({
    ...zone,
    lowKey: zone.lowKey === lowest ? 0 : zone.lowKey,
    highKey: zone.highKey === highest ? LAST_KEY : zone.highKey,
  }));
}

/** As a part plays it: so many semitones up, the keys follow. */
function placed(zone: SampleZone, { levelDb = 0, semitones = 0, cents = 0, pan = 0 }: MaterialPart, sides: 1 | 2) {
  return {
    ...zone,
    lowKey: zone.lowKey === 0 ? 0 : Math.max(0, zone.lowKey - semitones),
    highKey: zone.highKey === LAST_KEY ? LAST_KEY : Math.min(LAST_KEY, zone.highKey - semitones),
    rootKey: zone.rootKey - semitones,
    tuneCents: zone.tuneCents + cents,
    pan: Math.min(1, Math.max(-1, zone.pan + pan)),
    // Out of the middle it is not as soft any more.
    gainDb: zone.gainDb + levelDb - (sides === 2 && pan !== 0 ? TWO_SIDES_DB : 0),
  };
}

function withMaterial(zone: SampleZone, material: Material): SampleZone {
  const { gainDb = 0, tuneCents = 0, touch = 1, vibrato, glide } = material;
  return {
    ...zone,
    gainDb: zone.gainDb + gainDb,
    tuneCents: zone.tuneCents + tuneCents,
    envelope: envelopeOf(zone.envelope, material),
    ringing: zone.ringing && { ...zone.ringing, dbPerS: zone.ringing.dbPerS / (material.times?.decay ?? 1) },
    ...filterOf(zone, material),
    modulations: [
      ...zone.modulations.flatMap((modulation) => moved(modulation, material, touch)),
      ...filterModulations(material),
    ],
    waves: vibrato
      ? [
          ...zone.waves,
          { delayS: vibrato.delayS ?? 0, rateHz: vibrato.hz, pitchCents: vibrato.cents, filterCents: 0, levelDb: 0 },
        ]
      : zone.waves,
    ...(glide
      ? {
          sweep: {
            delayS: glide.afterS,
            attackS: glide.overS,
            holdS: 0,
            decayS: 0,
            releaseS: glide.overS,
            holdCentsPerKey: 0,
            decayCentsPerKey: 0,
            sustain: 1,
            filterCents: 0,
            pitchCents: glide.cents,
          },
        }
      : {}),
  };
}

function envelopeOf(envelope: SampleZone['envelope'], { attackS, decayS, releaseS, times }: Material) {
  const { attack = 1, decay = 1, release = 1 } = times ?? {};
  const falls = decayS !== undefined;
  return {
    ...envelope,
    attackS: Math.max(0.001, envelope.attackS, attackS ?? 0) * attack,
    holdS: falls ? 0 : envelope.holdS * decay,
    decayS: (falls ? decayS * OF_96 : envelope.decayS) * decay,
    decayCentsPerKey: falls ? DECAY_CENTS_PER_KEY : envelope.decayCentsPerKey,
    sustainDb: falls ? -100 : envelope.sustainDb,
    releaseS: (releaseS === undefined ? envelope.releaseS : releaseS * OF_96) * release,
  };
}

/** At key 60; what keys and velocity move of it are modulations. */
function filterOf(zone: SampleZone, { filter }: Material): Pick<SampleZone, 'filterHz'> {
  if (!filter) return { filterHz: zone.filterHz };
  const atKeyZero = filter.hz * 2 ** ((-MIDDLE_KEY * (filter.centsPerKey ?? 0)) / 1200);
  return { filterHz: Math.min(zone.filterHz ?? Infinity, atKeyZero) };
}

function filterModulations({ filter }: Material): Modulation[] {
  const made = (amount: number, of: 'key' | 'velocity', falls: boolean): Modulation => ({
    to: 'filterCents',
    amount,
    by: { of, curve: 'linear', falls, isBipolar: false },
    and: ALWAYS,
    isAbsolute: false,
  });
  return [
    ...(filter?.centsPerKey ? [made(filter.centsPerKey * LAST_KEY, 'key', false)] : []),
    ...(filter?.softCents ? [made(-filter.softCents, 'velocity', true)] : []),
  ];
}

/** One of the bank's: times that are our own are not moved by it. */
function moved(modulation: Modulation, { releaseS, decayS }: Material, touch: number): Modulation | [] {
  if (releaseS !== undefined && modulation.to === 'volumeReleaseTimecents') return [];
  if (decayS !== undefined && (modulation.to === 'volumeDecayTimecents' || modulation.to === 'volumeHoldTimecents'))
    return [];
  const isTouch = modulation.to === 'attenuationCb' && modulation.by.of === 'velocity';
  return isTouch ? { ...modulation, amount: modulation.amount * touch } : modulation;
}
