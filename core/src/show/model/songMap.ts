import { z } from 'zod';
import { TickNumber } from './values';

/** Slowest and fastest tempo in quarter notes a minute: what a Standard MIDI File can say, and no faster than 1,000. */
export const SLOWEST_BPM = 3.58;
export const FASTEST_BPM = 1000;

/** Quarter notes a minute. */
export const TempoBpm = z
  .number()
  .min(SLOWEST_BPM, `at least ${SLOWEST_BPM}`)
  .max(FASTEST_BPM, `at most ${FASTEST_BPM}`);

/** A tempo from a tick on: up to the next entry, or on the way to the next one's in a straight line over ticks. */
export const TempoEntry = z.strictObject({
  atTick: TickNumber,
  bpm: TempoBpm,
  ramp: z.boolean().default(false),
});
export type TempoEntry = z.infer<typeof TempoEntry>;

/** The note that counts as one beat: 1 (whole) to 64. */
export const BeatUnit = z.union([
  z.literal(1),
  z.literal(2),
  z.literal(4),
  z.literal(8),
  z.literal(16),
  z.literal(32),
  z.literal(64),
]);

/** Beats in a bar, and their note value. */
export const Meter = z.strictObject({
  beats: z.number().int().min(1).max(255),
  unit: BeatUnit,
});
export type Meter = z.infer<typeof Meter>;

/** A meter from a bar on. */
export const MeterEntry = z.strictObject({
  bar: z.number().int().min(1).max(10_000),
  ...Meter.shape,
  /** Ticks by which the bar before it ends early, where the meter changes inside that bar; 0: it is whole. */
  early: z.number().int().min(0).max(1_000_000).default(0),
});
export type MeterEntry = z.infer<typeof MeterEntry>;

/** Ticks to the quarter note. */
export const TICKS_PER_QUARTER = 960;
/** Ticks of one beat of a meter; 960 a quarter note. */
export const ticksPerBeat = ({ unit }: Meter): number => (TICKS_PER_QUARTER * 4) / unit;
/** Ticks of one bar of a meter. */
export const ticksPerBar = (meter: Meter): number => ticksPerBeat(meter) * meter.beats;
const rises = (values: readonly number[]): boolean => values.every((value, i) => i === 0 || value > values[i - 1]);

/** Tempo and meter of a song. Tick 0 is where it begins, with the upbeat where it has one. */
export const SongMap = z
  .strictObject({
    tempos: z.array(TempoEntry).min(1).max(2000),
    meters: z.array(MeterEntry).min(1).max(2000),
    /** Length of the upbeat, which is bar 0; 0: there is none. */
    upbeatTicks: z.number().int().min(0).max(1_000_000).default(0),
    /** Bars without the upbeat. */
    bars: z.number().int().min(1).max(10_000).default(64),
  })
  .superRefine(({ tempos, meters, upbeatTicks, bars }, context) => {
    const say = (path: string, message: string): void => context.addIssue({ code: 'custom', path: [path], message });
    if (tempos[0].atTick !== 0) say('tempos', 'the first tempo is at the start');
    if (!rises(tempos.map(({ atTick }) => atTick))) say('tempos', 'tempos stand in their order, each at its own place');
    if (meters[0].bar !== 1 || meters[0].early !== 0) say('meters', 'the first meter is that of bar 1');
    if (!rises(meters.map(({ bar }) => bar))) say('meters', 'meters stand in their order, each at its own bar');
    if (meters[meters.length - 1].bar > bars) say('meters', `a meter stands after the last bar, ${bars}`);
    if (meters.some((meter, i) => i > 0 && meter.early >= ticksPerBar(meters[i - 1])))
      say('meters', 'a bar that ends early has a length');
    if (upbeatTicks >= ticksPerBar(meters[0])) say('upbeatTicks', 'an upbeat is shorter than a bar');
  });
export type SongMap = z.infer<typeof SongMap>;

/** The map of a song of one tempo and one meter. */
export const steadyMap = (bpm = 120, { beats, unit }: Meter = { beats: 4, unit: 4 }, bars = 64): SongMap => ({
  tempos: [{ atTick: 0, bpm, ramp: false }],
  meters: [{ bar: 1, beats, unit, early: 0 }],
  upbeatTicks: 0,
  bars,
});
