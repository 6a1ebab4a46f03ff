import { useMemo } from 'react';
import { Link } from 'react-router';
import { knownInstrument } from '@rackle/core/show';
import { useApp, usePlaces, useSetlist } from '../../state/hooks';
import { useFindings } from '../soundcheck';
import { ShowFile } from './ShowFile';
import { StandingLayers } from './StandingLayers';

/** Beside the sheet: how much memory each song's instruments take, and what the soundcheck says. */
export function SetlistSide() {
  const setlist = useSetlist();
  const places = usePlaces();
  const entryId = useApp(({ live }) => live.place.entryId);
  const stored = useApp(({ show }) => show.working.instruments);
  const findings = useFindings();
  const memory = useMemo(
    () =>
      (setlist?.entries ?? []).flatMap((entry) => {
        const song = places.find((place) => place.entry.id === entry.id)?.song;
        if (!song) return [];
        const instruments = new Set(song.layers.map((layer) => layer.sound.instrumentId));
        return [
          {
            id: entry.id,
            name: song.name,
            mb: [...instruments].reduce(
              (sum, id) => sum + (knownInstrument(id, (one) => stored[one])?.memoryMb ?? 0),
              0,
            ),
          },
        ];
      }),
    [setlist, places, stored],
  );
  const most = Math.max(1, ...memory.map((entry) => entry.mb));
  return (
    <aside className="no-print hidden w-72 shrink-0 border-l border-ink px-4 py-3 lg:block">
      <h2 className="text-[13px] font-bold text-ink2">memory of each song</h2>
      <div
        className={`mt-2 flex h-24 items-end border-b border-ink ${memory.length > 40 ? '' : 'gap-1'}`}
        role="img"
        aria-label={memory.map((entry) => `${entry.name} ${entry.mb} MB`).join(', ')}
      >
        {memory.map((entry) => (
          <span
            key={entry.id}
            title={`${entry.name}: ${entry.mb} MB`}
            className={`flex-1 ${entry.id === entryId ? 'bg-live' : 'bg-ink'}`}
            style={{ height: `${(entry.mb / most) * 100}%` }}
          />
        ))}
      </div>
      <p className="mono mt-1 text-xs text-ink2">
        most {most === 1 ? 0 : most} MB, {memory.find((entry) => entry.mb === most)?.name ?? '—'}
      </p>
      <h2 className="mt-6 text-[13px] font-bold text-ink2">
        soundcheck{findings.length > 0 ? `, ${findings.length} finding${findings.length === 1 ? '' : 's'}` : ''}
      </h2>
      {findings.length === 0 ? (
        <p className="mt-1">Nothing wrong in what was checked.</p>
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
