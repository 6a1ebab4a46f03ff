import type { EveningSet, Patch, SetSong, Setlist } from '@rackle/core/show';
import { useNumbers } from '../../state/hooks';
import { clockText, dayText, minutesText } from '../../ui/format';
import { keyTonight, tempoTonight } from './tonightWords';

/** A song with more lines may run on over the end of a page. */
const MOST_TOGETHER = 30;

/** Every song of the evening with its patches in order, the number that recalls each, and what is to be known. */
export function RunSheet({ setlist, sets }: { setlist: Setlist; sets: readonly EveningSet[] }) {
  return (
    <div className="mt-3 text-[13px] print:mt-0 print:text-[10.5px] print:leading-[1.35]">
      <header className="flex items-baseline gap-3 border-b-2 border-ink pb-1">
        <b className="named text-2xl">{setlist.name}</b>
        <span>
          {[setlist.place, setlist.date ? dayText(setlist.date) : '', `starts ${setlist.startsAt}`]
            .filter((words) => words !== '')
            .join(' · ')}
        </span>
        <span className="ml-auto text-ink2">programs counting from {setlist.programsFrom}</span>
      </header>
      <div className="gap-6 min-[900px]:columns-2 print:columns-2">
        {sets.map((set, i) => (
          <section key={set.songs[0].entry.id} aria-label={`set ${i + 1}`}>
            {set.songs.map((one) => (
              <RunSong key={one.entry.id} {...one} />
            ))}
            {set.then && (
              <p className="mt-2 break-inside-avoid border-y border-ink py-0.5 font-bold">
                {set.then.name}, {set.then.minutes} minutes{set.then.note !== '' && `: ${set.then.note}`}
              </p>
            )}
          </section>
        ))}
      </div>
    </div>
  );
}

function RunSong({ number, entry, song, startsAt }: SetSong) {
  const numberOf = useNumbers();
  const lines = song.patches.flatMap((patch): { patch: Patch; blendId: string | null; name: string }[] => [
    { patch, blendId: null, name: patch.name },
    ...patch.blends.map((blend) => ({ patch, blendId: blend.id as string, name: `… ${blend.name}` })),
  ]);
  return (
    <div className={`mt-2 ${lines.length > MOST_TOGETHER ? '' : 'break-inside-avoid'}`}>
      <h2 className="flex items-baseline gap-2 border-b border-ink">
        <span className="mono text-ink2">{number}</span>
        <b dir="auto" className="named min-w-0 text-lg leading-6">
          {song.name}
        </b>
        <span>{keyTonight(song, entry)}</span>
        <span className="mono">{tempoTonight(song)}</span>
        <span className="mono">
          {song.map.meters[0].beats}/{song.map.meters[0].unit}
        </span>
        <span className="mono ml-auto whitespace-nowrap">
          {clockText(startsAt)} <span className="text-ink2">{minutesText(song.durationSeconds)}</span>
        </span>
      </h2>
      {entry.note !== '' && (
        <p dir="auto" className="font-bold">
          {entry.note}
        </p>
      )}
      {song.description !== '' && <p dir="auto">{song.description}</p>}
      <table className="w-full text-left">
        <tbody>
          {lines.map(({ patch, blendId, name }) => (
            <tr key={`${patch.id} ${blendId ?? ''}`} className="break-inside-avoid border-b border-rule align-baseline">
              <td className="mono w-12 whitespace-nowrap pr-2 text-right font-bold">
                {numberOf(song.id, patch.id, blendId) ?? '·'}
              </td>
              <td dir="auto" className={`named w-[38%] text-[15px] print:text-[12.5px] ${blendId ? 'italic' : ''}`}>
                {name}
                {!patch.isStep && blendId === null && <span className="text-ink2"> (no step)</span>}
              </td>
              <td dir="auto">{blendId === null ? soundsOrNote(song, patch) : ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The player's own note; else which layers play. */
const soundsOrNote = (song: SetSong['song'], { note, parts }: Patch): string =>
  note !== ''
    ? note
    : parts.flatMap(({ layerId }) => song.layers.find(({ id }) => id === layerId)?.name ?? []).join(', ');
