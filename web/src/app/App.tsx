import { Suspense, useEffect, useRef, useState } from 'react';
import { Provider } from 'react-redux';
import { BrowserRouter, Navigate, Route, Routes, useLocation } from 'react-router';
import { HostContext, LogContext, ProvingContext, useAct, useApp, usePlaces, useSongs } from '../state/hooks';
import { SetlistPage } from '../features/setlist/SetlistPage';
import { SharedLayers } from '../features/shared-layers';
import type { Outbox } from '../show/outbox';
import { keepingShown } from '../state/uiSlice';
import { AFTER_FIRST_PAGE_MS, fetchedLater, fetchedPage } from '../ui/fetchedLater';
import { PageShown } from './PageShown';
import { PageBoundary } from './PageBoundary';
import { later } from './later';
import { Frame } from './Frame';
import type { StartedApp } from './startApp';

const SongSheetPage = fetchedPage(async () => (await later.songSheetPage()).SongSheetPage);
const SongsPage = fetchedPage(async () => (await later.songsPage()).SongsPage);
const GuidePage = fetchedPage(async () => (await later.guidePage()).GuidePage);
const SetlistsPage = fetchedPage(async () => (await later.setlistsPage()).SetlistsPage);
const StagePage = fetchedPage(async () => (await later.stagePage()).StagePage);
const TimelinePage = fetchedPage(async () => (await later.timelinePage()).TimelinePage);
const GearPage = fetchedPage(async () => (await later.gearPage()).GearPage);
const NumbersPage = fetchedPage(async () => (await later.numbersPage()).NumbersPage);
const ControllerSheetsPage = fetchedPage(async () => (await later.controllerSheetsPage()).ControllerSheetsPage);
const SoundsPage = fetchedPage(async () => (await later.soundsPage()).SoundsPage);
const InstrumentPage = fetchedPage(async () => (await later.instrumentPage()).InstrumentPage);
const Toaster = fetchedLater(async () => (await later.words()).Toaster);
const Keeping = fetchedLater(async () => (await later.keeping()).Keeping);
const HistoryPage = fetchedPage(async () => (await later.historyPage()).HistoryPage);
const AsItWas = fetchedPage(async () => (await later.asItWas()).AsItWas);
const PrintPage = fetchedPage(async () => (await later.printPage()).PrintPage);
const SoundcheckPage = fetchedPage(async () => (await later.soundcheckPage()).SoundcheckPage);

/** The whole of it, once there is a show. */
export function App({ store, log, host, takeOver, takeVersion, outbox, proving }: StartedApp) {
  return (
    <Provider store={store}>
      <HostContext.Provider value={host}>
        <LogContext.Provider value={log}>
          <ProvingContext.Provider value={proving}>
            <BrowserRouter>
              <Frame onTakeOver={takeOver} onTakeVersion={takeVersion}>
                <PageBoundary>
                  <SharedLayers>
                    <Pages />
                  </SharedLayers>
                </PageBoundary>
              </Frame>
              <WhatWaits outbox={outbox} />
              <Words />
            </BrowserRouter>
          </ProvingContext.Provider>
        </LogContext.Provider>
      </HostContext.Provider>
    </Provider>
  );
}

/** Short words about what was done; nothing says any before the first page is there. */
function Words() {
  const [isWanted, setIsWanted] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setIsWanted(true), AFTER_FIRST_PAGE_MS);
    return () => clearTimeout(timer);
  }, []);
  if (!isWanted) return null;
  const style = {
    background: 'var(--ink)',
    color: 'var(--ground)',
    border: 'none',
    borderRadius: 2,
    fontFamily: 'var(--font-text)',
    fontSize: 14,
    minHeight: 30,
    padding: '2px 12px',
    maxWidth: '62vw',
  };
  return <Toaster position="bottom-center" offset={1} mobileOffset={1} visibleToasts={1} toastOptions={{ style }} />;
}

/** Opens by itself when an edit has met another, but never on stage; closing it settles nothing. */
function WhatWaits({ outbox }: { outbox: Outbox }) {
  const act = useAct();
  const isOpen = useApp(({ ui }) => ui.keepingOpen);
  const locked = useApp(({ ui }) => ui.locked);
  const conflicts = useApp(({ show }) => show.held.filter(({ why }) => why === 'conflict').length);
  const { pathname } = useLocation();
  const isLoaded = useApp(({ show }) => show.status === 'ready');
  const known = useRef<number | null>(null);
  useEffect(() => {
    if (known.current !== null && conflicts > known.current && !locked && pathname !== '/stage') act(keepingShown());
    if (isLoaded) known.current = conflicts;
  }, [conflicts, isLoaded, locked, pathname, act]);
  if (!isOpen) return null;
  return <Keeping outbox={outbox} />;
}

/** Straight to the sheet of the song that is played; else to all songs. */
function PresentSong() {
  const songs = useSongs();
  const places = usePlaces();
  const { songId } = useApp(({ live }) => live.place);
  const first = songId ?? places[0]?.song.id;
  return <Navigate to={first && songs[first] ? `/songs/${first}` : '/library'} replace />;
}

function Pages() {
  const status = useApp(({ show }) => show.status);
  const failure = useApp(({ show }) => show.failure);
  if (status === 'loading') return <p className="p-6 text-ink2">Opening the show …</p>;
  if (status === 'failed')
    return (
      <p role="alert" className="named p-6 text-2xl">
        {failure}
      </p>
    );
  return (
    <Suspense fallback={null}>
      <Routes>
        <Route path="/setlist" element={<SetlistPage />} />
        <Route path="/guide" element={<GuidePage />} />
        <Route path="/guide/:name" element={<GuidePage />} />
        <Route path="/setlists" element={<SetlistsPage />} />
        <Route path="/sounds" element={<SoundsPage />} />
        <Route path="/sounds/:instrumentId" element={<InstrumentPage />} />
        <Route path="/songs" element={<PresentSong />} />
        <Route path="/library" element={<SongsPage />} />
        <Route path="/songs/:songId" element={<SongSheetPage />} />
        <Route path="/timeline" element={<TimelinePage />} />
        <Route path="/timeline/:songId" element={<TimelinePage />} />
        <Route path="/stage" element={<StagePage />} />
        <Route path="/gear" element={<GearPage />} />
        <Route path="/numbers" element={<NumbersPage />} />
        <Route path="/numbers/sheets" element={<ControllerSheetsPage />} />
        <Route path="/soundcheck" element={<SoundcheckPage />} />
        <Route path="/print/:sheet" element={<PrintPage />} />
        <Route path="/history" element={<HistoryPage />} />
        <Route path="/as-it-was/:source/*" element={<AsItWas />} />
        <Route path="*" element={<Navigate to="/setlist" replace />} />
      </Routes>
      <PageShown />
    </Suspense>
  );
}
