import { clockTime } from '../ui/clockTime';
import { useAct, useApp } from '../state/hooks';
import { toggled } from '../state/uiSlice';

/** What the frame says of saving, always true; where something waits for the player, it opens that. */
export function SaveMark() {
  const act = useAct();
  const { kind, at, isAway, waiting, message, isOnlyHere } = useApp(({ show }) => show.saveState);
  const conflicts = useApp(({ show }) => show.held.filter(({ why }) => why === 'conflict').length);
  const refused = useApp(({ show }) => show.held.filter(({ why }) => why === 'refused').length);
  const others = useApp(({ show }) => show.held.filter(({ why }) => why === 'otherData').length);
  const unreadable = useApp(({ show }) => show.unreadable.length);
  const words = [
    ...(isOnlyHere ? ['only in this window'] : []),
    ...(conflicts > 0 ? [`${conflicts} changed elsewhere`] : []),
    ...(refused > 0 ? [`${refused} refused`] : []),
    ...(unreadable > 0 ? [`${unreadable} cannot be read`] : []),
    ...(others > 0 ? [`${others} of another folder`] : []),
    ...(kind === 'waiting' ? [`not saved: ${waiting} waiting`] : []),
  ];
  const saved = at === null ? 'saved' : `saved ${clockTime(at)}`;
  const calm = kind === 'saving' ? 'saving …' : isAway ? `${saved}, without the server` : saved;
  const opens = conflicts + refused + others + unreadable > 0;
  const loud = words.length > 0;
  // Trouble takes two lines, so that panic and lock stay on the screen.
  const look = `text-[13px] ${loud ? 'max-w-24 shrink-0 bg-ink px-1.5 py-0.5 font-bold leading-[15px] text-ground' : 'whitespace-nowrap text-ink2'}`;
  return (
    <span role="status" data-testid="save-state" title={message ?? undefined} className={look}>
      {opens ? (
        <button type="button" className="min-h-8 text-left" onClick={() => act(toggled('keepingOpen'))}>
          {words.join(' · ')}
        </button>
      ) : loud ? (
        words.join(' · ')
      ) : (
        calm
      )}
    </span>
  );
}
