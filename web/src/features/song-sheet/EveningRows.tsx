import type { Song } from '@rackle/core/show';
import { useEvening } from '../../state/useEvening';
import { useLayersNow } from '../../state/useLayersNow';
import { TapeLetter, letterOf } from '../../ui/Tape';
import { Bar } from './ScoreBars';
import type { Column } from './useSheetKeys';

/** Below the song's own rows: what stands through the evening, and so sounds in each of its patches. */
export function EveningRows({
  song,
  columns,
  live,
  lowest,
  highest,
}: {
  song: Song;
  columns: readonly Column[];
  /** The column that plays; −1: none. */
  live: number;
  lowest: number;
  highest: number;
}) {
  const evening = useEvening(song.id);
  const now = useLayersNow(song.id);
  return evening.map(({ layer, part, at }) => (
    <tr key={layer.id} className="border-t border-ink2" data-testid="evening-row">
      <th scope="row" className="sticky left-0 z-10 bg-ground px-1 py-1 text-left font-normal">
        <span className="flex items-center gap-2">
          <TapeLetter tape={layer.tape} letter={letterOf(song.layers.length + at)} />
          <span className="min-w-0">
            <span dir="auto" className="named block truncate text-base leading-5">
              {layer.name}
            </span>
            <span className="block truncate text-xs leading-4 text-ink2">
              through the evening{part.keys === 'taken' ? ', takes its keys' : ''}
            </span>
          </span>
        </span>
      </th>
      {columns.map(({ patch, blend }, i) => (
        <td key={`${patch.id} ${blend?.id ?? ''}`} className="h-[46px] border-l border-rule p-0">
          <span className="relative block h-[46px] w-full [contain:size_layout_style]">
            <Bar
              part={part}
              blend={null}
              tape={layer.tape}
              lowest={lowest}
              highest={highest}
              mutedNow={i === live ? (now.get(layer.id)?.isMuted ?? null) : null}
            />
          </span>
        </td>
      ))}
    </tr>
  ));
}
