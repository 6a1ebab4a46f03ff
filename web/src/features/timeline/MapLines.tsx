import type { Song } from '@rackle/core/show';
import { tempoMapOf } from '@rackle/core/timeline';
import { tempoSign, tempoText } from '../tempo';

/** Tempo and meter of a song in a few words. */
export function TempoAndMeter({ song }: { song: Song }) {
  const { tempos, meters } = song.map;
  const bpms = tempos.map(({ bpm }) => bpm);
  const [slowest, fastest] = [Math.min(...bpms), Math.max(...bpms)];
  return (
    <>
      {[...new Set(meters.map(({ beats, unit }) => `${beats}/${unit}`))].slice(0, 3).join(', ')}
      {meters.length > 3 && ' …'} · {tempoSign(song)} ={' '}
      <span className="mono">
        {slowest === fastest ? tempoText(song, slowest) : `${tempoText(song, slowest)} to ${tempoText(song, fastest)}`}
      </span>
    </>
  );
}

/** Words this near behind the last ones would stand on them: a share of the song. */
const NEAR = 0.035;

/** What can be read of what stands along the ruler. */
function apart<Word extends { tick: number }>(words: readonly Word[], endTick: number): Word[] {
  let last = -Infinity;
  return words.filter(({ tick }) => {
    if (tick - last < NEAR * endTick) return false;
    last = tick;
    return true;
  });
}

/** Height of the tempo line within the ruler’s foot, in px. */
const LINE_PX = 34;

/** Where the meter changes, across the top, and the tempo as a thin line at the foot, where it changes. */
export function MapLines({ song }: { song: Song }) {
  const { endTick, ...of } = linesOf(song);
  return (
    <>
      {apart(of.meters, endTick).map(({ tick, text }) => (
        <span
          key={tick}
          className="mono absolute top-3.5 border-l-2 border-ink bg-ground pl-1 text-[11px] font-bold"
          style={{ left: `${(tick / endTick) * 100}%` }}
        >
          {text}
        </span>
      ))}
      {of.tempos.length > 1 && (
        <svg
          aria-hidden
          className="absolute inset-x-0 bottom-0 w-full overflow-visible"
          style={{ height: LINE_PX }}
          viewBox={`0 0 ${endTick} ${LINE_PX}`}
          preserveAspectRatio="none"
        >
          <path d={of.path} fill="none" stroke="var(--ink)" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
        </svg>
      )}
      {of.tempos.length > 1 &&
        apart(of.tempos, endTick).map(({ tick, text, y }) => (
          <span
            key={tick}
            className="mono absolute bg-ground px-0.5 text-[11px]"
            style={{ left: `${(tick / endTick) * 100}%`, bottom: LINE_PX - y + 2 }}
          >
            {text}
          </span>
        ))}
    </>
  );
}

function linesOf(song: Song) {
  const { map } = song;
  const times = tempoMapOf(map);
  const { endTick } = times;
  const bpms = map.tempos.map(({ bpm }) => bpm);
  const [slowest, fastest] = [Math.min(...bpms), Math.max(...bpms)];
  const yOf = (bpm: number): number => LINE_PX - 4 - ((bpm - slowest) / (fastest - slowest || 1)) * (LINE_PX - 12);
  const steps = map.tempos.map((tempo, i) => {
    const next = map.tempos[i + 1] as (typeof map.tempos)[number] | undefined;
    const end = next?.atTick ?? endTick;
    return `L ${tempo.atTick} ${yOf(tempo.bpm)} L ${end} ${yOf(tempo.ramp && next ? next.bpm : tempo.bpm)}`;
  });
  return {
    endTick,
    path: `M 0 ${yOf(map.tempos[0].bpm)} ${steps.join(' ')}`,
    meters: map.meters.slice(1).map(({ bar, beats, unit }) => ({ tick: times.barTick(bar), text: `${beats}/${unit}` })),
    tempos: map.tempos.map(({ atTick, bpm }) => ({ tick: atTick, text: tempoText(song, bpm), y: yOf(bpm) })),
  };
}
