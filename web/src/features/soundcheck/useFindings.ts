import { useDeferredValue, useMemo } from 'react';
import { emptyShow, soundcheck, type Finding } from '@rackle/core';
import { useApp, useSetlist } from '../../state/hooks';

/** What is wrong with the present setlist; worked out when the page has time. */
export function useFindings(): Finding[] {
  const setlist = useSetlist();
  const working = useDeferredValue(useApp(({ show }) => show.working));
  return useMemo(
    () =>
      setlist
        ? soundcheck(
            {
              ...emptyShow(),
              songs: Object.values(working.songs),
              setlists: [setlist],
              instruments: Object.values(working.instruments),
              gearLists: Object.values(working.gearLists),
            },
            setlist.id,
          )
        : [],
    [working, setlist],
  );
}
