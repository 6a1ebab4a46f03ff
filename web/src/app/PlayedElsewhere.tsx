import { Button } from '../ui/Button';
import { useApp } from '../state/hooks';

/** Of all windows one plays: the others say so, and offer to. */
export function PlayedElsewhere({ onTakeOver }: { onTakeOver: () => void }) {
  const isElsewhere = useApp(({ live }) => live.host.where === 'elsewhere');
  if (!isElsewhere) return null;
  return (
    <p role="status" className="no-print flex items-center gap-3 border-b border-ink bg-ground2 px-4 py-1.5">
      <b>Rackle plays in the other window.</b>
      <span className="text-ink2">This one shows and edits the show.</span>
      <Button onClick={onTakeOver}>Play here</Button>
    </p>
  );
}
