import { useState } from 'react';
import type { Setlist, Song } from '@rackle/core/show';
import { learntSeconds, readLengths } from '../../live/playedLengths';
import { useEdit, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { minutesText } from '../../ui/format';

/** So much otherwise is worth a word. */
const DIFFERS_BY = 0.05;
const ROUND_TO_SECONDS = 5;
const MOST_SHOWN = 6;

/** Songs that are really played longer or shorter than they are said to be, and the step that takes those lengths. */
export function LengthsPlayed({ setlist }: { setlist: Setlist }) {
  const songs = useSongs();
  const edit = useEdit();
  // As they were when the page was opened: what is played now is learnt for the next time.
  const [lengths] = useState(readLengths);
  const ids = new Set(setlist.entries.flatMap((entry) => (entry.kind === 'song' ? [entry.songId as string] : [])));
  const otherwise = [...ids].flatMap((id): { song: Song; seconds: number }[] => {
    const song = songs[id];
    const learnt = learntSeconds(lengths, id);
    if (!song || learnt === null) return [];
    const seconds = Math.round(learnt / ROUND_TO_SECONDS) * ROUND_TO_SECONDS;
    return Math.abs(seconds - song.durationSeconds) > song.durationSeconds * DIFFERS_BY ? [{ song, seconds }] : [];
  });
  if (otherwise.length === 0) return null;
  const take = (): void =>
    edit({
      label: 'take the lengths as played',
      songs: otherwise.map(({ song, seconds }) => ({ ...song, durationSeconds: seconds })),
    });
  return (
    <section aria-label="lengths as played">
      <h2 className="mt-6 text-[13px] font-bold text-ink2">lengths as played</h2>
      <ul className="mt-1">
        {otherwise.slice(0, MOST_SHOWN).map(({ song, seconds }) => (
          <li key={song.id} className="flex gap-2">
            <span className="min-w-0 flex-1 truncate">{song.name}</span>
            <span className="mono">
              {minutesText(song.durationSeconds)} → {minutesText(seconds)}
            </span>
          </li>
        ))}
        {otherwise.length > MOST_SHOWN && <li>and {otherwise.length - MOST_SHOWN} more</li>}
      </ul>
      <Button className="mt-1" onClick={take}>
        Take them
      </Button>
    </section>
  );
}
