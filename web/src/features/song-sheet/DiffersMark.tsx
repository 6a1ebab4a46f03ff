import { useContext } from 'react';
import { DiffersContext } from '../../state/hooks';

/** On a version of the past: a frame around what is otherwise now. On what stands now it draws nothing. */
export function DiffersMark({ at }: { at: string }) {
  if (!useContext(DiffersContext).has(at)) return null;
  return (
    <span className="pointer-events-none absolute inset-0.5 border-2 border-dotted border-ink" data-differs={at}>
      <span className="sr-only">differs from now</span>
    </span>
  );
}
