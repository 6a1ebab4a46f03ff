import { afterEach, expect, it } from '@jest/globals';
import { act, cleanup, render } from '@testing-library/react';
import { lazy, Suspense } from 'react';
import { BrowserRouter, Route, Routes, useNavigate } from 'react-router';
import { playingOrder, type Place } from '@rackle/core/show';
import { useGoAlong } from '../src/app/useGoAlong';
import { demo } from './demoPage';

afterEach(cleanup);

/** A page whose parts are still being fetched. */
const Coming = lazy(() => new Promise<never>(() => undefined));

/** A window at some page, with the strip over it. */
function windowAt(path: string): { goTo: (path: string) => void; choose: (place: Place) => void } {
  window.history.replaceState(null, '', path);
  const hands = { goTo: (_: string): void => undefined, choose: (_: Place): void => undefined };
  function Strip() {
    const navigate = useNavigate();
    hands.choose = useGoAlong();
    hands.goTo = (to) => void navigate(to);
    return null;
  }
  render(
    <BrowserRouter>
      <Strip />
      <Suspense fallback={null}>
        <Routes>
          <Route path="/stage" element={<Coming />} />
          <Route path="*" element={null} />
        </Routes>
      </Suspense>
    </BrowserRouter>,
  );
  return { goTo: (to) => act(() => hands.goTo(to)), choose: (place) => act(() => hands.choose(place)) };
}

const songs = Object.fromEntries(demo.songs.map((song) => [song.id, song]));
const inSong = (songId: string): Place =>
  playingOrder(demo.setlists[0]!, songs).find(({ song }) => song.id === songId)!;

it('a page of one song goes along to the song chosen on the strip, others stay', () => {
  const { choose, goTo } = windowAt('/songs/slow-bell');
  choose(inSong('kelp-dance'));
  expect(window.location.pathname).toBe('/songs/kelp-dance');
  goTo('/timeline');
  choose(inSong('slow-bell'));
  expect(window.location.pathname).toBe('/timeline/slow-bell');
  goTo('/gear');
  choose(inSong('kelp-dance'));
  expect(window.location.pathname).toBe('/gear');
});

it('a patch chosen while another page is being fetched does not call the page before back', () => {
  const { choose, goTo } = windowAt('/songs/slow-bell');
  goTo('/stage');
  choose(inSong('kelp-dance'));
  expect(window.location.pathname).toBe('/stage');
});
