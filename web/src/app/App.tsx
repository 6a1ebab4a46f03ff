import { Suspense, lazy } from 'react';
import { Provider } from 'react-redux';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { Toaster } from 'sonner';
import { DoorContext, useApp } from '../state/hooks';
import { SetlistPage } from '../features/setlist/SetlistPage';
import { Conflicts } from './Conflicts';
import { Frame } from './Frame';
import type { StartedApp } from './startApp';

const SongSheetPage = lazy(async () => ({ default: (await import('../features/song-sheet/SongSheetPage')).SongSheetPage }));
const SongsPage = lazy(async () => ({ default: (await import('../features/song-sheet/SongsPage')).SongsPage }));
const StagePage = lazy(async () => ({ default: (await import('../features/stage/StagePage')).StagePage }));
const TimelinePage = lazy(async () => ({ default: (await import('../features/timeline/TimelinePage')).TimelinePage }));
const GearPage = lazy(async () => ({ default: (await import('../features/gear/GearPage')).GearPage }));
const NumbersPage = lazy(async () => ({ default: (await import('../features/numbers/NumbersPage')).NumbersPage }));
const SoundcheckPage = lazy(async () => ({ default: (await import('../features/soundcheck/SoundcheckPage')).SoundcheckPage }));

export function App({ store, door, autosave }: StartedApp) {
  return (
    <Provider store={store}>
      <DoorContext.Provider value={door}>
        <BrowserRouter>
          <Frame><Pages /></Frame>
          <Conflicts autosave={autosave} />
          <Toaster position="bottom-center" toastOptions={{ style: { background: 'var(--ink)', color: 'var(--ground)', border: 'none', borderRadius: 2, font: 'inherit' } }} />
        </BrowserRouter>
      </DoorContext.Provider>
    </Provider>
  );
}

function Pages() {
  const { status, failure } = useApp(({ show }) => show);
  if (status === 'loading') return <p className="p-6 text-ink2">Opening the show …</p>;
  if (status === 'failed') return <p role="alert" className="named p-6 text-2xl">{failure}</p>;
  return (
    <Suspense fallback={null}>
      <Routes>
        <Route path="/setlist" element={<SetlistPage />} />
        <Route path="/songs" element={<SongsPage />} />
        <Route path="/songs/:songId" element={<SongSheetPage />} />
        <Route path="/timeline" element={<TimelinePage />} />
        <Route path="/timeline/:songId" element={<TimelinePage />} />
        <Route path="/stage" element={<StagePage />} />
        <Route path="/gear" element={<GearPage />} />
        <Route path="/numbers" element={<NumbersPage />} />
        <Route path="/soundcheck" element={<SoundcheckPage />} />
        <Route path="*" element={<Navigate to="/setlist" replace />} />
      </Routes>
    </Suspense>
  );
}
