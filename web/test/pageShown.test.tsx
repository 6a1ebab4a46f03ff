import { afterEach, expect, it } from '@jest/globals';
import { act, cleanup, render } from '@testing-library/react';
import { MemoryRouter, useNavigate } from 'react-router';
import { PageShown } from '../src/app/PageShown';
import { pageChange } from '../src/app/pageChange';

afterEach(cleanup);

/** A window at some page. */
function windowAt(path: string): { goTo: (path: string) => void } {
  let goTo: (path: string) => void = () => undefined;
  function Pages() {
    const navigate = useNavigate();
    goTo = (to) => act(() => void navigate(to));
    return <PageShown />;
  }
  render(
    <MemoryRouter initialEntries={[path]}>
      <Pages />
    </MemoryRouter>,
  );
  return { goTo: (to) => goTo(to) };
}

it('before the first page there was none that a key could have been meant for', () => {
  const typedMs = performance.now();
  windowAt('/setlist');
  expect(pageChange.isBetween(typedMs)).toBe(false);
});

it('a key that was typed before another page came was not meant for it', () => {
  const { goTo } = windowAt('/setlist');
  const typedMs = performance.now();
  goTo('/sounds');
  expect(pageChange.isBetween(typedMs)).toBe(true);
  expect(pageChange.isBetween(performance.now())).toBe(false);
});

it('the sheet of another song is the same page: a key typed while it comes keeps its meaning', () => {
  const { goTo } = windowAt('/songs/slow-bell');
  const typedMs = performance.now();
  goTo('/songs/third-ferry-home');
  expect(pageChange.isBetween(typedMs)).toBe(false);
});
