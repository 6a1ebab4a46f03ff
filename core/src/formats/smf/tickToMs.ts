/** A tempo from a tick on (Set Tempo, FF 51). */
export interface TempoChange {
  tick: number;
  usPerQuarter: number;
}

/** What a tick is: a share of a quarter note, or of a frame (SMPTE). */
export type Division =
  { kind: 'quarters'; ticksPerQuarter: number } | { kind: 'frames'; framesPerSecond: number; ticksPerFrame: number };

const DEFAULT_US_PER_QUARTER = 500_000;

/** Ticks a second of an SMPTE division; 29 is 30 drop-frame, 30 000 ÷ 1001. */
export const ticksPerSecond = ({ framesPerSecond, ticksPerFrame }: Extract<Division, { kind: 'frames' }>): number =>
  (framesPerSecond === 29 ? 30_000 / 1001 : framesPerSecond) * ticksPerFrame;

/**
 * Time in ms of a tick, from the division of the header and all tempo changes, of one tick the last that is given.
 * With an SMPTE division ticks are time already and tempo does not count; a tempo of 0 is none.
 */
export function tickToMs(division: Division, given: readonly TempoChange[]): (tick: number) => number {
  if (division.kind === 'frames') {
    const perSecond = ticksPerSecond(division);
    return (tick) => (tick * 1000) / perSecond;
  }
  const { ticksPerQuarter } = division;
  const changes = given.filter(({ usPerQuarter }) => usPerQuarter > 0).sort((a, b) => a.tick - b.tick);
  const starts: { tick: number; us: number; usPerQuarter: number }[] = [
    { tick: 0, us: 0, usPerQuarter: DEFAULT_US_PER_QUARTER },
  ];
  for (const change of changes) {
    const last = starts[starts.length - 1];
    starts.push({
      tick: change.tick,
      us: last.us + ((change.tick - last.tick) * last.usPerQuarter) / ticksPerQuarter,
      usPerQuarter: change.usPerQuarter,
    });
  }
  return (tick) => {
    // The last change at or before the tick, by halves: a file may have as many changes as notes.
    let i = 0;
    for (let above = starts.length; above - i > 1;) {
      const middle = (i + above) >> 1;
      if (starts[middle].tick <= tick) i = middle;
      else above = middle;
    }
    return (starts[i].us + ((tick - starts[i].tick) * starts[i].usPerQuarter) / ticksPerQuarter) / 1000;
  };
}
