import { useEffect, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { RunStrip } from '../features/run-strip/RunStrip';
import { useApp, useHost, useSetlist } from '../state/hooks';
import { fetchedLater } from '../ui/fetchedLater';
import { FootLine } from './FootLine';
import { later } from './later';
import { NewVersion } from './NewVersion';
import type { TakeVersion } from './newVersion';
import { titleOf } from './pages';
import { PlayedElsewhere } from './PlayedElsewhere';
import { RefusedStep } from './RefusedStep';
import { Said, SkipToPage } from './Said';
import { TopLine } from './TopLine';
import { CountersFound } from './CountersFound';
import { Trouble } from './Trouble';
import { useComputerKeys } from './useComputerKeys';
import { useGoAlong } from './useGoAlong';
import { useShortcuts } from './useShortcuts';
import { useWakeLock } from './useWakeLock';

const BenchPanel = fetchedLater(async () => (await later.benchPanel()).BenchPanel);
const MonitorPanel = fetchedLater(async () => (await later.monitorPanel()).MonitorPanel);
const Palette = fetchedLater(async () => (await later.palette()).Palette);
const KeyHelp = fetchedLater(async () => (await later.keyHelp()).KeyHelp);

/** The frame of every page: top line, run strip, the page, bench and monitor, foot line. */
export function Frame({
  children,
  onTakeOver,
  onTakeVersion,
}: {
  children: ReactNode;
  onTakeOver: () => void;
  onTakeVersion: TakeVersion;
}) {
  const host = useHost();
  const { locked, night, monitorOpen, paletteOpen, keysOpen } = useApp(({ ui }) => ui);
  const { pathname } = useLocation();
  const onStage = pathname === '/stage';
  useComputerKeys();
  useShortcuts();
  useWakeLock(locked || onStage);
  useEffect(() => {
    document.documentElement.dataset.ground = onStage || night ? 'blackout' : 'paper';
  }, [onStage, night]);
  const setlistName = useSetlist()?.name ?? null;
  useEffect(() => {
    document.title = [titleOf(pathname), setlistName, 'Rackle'].filter((part) => part !== null).join(' · ');
  }, [pathname, setlistName]);
  const goAlong = useGoAlong();
  const seesMessages = monitorOpen || pathname === '/gear';
  useEffect(() => host.post({ type: 'watch', monitor: seesMessages, meters: true }), [host, seesMessages]);
  return (
    <div className="flex h-full flex-col">
      <SkipToPage />
      <TopLine />
      <Said />
      <CountersFound />
      <PlayedElsewhere onTakeOver={onTakeOver} />
      <NewVersion onTake={onTakeVersion} />
      <RefusedStep />
      <Trouble />
      <RunStrip onGo={goAlong} />
      <WantsRoom pathname={pathname} />
      <main tabIndex={-1} className="min-h-0 flex-1 overflow-auto focus:outline-none">
        {children}
      </main>
      <Panels />
      <FootLine />
      {paletteOpen && <Palette />}
      {keysOpen && <KeyHelp />}
    </div>
  );
}

/** Bench and monitor, under any page. */
function Panels() {
  const { benchOpen, monitorOpen } = useApp(({ ui }) => ui);
  if (!benchOpen && !monitorOpen) return null;
  return (
    <section
      aria-label="bench and monitor"
      className={`no-print flex min-h-56 shrink-0 border-t border-ink bg-ground ${benchOpen && monitorOpen ? 'h-[44vh]' : 'h-[36vh]'}`}
    >
      {benchOpen && <BenchPanel />}
      {monitorOpen && <MonitorPanel />}
    </section>
  );
}

/** Pages that are for a narrow screen as well. */
const NARROW = ['/stage', '/setlist', '/guide', '/library'];

/** What a narrow screen can do with a page, where that is not much. */
function WantsRoom({ pathname }: { pathname: string }) {
  if (NARROW.some((path) => pathname.startsWith(path))) return null;
  return (
    <p className="no-print hidden border-b border-rule px-2 py-1 text-[13px] text-ink2 max-[599px]:block">
      This page wants a wider screen. Stage and setlist are made for this one.
    </p>
  );
}
