import { Link, Navigate } from 'react-router';
import { useApp, usePlaces, useSongs } from '../../state/hooks';
import { minutesText } from '../../ui/format';

/** All songs; straight to the present one's sheet when there is one. */
export function SongsPage() {
  const songs = useSongs();
  const { songId } = useApp(({ live }) => live.snapshot);
  const places = usePlaces();
  const first = songId ?? places[0]?.song.id;
  if (first && songs[first]) return <Navigate to={`/songs/${first}`} replace />;
  const all = Object.values(songs);
  return (
    <div className="px-4 py-5">
      <h1 className="named text-4xl">Songs</h1>
      {all.length === 0 && <p className="mt-3 text-lg text-ink2">No songs yet. <Link to="/setlist" className="underline">Add one in the setlist.</Link></p>}
      <ul>{all.map((song) => <li key={song.id} className="flex gap-4 border-b border-rule py-2"><Link to={`/songs/${song.id}`} className="named text-2xl">{song.name}</Link><span className="mono ml-auto self-center">{minutesText(song.durationSeconds)}</span></li>)}</ul>
    </div>
  );
}
