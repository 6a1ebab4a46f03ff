import { Button } from '../../ui/Button';

/** How far something is that takes its time, and a way to end it. */
export function Progress({
  label,
  done,
  of,
  onCallOff,
}: {
  label: string;
  done: number;
  of: number;
  onCallOff: () => void;
}) {
  return (
    <p className="mt-2 flex items-center gap-3">
      <progress aria-label={label} className="h-2 w-64 accent-[var(--ink)]" value={done} max={Math.max(1, of)} />
      <span className="mono text-sm">
        {done} of {of}
      </span>
      <Button look="plain" onClick={onCallOff}>
        call it off
      </Button>
    </p>
  );
}
