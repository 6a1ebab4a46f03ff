import { troubleSeen } from '../live/liveSlice';
import { useAct, useApp } from '../state/hooks';
import { Button } from '../ui/Button';

/** What the running side has to say that a player should read: it stays until it has been seen. */
export function Trouble() {
  const act = useAct();
  const trouble = useApp(({ live }) => live.trouble);
  if (trouble === null) return null;
  return (
    <p role="alert" className="no-print flex items-center gap-3 bg-ink px-4 py-1 text-ground">
      <span>{trouble}</span>
      <Button look="plain" onClick={() => act(troubleSeen())}>
        seen
      </Button>
    </p>
  );
}
