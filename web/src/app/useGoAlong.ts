import { useNavigate } from 'react-router';
import type { Place } from '@rackle/core/show';
import { useLatest } from '../ui/useLatest';

/** Pages that show one song, and go along when another one is chosen on the strip. */
const OF_A_SONG = ['songs', 'timeline'];

/**
 * Takes a page that shows one song along to the song of the place. What counts is the page that was asked for last, as
 * the address has it: while its parts are fetched, the page before is still drawn, and must not call it back.
 */
export function useGoAlong(): (place: Place) => void {
  const navigate = useNavigate();
  return useLatest((place: Place): void => {
    const [, page] = window.location.pathname.split('/');
    if (page && OF_A_SONG.includes(page)) void navigate(`/${page}/${place.song.id}`);
  });
}
