import { useState, type KeyboardEvent } from 'react';

interface Props {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  unit?: string;
  onChange: (value: number) => void;
  /** How the value reads when it is not being typed. */
  show?: (value: number) => string;
  /** How a typed text is read; null when it cannot be. */
  read?: (text: string) => number | null;
  /** The form in which it is typed, in words, where it is no plain number: “bar : beat + ticks”. */
  form?: string;
  className?: string;
}

const plainNumber = (text: string): number | null => {
  const value = Number(
    text
      .replace(',', '.')
      .replace('−', '-')
      .replace(/[^\d.+-]/g, ''),
  );
  return text.trim() === '' || !Number.isFinite(value) ? null : value;
};

const expected = (form: string | undefined, range: string): string =>
  form === undefined ? `${range} is expected` : `${form} is expected, ${range}`;

/**
 * A number edited in place: typed, or moved by the arrow keys (with Shift ten times as far). What cannot be read or is
 * out of range is not taken: it stays, says what is expected and what still holds, and Escape brings that back.
 */
export function NumberField({
  label,
  value,
  min,
  max,
  step = 1,
  unit = '',
  onChange,
  show = String,
  read = plainNumber,
  form,
  className = '',
}: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const typed = draft === null ? value : read(draft);
  const wrong = typed === null || typed < min || typed > max ? expected(form, `${show(min)} to ${show(max)}`) : null;
  const keep = (): void => {
    // A wrong entry stays, and says why, until it is put right or taken back.
    if (wrong !== null) return;
    if (draft !== null && typed !== null && typed !== value) onChange(typed);
    setDraft(null);
  };
  const nudge = (by: number): void => {
    setDraft(null);
    const next = Math.min(max, Math.max(min, Math.round((value + by) * 1000) / 1000));
    if (next !== value) onChange(next);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>): void => {
    if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      nudge((event.key === 'ArrowUp' ? step : -step) * (event.shiftKey ? 10 : 1));
    } else if (event.key === 'Enter') event.currentTarget.blur();
    else if (event.key === 'Escape') {
      setDraft(null);
      event.stopPropagation();
    }
  };
  const text = draft ?? `${show(value)}${unit}`;
  return (
    <span className="relative inline-block">
      <input
        aria-label={label}
        aria-invalid={wrong !== null}
        inputMode="decimal"
        size={Math.max(1, text.length)}
        className={`min-w-[1.5ch] max-w-full written bg-transparent leading-tight focus:outline-none ${className}`}
        value={text}
        onChange={(event) => setDraft(event.target.value)}
        onFocus={(event) => event.target.select()}
        onBlur={keep}
        onKeyDown={onKeyDown}
      />
      {wrong !== null && (
        <span
          role="alert"
          className="absolute left-0 top-full z-20 max-w-72 bg-ink px-1.5 py-0.5 text-left font-[family-name:var(--font-text)] text-xs font-normal not-italic leading-4 text-ground [width:max-content]"
        >
          {wrong}; still {show(value)}
          {unit} (Esc)
        </span>
      )}
    </span>
  );
}
