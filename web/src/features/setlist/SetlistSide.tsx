import { useMemo } from 'react';
import { Link } from 'react-router';
import { knownInstrument } from '@rackle/core/show';
import { useApp, useSetlist, useSongs } from '../../state/hooks';
import { fetchedLater } from '../../ui/fetchedLater';
import { useFindings } from '../soundcheck';
import { ShowFile } from './ShowFile';
import { StandingLayers } from './StandingLayers';

/** What charts are drawn with is large: it is fetched once the first page has had its time. */
const rested = new Promise<void>((resolve) => setTimeout(resolve, 1500));
const MemoryChart = fetchedLater(async () => {
  await rested;
  return (await import('./MemoryChart')).MemoryChart;
});

/** Beside the sheet: how much memory each song's instruments take, and what the soundcheck says. */
export function SetlistSide() {
  const setlist = useSetlist();
  const songs = useSongs();
  const entryId = useApp(({ live }) => live.place.entryId);
  const stored = useApp(({ show }) => show.working.instruments);
  const findings = useFindings();
  const isDone = useApp(({ checks }) => checks.isDone);
  const memory = useMemo(
    () =>
      (setlist?.entries ?? [])
        .flatMap((entry) => {
          const song = entry.kind === 'song' ? songs[entry.songId] : undefined;
          if (!song) return [];
          const instruments = new Set(song.layers.map((layer) => layer.sound.instrumentId));
          return [
            {
              id: entry.id,
              name: song.name,
              number: 0,
              mb: [...instruments].reduce(
                (sum, id) => sum + (knownInstrument(id, (one) => stored[one])?.memoryMb ?? 0),
                0,
              ),
            },
          ];
        })
        .map((song, i) => ({ ...song, number: i + 1 })),
    [setlist, songs, stored],
  );
  const most = Math.max(1, ...memory.map((entry) => entry.mb));
  return (
    <aside className="no-print hidden w-72 shrink-0 border-l border-ink px-4 py-3 lg:block">
      <h2 className="text-[13px] font-bold text-ink2">memory of each song</h2>
      <div
        role="img"
        aria-label={memory.map(({ name, mb }) => `${name} ${mb} MB`).join(', ')}
        className="min-h-[138px]"
      >
        <MemoryChart songs={memory} live={entryId} />
      </div>
      <p className="mono mt-1 text-xs text-ink2">
        most {most === 1 ? 0 : most} MB, {memory.find((entry) => entry.mb === most)?.name ?? '—'}
      </p>
      <h2 className="mt-6 text-[13px] font-bold text-ink2">
        soundcheck{findings.length > 0 ? `, ${findings.length} finding${findings.length === 1 ? '' : 's'}` : ''}
      </h2>
      {findings.length === 0 ? (
        <p className="mt-1">{isDone ? 'Nothing wrong in what was checked.' : 'Looking it over …'}</p>
      ) : (
        findings.slice(0, 4).map((finding, i) => (
          <p key={i} className="mt-2">
            <b>{finding.message}.</b> {finding.where}.
          </p>
        ))
      )}
      {findings.length > 4 && (
        <p className="mt-2">
          <Link to="/soundcheck" className="underline">
            All of them
          </Link>
        </p>
      )}
      {setlist && <StandingLayers setlist={setlist} />}
      <h2 className="mb-2 mt-6 text-[13px] font-bold text-ink2">everything in one file</h2>
      <ShowFile save />
    </aside>
  );
}
