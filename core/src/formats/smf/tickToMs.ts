/** A tempo from a tick on (Set Tempo, FF 51). */
export interface TempoChange {
  tick: number;
  usPerQuarter: number;
}

const DEFAULT_US_PER_QUARTER = 500_000;

/**
 * Time in ms of a tick, from the division of the header and all tempo changes in order of tick.
 * With an SMPTE division ticks are time already and tempo does not count.
 */
export function tickToMs(
  header: { ticksPerBeat?: number; framesPerSecond?: number; ticksPerFrame?: number },
  changes: readonly TempoChange[],
): (tick: number) => number {
  if (header.framesPerSecond !== undefined) {
    const framesPerSecond = header.framesPerSecond === 29 ? 30_000 / 1001 : header.framesPerSecond;
    const perSecond = framesPerSecond * (header.ticksPerFrame ?? 1);
    return (tick) => (tick * 1000) / perSecond;
  }
  const ticksPerQuarter = header.ticksPerBeat ?? 480;
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
