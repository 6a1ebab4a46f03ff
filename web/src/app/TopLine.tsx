import { Lock, LockOpen, Moon, Redo2, Sun, Undo2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { NavLink, useLocation } from 'react-router';
import { redone, undone } from '../show/edits';
import { useAct, useApp, useGear, useHost, useIsAlive, useKnowsPorts, useSetlist } from '../state/hooks';
import { toggled } from '../state/uiSlice';
import { pageChange } from './pageChange';
import { PAGES } from './pages';
import { PanicButton } from './PanicButton';
import { SaveMark } from './SaveMark';
import { useMarks } from './useMarks';

const LONG_NAME = 18;

/** What every page has at its head: the set, the pages, gear, saving, sound, undo, ground, lock, panic. */
export function TopLine() {
  const act = useAct();
  const name = useSetlist()?.name;
  const { locked, night } = useApp(({ ui }) => ui);
  const { pathname } = useLocation();
  return (
    <header
      data-focus="player"
      className="no-print flex h-11 shrink-0 items-center gap-3 border-b border-ink px-4 max-[1199px]:h-auto max-[1199px]:flex-wrap max-[1199px]:gap-y-0"
    >
      <SetlistName name={name ?? 'Rackle'} />
      <PageLinks locked={locked} pathname={pathname} />
      <span className="ml-auto" />
      <GearState />
      <SaveMark />
      <SoundButton />
      <Undo locked={locked} />
      <IconButton label={night ? 'Paper' : 'Blackout'} onClick={() => act(toggled('night'))}>
        {night ? <Sun size={16} /> : <Moon size={16} />}
      </IconButton>
      <IconButton
        label={locked ? 'Unlock the stage' : 'Lock for the stage'}
        pressed={locked}
        onClick={() => act(toggled('locked'))}
      >
        {locked ? <Lock size={16} /> : <LockOpen size={16} />}
      </IconButton>
      <PanicButton />
    </header>
  );
}

/** A long name takes two lines. */
function SetlistName({ name }: { name: string }) {
  return (
    <span
      className={`named ${name.length > LONG_NAME ? 'line-clamp-2 min-w-32 max-w-44 text-[17px] leading-[17px]' : 'min-w-24 truncate text-[21px]'}`}
      title={name}
    >
      {name}
    </span>
  );
}

/** The pages in the order of the job, with the number of things that need a look there. */
function PageLinks({ locked, pathname }: { locked: boolean; pathname: string }) {
  const marks = useMarks();
  return (
    <nav aria-label="pages" className="flex h-11 shrink-0 items-stretch gap-3">
      {PAGES.map(([name, path]) => (
        <NavLink
          key={path}
          to={path}
          onClick={(event) => {
            if (locked && path !== pathname) event.preventDefault();
            else if (!pathname.startsWith(path)) pageChange.left(event.timeStamp);
          }}
          aria-disabled={locked && !pathname.startsWith(path)}
          className={({ isActive }) => {
            const isHere = isActive || (path === '/songs' && pathname === '/library');
            return `flex items-center border-b-[3px] pt-[3px] ${isHere ? 'border-ink' : 'border-transparent text-ink2 hover:text-ink'} ${locked && !isHere ? 'opacity-40' : ''}`;
          }}
        >
          {name}
          {marks[path] && (
            <sup className="mono ml-0.5 text-[11px] font-bold text-ink" title={marks[path].about}>
              {marks[path].count}
              <span className="sr-only"> ({marks[path].about})</span>
            </sup>
          )}
        </NavLink>
      ))}
    </nav>
  );
}

function Undo({ locked }: { locked: boolean }) {
  const act = useAct();
  const last = useApp(({ show }) => show.past.at(-1)?.edit.label ?? null);
  const canRedo = useApp(({ show }) => show.future.length > 0);
  return (
    <>
      <IconButton
        label={`Undo${last === null ? '' : `: ${last}`}`}
        disabled={last === null || locked}
        onClick={() => act(undone())}
      >
        <Undo2 size={16} />
      </IconButton>
      <IconButton label="Redo" disabled={!canRedo || locked} onClick={() => act(redone())}>
        <Redo2 size={16} />
      </IconButton>
    </>
  );
}

function IconButton({
  label,
  pressed,
  children,
  ...rest
}: {
  label: string;
  pressed?: boolean;
  disabled?: boolean;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={pressed}
      title={label}
      className={`grid h-8 w-7 shrink-0 place-items-center rounded-sm disabled:opacity-30 ${pressed ? 'bg-ink text-ground' : 'hover:bg-ground2'}`}
      {...rest}
    >
      {children}
    </button>
  );
}

function GearState() {
  const gear = useGear();
  const isAlive = useIsAlive();
  const isKnown = useKnowsPorts();
  if (!gear) return null;
  const wanted = gear.ports.filter((port) => port.on);
  const alive = wanted.filter(isAlive).length;
  return (
    <span className="min-w-0 truncate text-[13px] text-ink2">
      <NavLink to="/gear" className="hover:text-ink">
        {gear.name}
      </NavLink>
      {isKnown && (
        <>
          {' '}
          ·{' '}
          <span className={alive < wanted.length ? 'font-bold text-ink' : ''}>
            {alive} of {wanted.length} ports
          </span>
        </>
      )}
    </span>
  );
}

const SOUND_WORDS = {
  off: 'Start sound (S)',
  starting: 'Starting …',
  waits: 'Sound waits for a click',
  failed: 'No sound: try again',
};

function SoundButton() {
  const host = useHost();
  const sound = useApp(({ live }) => live.sound.sound);
  const output = useApp(({ live }) => live.levels?.output ?? null);
  if (sound !== 'on') {
    return (
      <button
        type="button"
        onClick={() => host.post({ type: 'startSound' })}
        className="min-h-8 whitespace-nowrap border border-dashed border-ink px-2 text-[13px] font-bold"
      >
        {SOUND_WORDS[sound]}
      </button>
    );
  }
  const share = output ? Math.max(0, Math.min(1, (output.peakDb + 60) / 60)) : 0;
  return (
    <span
      role="meter"
      aria-label="output level"
      aria-valuemin={-60}
      aria-valuemax={0}
      aria-valuenow={Math.max(-60, output?.peakDb ?? -60)}
      className="flex items-center gap-1.5 text-[13px] text-ink2"
    >
      sound
      <span className="relative h-2.5 w-16 bg-ground2">
        <span className="absolute inset-y-0 left-0 bg-ink" style={{ width: `${share * 100}%` }} />
      </span>
      {output?.clipped && <b className="bg-ink px-1 text-ground">clip</b>}
    </span>
  );
}
