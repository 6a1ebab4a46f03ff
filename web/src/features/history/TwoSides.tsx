import type { KeyboardEvent, ReactNode } from 'react';

/** A list at the left, what is chosen of it at the right; below one another where there is no room. */
export function TwoSides({ list, children }: { list: ReactNode; children: ReactNode }) {
  return (
    <div className="flex min-h-0 flex-1 max-[899px]:flex-col">
      <div className="w-[460px] shrink-0 overflow-y-auto border-r border-ink px-4 py-2 max-[899px]:max-h-[45%] max-[899px]:w-full max-[899px]:border-b max-[899px]:border-r-0">
        {list}
      </div>
      <section aria-label="what is chosen" className="min-w-0 flex-1 overflow-y-auto px-4 py-3">
        {children}
      </section>
    </div>
  );
}

/** A line of such a list. */
export function Line({
  isChosen,
  onChoose,
  children,
}: {
  isChosen: boolean;
  onChoose: () => void;
  children: ReactNode;
}) {
  return (
    <li>
      <button
        type="button"
        data-line
        aria-current={isChosen ? 'true' : undefined}
        className={`flex min-h-9 w-full items-baseline gap-2 border-b border-rule px-1 py-1 text-left hover:bg-ground2 ${isChosen ? 'bg-ground2 shadow-[inset_3px_0_0_var(--ink)]' : ''}`}
        onClick={onChoose}
        onKeyDown={stepped}
      >
        {children}
      </button>
    </li>
  );
}

/** Arrow keys go from line to line, and choose. */
function stepped(event: KeyboardEvent<HTMLButtonElement>): void {
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
  if (by === 0) return;
  event.preventDefault();
  const lines = [...document.querySelectorAll<HTMLButtonElement>('[data-line]')];
  const next = lines[lines.indexOf(event.currentTarget) + by];
  next?.focus();
  next?.click();
}

/** What stands where there is nothing. */
export const Nothing = ({ children }: { children: ReactNode }) => <p className="py-2 text-ink2">{children}</p>;

/** Why something is not there. */
export const Problem = ({ children }: { children: ReactNode }) => (
  <p role="alert" className="my-2 bg-ink p-2 text-ground">
    {children}
  </p>
);
