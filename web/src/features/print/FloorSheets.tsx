import { useEffect, useState } from 'react';
import type { EveningSet, Setlist } from '@rackle/core/show';
import { clockText, dayText } from '../../ui/format';
import { floorSize, KEY_EM, NOTE_EM, NUMBER_EM, PAPER_MM } from './floorSize';
import { keyTonight, tempoTonight } from './tonightWords';

const NAME_FONT = '600 100px "Barlow Condensed"';

/** How wide words are in the letters of names, at a size of 1. */
function useWidths(): (words: string) => number {
  const [measure, setMeasure] = useState<((words: string) => number) | null>(null);
  useEffect(() => {
    let isWanted = true;
    void document.fonts.load(NAME_FONT).then(() => {
      const context = document.createElement('canvas').getContext('2d');
      if (!context || !isWanted) return;
      context.font = NAME_FONT;
      setMeasure(() => (words: string) => context.measureText(words).width / 100);
    });
    return () => {
      isWanted = false;
    };
  }, []);
  // Wide enough for any letters, until they are there.
  return measure ?? ((words) => words.length * 0.5);
}

/** A page a set, with letters as large as it goes. */
export function FloorSheets({ setlist, sets }: { setlist: Setlist; sets: readonly EveningSet[] }) {
  const widthOf = useWidths();
  return (
    <div className="flex flex-wrap gap-x-4 [zoom:0.8] print:block print:[zoom:1]">
      {sets.map((set, i) => {
        const rows = set.songs.map(({ song, entry }) => ({
          widthEm: widthOf(song.name),
          // Letters for reading are wider than those of names.
          noteEm: widthOf(entry.note) * 1.35,
        }));
        const { sizeMm, columns, gapEm } = floorSize(rows);
        return (
          <section
            key={set.songs[0].entry.id}
            aria-label={`set ${i + 1}`}
            className="paper mt-4 break-after-page border border-rule last:break-after-auto print:mt-0 print:border-0"
            style={{ width: `${PAPER_MM.width}mm`, minHeight: `${PAPER_MM.height - 2}mm` }}
          >
            <header className="flex items-baseline gap-3 border-b-2 border-ink pb-1">
              <b className="named text-3xl">{sets.length > 1 ? `Set ${i + 1}` : setlist.name}</b>
              <span className="text-lg">{clockText(set.songs[0].startsAt)}</span>
              <span className="ml-auto text-[13px]">
                {[sets.length > 1 ? setlist.name : '', setlist.place, setlist.date ? dayText(setlist.date) : '']
                  .filter((words) => words !== '')
                  .join(' · ')}
              </span>
            </header>
            <ol
              className="[column-gap:6mm]"
              style={{ fontSize: `${sizeMm}mm`, columnCount: columns, paddingTop: '2mm' }}
            >
              {set.songs.map(({ entry, song, number }) => (
                <li
                  key={entry.id}
                  className="grid break-inside-avoid items-baseline"
                  style={{
                    gridTemplateColumns: `${NUMBER_EM}em minmax(0,1fr) ${KEY_EM}em`,
                    lineHeight: 1.08,
                    paddingBottom: `${gapEm}em`,
                  }}
                >
                  <span className="mono text-[0.5em] text-ink2">{number}</span>
                  <span className="min-w-0">
                    <span dir="auto" className="named block [overflow-wrap:anywhere]">
                      {song.name}
                    </span>
                    {entry.note !== '' && (
                      <span dir="auto" className="block leading-[1.3]" style={{ fontSize: `${NOTE_EM}em` }}>
                        {entry.note}
                      </span>
                    )}
                  </span>
                  <span className="whitespace-nowrap text-right text-[0.36em] leading-[1.1]">
                    <b className="block">{keyTonight(song, entry)}</b>
                    <span className="mono">{tempoTonight(song)}</span>
                  </span>
                </li>
              ))}
            </ol>
            {set.then && (
              <p className="mt-1 border-t border-ink pt-1 text-lg">
                {set.then.name}, {set.then.minutes} minutes
                {set.then.note !== '' && ` · ${set.then.note}`}
              </p>
            )}
          </section>
        );
      })}
    </div>
  );
}
