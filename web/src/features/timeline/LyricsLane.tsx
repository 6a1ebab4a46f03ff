import { memo } from 'react';
import type { Lyric } from '@rackle/core/show';
import { useChartNow } from './timelineContext';
import type { SeenOfChart } from './useChartView';

/** Narrower than this a word cannot be read. */
const NARROW_PX = 14;

/** What is sung, under the time at which it is. */
export const LyricsLane = memo(function LyricsLane({ lyrics, view }: { lyrics: readonly Lyric[]; view: SeenOfChart }) {
  const { endTick } = useChartNow().map;
  if (lyrics.length === 0) return null;
  const margin = (view.to - view.from) / 2;
  const [from, to] = [(view.from - margin) * endTick, (view.to + margin) * endTick];
  return (
    <div className="relative isolate h-10 border-t border-rule" role="group" aria-label="lyrics">
      <span className="sticky left-0 z-10 block h-[18px] w-fit bg-ground pr-2 pl-1 text-[11px] leading-[18px] text-ink2">
        lyrics
      </span>
      {linesOf(lyrics).map(({ atTick, text }, i, all) => {
        const px = (((all[i + 1]?.atTick ?? endTick) - atTick) / endTick) * view.widthPx;
        if (atTick < from || atTick > to || px < NARROW_PX) return null;
        return (
          <span
            key={`${atTick} ${i}`}
            dir="auto"
            title={text}
            className="absolute top-[18px] truncate text-[12px] leading-5 whitespace-pre"
            style={{ left: `${(atTick / endTick) * 100}%`, maxWidth: px }}
          >
            {text}
          </span>
        );
      })}
    </div>
  );
});

/** Syllables put together to lines: a sign at the start of one begins a line. */
function linesOf(lyrics: readonly Lyric[]): { atTick: number; text: string }[] {
  const lines: { atTick: number; text: string }[] = [];
  for (const { atTick, text } of lyrics) {
    const begins = /^[/\\\r\n]/.test(text);
    const clean = text.replace(/[/\\\r\n]+/g, ' ');
    if (begins || lines.length === 0) lines.push({ atTick, text: clean.trimStart() });
    else lines[lines.length - 1].text += clean;
  }
  return lines;
}
