// What the first page does not need. It is fetched right after it all the same: on stage the server may be gone.
import { firstPageIsThere } from '../ui/fetchedLater';

/** What the first page does not need: fetched after it, each once. */
export const later = {
  songSheetPage: () => import('../features/song-sheet/SongSheetPage'),
  songsPage: () => import('../features/song-sheet/SongsPage'),
  soundsPage: () => import('../features/sounds/SoundsPage'),
  instrumentPage: () => import('../features/sounds/InstrumentPage'),
  stagePage: () => import('../features/stage/StagePage'),
  setlistsPage: () => import('../features/setlist/SetlistsPage'),
  guidePage: () => import('../features/guide/GuidePage'),
  timelinePage: () => import('../features/timeline/TimelinePage'),
  gearPage: () => import('../features/gear/GearPage'),
  numbersPage: () => import('../features/numbers/NumbersPage'),
  controllerSheetsPage: () => import('../features/numbers/ControllerSheetsPage'),
  historyPage: () => import('../features/history'),
  asItWas: () => import('./AsItWas'),
  printPage: () => import('../features/print/PrintPage'),
  soundcheckPage: () => import('../features/soundcheck/SoundcheckPage'),
  benchPanel: () => import('../features/bench/BenchPanel'),
  monitorPanel: () => import('../features/monitor/MonitorPanel'),
  palette: () => import('./Palette'),
  keyHelp: () => import('./KeyHelp'),
  loadingChart: () => import('../features/soundcheck/LoadingChart'),
  setlistSide: () => import('../features/setlist/SetlistSide'),
  eveningPicture: () => import('../features/setlist/EveningPicture'),
  memoryChart: () => import('../features/setlist/MemoryChart'),
  addSong: () => import('../features/setlist/AddSong'),
  openShowFile: () => import('../features/setlist/OpenShowFile'),
  words: () => import('sonner'),
  keeping: () => import('./Keeping'),
  followLengths: () => import('../state/followLengths'),
  followLoads: () => import('../state/followLoads'),
  proving: () => import('../checks/proving'),
};

/**
 * Fetches everything once the first page has had its time; the host fetches what it is made of by itself, and says so.
 * What cannot be fetched now is tried when it is wanted.
 */
export async function fetchRest(host: Promise<unknown>): Promise<void> {
  await firstPageIsThere;
  await Promise.all([...Object.values(later).map((fetchOne) => fetchOne()), host]);
  // Said on the document, for whoever wants to know whether the server may go now.
  document.documentElement.dataset.fetched = 'all';
}
