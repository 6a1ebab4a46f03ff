import { Button } from '../../ui/Button';

/** How far something is that takes its time, and a way to end it. Of nothing: it is not yet known of how much. */
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
      <progress aria-label={label} className="h-2 w-64 accent-[var(--ink)]" {...(of > 0 && { value: done, max: of })} />
      <span className="mono text-sm">{of > 0 ? `${done} of ${of}` : 'getting ready'}</span>
      <Button look="plain" onClick={onCallOff}>
        call it off
      </Button>
    </p>
  );
}
