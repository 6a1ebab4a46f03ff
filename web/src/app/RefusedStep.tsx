import { stepSkipped } from '../show/showSlice';
import { useAct, useApp } from '../state/hooks';
import { Button } from '../ui/Button';

/** A step back or forth that cannot be taken stays, says why, and can be passed over. */
export function RefusedStep() {
  const act = useAct();
  const step = useApp(({ show }) => show.refusedStep);
  if (!step) return null;
  return (
    <p role="alert" className="no-print flex items-center gap-3 bg-ink px-4 py-1 text-ground">
      <span>
        Cannot {step.direction} “{step.label}”: {step.why}. Nothing was changed.
      </span>
      <Button look="plain" onClick={() => act(stepSkipped())}>
        pass over this step
      </Button>
    </p>
  );
}
