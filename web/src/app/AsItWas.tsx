import { useMemo, useState, type ReactNode } from 'react';
import { Provider, useStore } from 'react-redux';
import { Link, Route, Routes, useLocation, useNavigate, useParams } from 'react-router';
import { bodyOf, differing, type Body, type Kind } from '@rackle/core/show';
import { GearPage } from '../features/gear/GearPage';
import { markedItem, pastAt, pastStore, presentPath, useBringBack, useFetched, type Past } from '../features/history';
import { SetlistPage } from '../features/setlist/SetlistPage';
import { SharedLayers } from '../features/shared-layers';
import { SongSheetPage } from '../features/song-sheet/SongSheetPage';
import { InstrumentPage } from '../features/sounds/InstrumentPage';
import type { HostConnection } from '../protocol';
import { DiffersContext, HostContext, useApp, useHost } from '../state/hooks';
import type { RootState } from '../state/store';
import { useDifferenceNames } from '../state/useDifferenceNames';
import { Button } from '../ui/Button';
import { dayAndTime } from '../ui/clockTime';
import { Stamp } from '../ui/Stamp';

/** A thing of the past on its own page: as it was, on a ground of its own, where nothing can be changed. */
export function AsItWas() {
  const { source = '' } = useParams();
  const store = useStore<RootState>();
  const { value, problem } = useFetched(source, () => pastAt(source, store.getState().show.working));
  if (problem !== null)
    return (
      <p role="alert" className="p-6 text-lg">
        {problem}{' '}
        <Link to="/history" className="underline">
          To the history
        </Link>
      </p>
    );
  if (!value) return <p className="p-6 text-ink2">Opening it as it was …</p>;
  const shown = (kind: Kind, page: ReactNode): ReactNode => (
    <Shown past={value} kind={kind}>
      {page}
    </Shown>
  );
  return (
    <Routes>
      <Route path="songs/:songId" element={shown('songs', <SongSheetPage />)} />
      <Route path="setlist/:setlistId" element={shown('setlists', <SetlistPage />)} />
      <Route path="gear/:gearListId" element={shown('gearLists', <GearPage />)} />
      <Route path="sounds/:instrumentId" element={shown('instruments', <InstrumentPage />)} />
      <Route path="*" element={<p className="p-6 text-lg">There is nothing to look at here.</p>} />
    </Routes>
  );
}

/** Hears the running side, and tells it nothing: what is looked at is not what is played. */
const onlyHeard = (host: HostConnection): HostConnection => ({
  post: () => undefined,
  listen: (listener) => host.listen(listener),
});

function Shown({ past, kind, children }: { past: Past; kind: Kind; children: ReactNode }) {
  const params = useParams();
  const id = params.songId ?? params.setlistId ?? params.gearListId ?? params.instrumentId ?? '';
  const host = useHost();
  const store = useStore<RootState>();
  const [refusals, setRefusals] = useState(0);
  const quiet = useMemo(() => onlyHeard(host), [host]);
  const then = useMemo(() => {
    const bodies = kind === 'gearLists' ? playedWith(past.bodies, store.getState(), id) : past.bodies;
    return pastStore(store, { bodies, setlistId: kind === 'setlists' ? id : null }, () =>
      setRefusals((count) => count + 1),
    );
  }, [past, kind, id, store]);
  const old = bodyOf(past.bodies, kind, id);
  const now = useApp(({ show }) => bodyOf(show.working, kind, id));
  const places = useMemo(
    () => new Set(old && now ? differing(kind, old, now).map(({ thing }) => markedItem(thing)) : []),
    [kind, old, now],
  );
  if (!old) return <p className="p-6 text-lg">This was not there then.</p>;
  return (
    <div data-past className="flex min-h-full flex-col bg-ground text-ink">
      <Banner past={past} kind={kind} old={old} now={now} refusals={refusals} />
      <div className="min-h-0 flex-1">
        <HostContext.Provider value={quiet}>
          <DiffersContext.Provider value={places}>
            <Provider store={then}>
              <SharedLayers>{children}</SharedLayers>
            </Provider>
          </DiffersContext.Provider>
        </HostContext.Provider>
      </div>
    </div>
  );
}

/** The gear page shows tonight's list: the setlist names the one that is looked at. */
function playedWith(bodies: Past['bodies'], { show }: RootState, gearListId: string): Past['bodies'] {
  const setlist = show.setlistId === null ? null : (bodies.setlists[show.setlistId] ?? null);
  if (!setlist) return bodies;
  const played = { ...setlist, gearListId: gearListId as NonNullable<typeof setlist.gearListId> };
  return { ...bodies, setlists: { ...bodies.setlists, [setlist.id]: played } };
}

/** When it was, what differs from now, and the ways on. */
function Banner({
  past,
  kind,
  old,
  now,
  refusals,
}: {
  past: Past;
  kind: Kind;
  old: Body;
  now: Body | null;
  refusals: number;
}) {
  const names = useDifferenceNames();
  const navigate = useNavigate();
  const isFirst = useLocation().key === 'default';
  const back = useBringBack();
  const found = now ? differing(kind, old, now, names) : [];
  const words = found.map(({ words: one }) => one);
  return (
    <header className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b-2 border-ink bg-ground2 px-4 py-1">
      <Stamp>as it was</Stamp>
      <b className="named text-xl">{dayAndTime(new Date(past.savedAt))}</b>
      <span className="text-ink2">{past.words}</span>
      <span className="min-w-40 flex-1 truncate text-[13px]" title={words.join('\n')}>
        {now === null
          ? 'It is there no more.'
          : words.length === 0
            ? 'It is the same now.'
            : `Since then: ${words.slice(0, 3).join('; ')}${words.length > 3 ? `, and ${words.length - 3} more` : ''}`}
      </span>
      {refusals > 0 && (
        <b key={refusals} role="status" className="text-[13px]">
          Nothing changes here. Bring it back first.
        </b>
      )}
      <Button
        disabled={now !== null && words.length === 0}
        onClick={() => {
          back.all(kind, old, past.savedAt);
          void navigate(presentPath(kind, old.id));
        }}
      >
        Bring all of it back
      </Button>
      {/* Where it was opened by its address, there is nothing to go back to. */}
      <Button look="plain" onClick={() => void (isFirst ? navigate('/history') : navigate(-1))}>
        Close
      </Button>
    </header>
  );
}
