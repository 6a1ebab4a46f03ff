import { useState, type CSSProperties, type KeyboardEvent } from 'react';

interface Props<N extends string> {
  value: N;
  label: string;
  /** Gets a text that is not empty, without blanks at its ends. */
  onChange: (value: N) => void;
  className?: string;
  /** Says what is wrong with a text, or null; a wrong one is not taken. */
  check?: (text: string) => string | null;
  /** Without one it is as wide as its text. */
  width?: string;
  /** It is the main heading of its page. */
  heading?: boolean;
}

/** Text edited in its place: Enter keeps, Escape brings back what was there. A wrong text stays, and says why. */
export function EditableText<N extends string>({
  value,
  label,
  onChange,
  className = '',
  check,
  width,
  heading = false,
}: Props<N>) {
  const [draft, setDraft] = useState<string | null>(null);
  const wrong = draft === null ? null : draft.trim() === '' ? 'a name is needed' : (check?.(draft) ?? null);
  const keep = (): void => {
    // A wrong one stays, and says why, until it is put right or taken back.
    if (wrong !== null) return;
    if (draft !== null && draft.trim() !== value) onChange(draft.trim() as N);
    setDraft(null);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>): void => {
    if (event.key === 'Enter') event.currentTarget.blur();
    if (event.key === 'Escape') {
      setDraft(null);
      event.stopPropagation();
    }
  };
  const Box = heading ? 'h1' : 'span';
  return (
    <Box
      className={`relative inline-block max-w-full ${className}`}
      style={{ width }}
      aria-label={heading ? value : undefined}
    >
      <input
        dir="auto"
        aria-label={label}
        aria-invalid={wrong !== null}
        style={{ fieldSizing: width === undefined ? 'content' : 'fixed' } as CSSProperties}
        className={`${width === undefined ? 'min-w-8 max-w-full' : 'w-full min-w-0'} truncate border-b border-transparent bg-transparent hover:border-rule focus:border-ink focus:outline-none`}
        value={draft ?? value}
        onChange={(event) => setDraft(event.target.value)}
        onFocus={() => setDraft((before) => before ?? value)}
        onBlur={keep}
        onKeyDown={onKeyDown}
        spellCheck={false}
      />
      {wrong !== null && (
        <span
          role="alert"
          className="absolute left-0 top-full z-10 whitespace-nowrap bg-ink font-[family-name:var(--font-text)] px-1.5 py-0.5 text-xs text-ground"
        >
          {wrong}; still “{value}” (Esc)
        </span>
      )}
    </Box>
  );
}
