import type { BasicSample } from 'spessasynth_core';
import type { SampleZone } from './sampledPreset';

/** A zone with the samples that it plays: one, or the left and the right one. */
export interface BankZone {
  zone: SampleZone;
  samples: readonly BasicSample[];
}

/** One channel in the middle is softer by this than two that are each on one side. */
export const TWO_SIDES_DB = 3.01;

/**
 * Zones of an instrument without every other one of those that lie side by side on the keyboard: the one below takes the
 * keys of the one that goes.
 */
export function everyOther<
  Zone extends Pick<SampleZone, 'lowKey' | 'highKey' | 'lowVelocity' | 'highVelocity' | 'pan'>,
>(zones: readonly Zone[]): Zone[] {
  const rows = new Map<string, Zone[]>();
  for (const zone of zones) {
    const row = `${zone.lowVelocity} ${zone.highVelocity} ${zone.pan}`;
    rows.set(row, [...(rows.get(row) ?? []), zone]);
  }
  return [...rows.values()].flatMap((row) => {
    const sorted = row.toSorted((a, b) => a.lowKey - b.lowKey);
    const areSideBySide = sorted.every((zone, i) => i === 0 || zone.lowKey > sorted[i - 1].highKey);
    if (!areSideBySide) return row;
    return sorted
      .filter((_, i) => i % 2 === 0)
      .map((zone, i) => ({ ...zone, highKey: Math.max(zone.highKey, sorted[2 * i + 1]?.highKey ?? 0) }));
  });
}

/** A zone on the left and its like on the right become one of two channels: half of what has to be reckoned. */
export function inPairs(zones: readonly BankZone[]): BankZone[] {
  const waiting = new Map<string, number>();
  const out: (BankZone | null)[] = [];
  for (const entry of zones) {
    const key = Math.abs(entry.zone.pan) === 1 ? likeness(entry) : null;
    const other = key === null ? undefined : waiting.get(key);
    const first = other === undefined ? null : out[other];
    if (key === null || !first || first.zone.pan !== -entry.zone.pan) {
      if (key !== null && !waiting.has(key)) waiting.set(key, out.length);
      out.push(entry);
      continue;
    }
    waiting.delete(key);
    const [left, right] = first.zone.pan < 0 ? [first, entry] : [entry, first];
    out[other!] = {
      zone: { ...left.zone, pan: 0, gainDb: left.zone.gainDb + TWO_SIDES_DB },
      samples: [left.samples[0], right.samples[0]],
    };
  }
  return out.filter((entry) => entry !== null);
}

/** What two zones have to have in common. How each falls after its cut may differ: the left one's holds for both. */
function likeness({ zone, samples }: BankZone): string {
  return JSON.stringify([{ ...zone, pan: 0, ringing: zone.ringing?.fromS ?? null }, samples[0].sampleRate]);
}
