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

/**
 * What every page has at its head: the set, the pages, gear, saving, sound, undo, ground, lock, panic. Where there is
 * little room the pages have a line of their own; lock and panic stay where they are.
 */
export function TopLine() {
  const act = useAct();
  const name = useSetlist()?.name ?? 'Rackle';
  const { locked, night } = useApp(({ ui }) => ui);
  const { pathname } = useLocation();
  const onStage = pathname === '/stage';
  const target = onStage ? 'size-16' : 'size-11';
  return (
    <header
      data-focus="player"
      className="no-print flex shrink-0 flex-wrap items-center gap-x-3 border-b border-ink px-4 pt-[3px] max-[699px]:gap-x-1 max-[699px]:px-2 min-[1200px]:flex-nowrap min-[1200px]:pb-[3px]"
    >
      <NavLink
        to="/setlists"
        dir="auto"
        title={`${name}: all setlists`}
        onClick={(event) => locked && event.preventDefault()}
        aria-disabled={locked}
        className="named min-w-24 max-w-52 flex-[0_1_auto] truncate text-[21px] leading-[44px] max-[1199px]:max-w-80 max-[699px]:max-w-none max-[699px]:flex-1"
      >
        {name}
      </NavLink>
      <PageLinks locked={locked} pathname={pathname} />
      <GearState />
      <span className="max-[699px]:hidden">
        <SaveMark />
      </span>
      <span className="max-[699px]:order-4 max-[699px]:basis-full max-[699px]:text-right">
        <SoundButton />
      </span>
      <span className="flex shrink-0 max-[699px]:hidden">
        <Undo locked={locked} />
        <IconButton label={night ? 'Paper' : 'Blackout'} onClick={() => act(toggled('night'))}>
          {night ? <Sun size={16} /> : <Moon size={16} />}
        </IconButton>
      </span>
      <IconButton
        label={locked ? 'Unlock the stage' : 'Lock for the stage'}
        pressed={locked}
        size={target}
        onClick={() => act(toggled('locked'))}
      >
        {locked ? <Lock size={onStage ? 24 : 16} /> : <LockOpen size={onStage ? 24 : 16} />}
      </IconButton>
      <PanicButton onStage={onStage} />
    </header>
  );
}

/** Pages without a link of their own, by the one to which they belong. */
const ALSO: Readonly<Record<string, string>> = { '/songs': '/library', '/setlist': '/setlists' };

/** The pages in the order of the job, with the number of things that need a look there. */
function PageLinks({ locked, pathname }: { locked: boolean; pathname: string }) {
  const marks = useMarks();
  return (
    <nav
      aria-label="pages"
      className="flex h-11 shrink-0 items-stretch gap-3 overflow-x-auto max-[1199px]:order-last max-[1199px]:basis-full max-[1199px]:shrink max-[1199px]:border-t max-[1199px]:border-rule"
    >
      {PAGES.map(([name, path]) => (
        <NavLink
          key={path}
          to={path}
          onClick={(event) => {
            if (locked && path !== pathname) event.preventDefault();
            // One that opens elsewhere, in a tab of its own, changes no page here.
            else if (!pathname.startsWith(path) && !event.ctrlKey && !event.metaKey && !event.shiftKey)
              pageChange.left(event.timeStamp);
          }}
          aria-disabled={locked && !pathname.startsWith(path)}
          className={({ isActive }) => {
            const isHere = isActive || ALSO[path] === pathname;
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
  size = 'h-11 w-8',
  children,
  ...rest
}: {
  label: string;
  pressed?: boolean;
  size?: string;
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
      className={`grid ${size} shrink-0 place-items-center rounded-sm disabled:opacity-30 ${pressed ? 'bg-ink text-ground' : 'hover:bg-ground2'}`}
      {...rest}
    >
      {children}
    </button>
  );
}

/** Which gear list is tonight's, and which of its ports are not there: by name, however small the room. */
function GearState() {
  const gear = useGear();
  const isAlive = useIsAlive();
  const isKnown = useKnowsPorts();
  if (!gear) return <span className="flex-1" />;
  const wanted = gear.ports.filter((port) => port.on);
  const alive = wanted.filter(isAlive).length;
  const missing = [...new Set(wanted.filter((port) => !isAlive(port)).map(({ alias }) => alias as string))];
  return (
    <NavLink
      to="/gear"
      className={`flex min-w-0 flex-1 justify-end gap-1.5 text-[13px] leading-[44px] text-ink2 hover:text-ink max-[699px]:order-4 ${missing.length === 0 ? 'max-[699px]:hidden' : 'max-[699px]:basis-full max-[699px]:justify-start'}`}
      title={missing.length > 0 ? `not here: ${missing.join(', ')}` : undefined}
    >
      <span dir="auto" className="min-w-0 truncate">
        {gear.name}
      </span>
      {isKnown && (
        <span className={`whitespace-nowrap ${missing.length > 0 ? 'max-[1399px]:sr-only' : ''}`}>
          · {alive} of {wanted.length} ports
        </span>
      )}
      {isKnown && missing.length > 0 && (
        <b className="my-auto min-w-20 truncate bg-ink px-1.5 leading-6 text-ground">
          no {missing.slice(0, 2).join(', ')}
          {missing.length > 2 && ` and ${missing.length - 2} more`}
        </b>
      )}
    </NavLink>
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
        className="min-h-11 whitespace-nowrap border border-dashed border-ink px-2 text-[13px] font-bold"
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
