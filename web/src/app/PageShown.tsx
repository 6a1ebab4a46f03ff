import { useLayoutEffect } from 'react';
import { useLocation } from 'react-router';
import { pageChange } from './pageChange';

/**
 * Tells when a page is there to be seen; while its parts are fetched, it and this are not. The same page with another
 * song is no other page: keys mean there what they meant before.
 */
export function PageShown() {
  const { pathname } = useLocation();
  const page = pathname.split('/')[1];
  useLayoutEffect(() => {
    pageChange.shown(performance.now());
    return () => pageChange.left(performance.now());
  }, [page]);
  return null;
}
