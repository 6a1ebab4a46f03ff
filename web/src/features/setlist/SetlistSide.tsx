import { useMemo } from 'react';
import { Link } from 'react-router';
import { useApp, useSetlist, useSongs } from '../../state/hooks';
import { fetchedLater } from '../../ui/fetchedLater';
import { useFindings } from '../soundcheck';
import { LengthsPlayed } from './LengthsPlayed';
import { ShowFile } from './ShowFile';
import { StandingLayers } from './StandingLayers';

const MemoryChart = fetchedLater(async () => (await import('./MemoryChart')).MemoryChart);

/** Beside the sheet: how much memory each song's instruments take, and what the soundcheck says. */
export function SetlistSide() {
  const setlist = useSetlist();
  const songs = useSongs();
  const entryId = useApp(({ live }) => live.place.entryId);
  const planned = useApp(({ checks }) => checks.loading?.picture.songs);
  const memory = useMemo(
    () =>
      (planned ?? []).map(({ entryId: id, ownMb, alwaysMb }, i) => {
        const entry = setlist?.entries.find((one) => one.id === id);
        const song = entry?.kind === 'song' ? songs[entry.songId] : undefined;
        return { id, name: song?.name ?? '', number: i + 1, mb: Math.round(ownMb + alwaysMb) };
      }),
    [setlist, songs, planned],
  );
  const most = Math.max(0, ...memory.map((entry) => entry.mb));
  return (
    <>
      <h2 className="text-[13px] font-bold text-ink2">memory of each song</h2>
      <div
        role="img"
        aria-label={`memory of each song: ${memory.map(({ name, mb }) => `${name} ${mb} MB`).join(', ') || 'not known yet'}`}
        className="min-h-[138px]"
      >
        <MemoryChart songs={memory} live={entryId} />
      </div>
      <p className="mono mt-1 text-xs text-ink2">
        {planned === undefined
          ? 'being planned …'
          : most === 0
            ? 'nothing has to be loaded'
            : `most ${most} MB, ${memory.find(({ mb }) => mb === most)!.name}`}
      </p>
      <SoundcheckInShort />
      {setlist && <LengthsPlayed setlist={setlist} />}
      {setlist && <StandingLayers setlist={setlist} />}
      <h2 className="mb-2 mt-6 text-[13px] font-bold text-ink2">everything in one file</h2>
      <ShowFile save />
    </>
  );
}

const MOST_SHOWN = 4;

/** What will or may fail; of what is only to know, how much there is. */
function SoundcheckInShort() {
  const findings = useFindings();
  const isDone = useApp(({ checks }) => checks.isDone);
  const fails = findings.filter(({ severity }) => severity !== 'toKnow');
  const toKnow = findings.length - fails.length;
  return (
    <>
      <h2 className="mt-6 text-[13px] font-bold text-ink2">
        soundcheck{fails.length > 0 ? `, ${fails.length} finding${fails.length === 1 ? '' : 's'}` : ''}
      </h2>
      {fails.length === 0 && (
        <p className="mt-1">{isDone ? 'Nothing wrong in what was checked.' : 'Looking it over …'}</p>
      )}
      {fails.slice(0, MOST_SHOWN).map((finding) => (
        <p key={`${finding.rule} ${finding.cause}`} className="mt-2 first-letter:uppercase">
          <b>{finding.message}.</b> {finding.where}.
        </p>
      ))}
      {(fails.length > MOST_SHOWN || toKnow > 0) && (
        <p className="mt-2">
          <Link to="/soundcheck" className="underline">
            {fails.length > MOST_SHOWN ? 'All of them' : `${toKnow} to know`}
          </Link>
        </p>
      )}
    </>
  );
}
