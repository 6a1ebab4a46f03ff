interface Props {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  /** Words at its two ends. */
  ends?: readonly [string, string];
  show?: (value: number) => string;
  onChange: (value: number) => void;
}

/** A value on a ruled line, with a mark at its middle where it has one. Moved by pointer and by the arrow keys. */
export function Slide({ label, value, min, max, step = 1, ends, show = String, onChange }: Props) {
  const middle = min < 0 && max > 0 ? (-min / (max - min)) * 100 : null;
  return (
    <label className="grid grid-cols-[7rem_4.5rem_1fr_6.5rem_3.5rem] items-center gap-3 py-0.5">
      <span className="truncate">{label}</span>
      <span className="text-right text-[13px] text-ink2">{ends?.[0]}</span>
      <span className="relative flex items-center">
        {middle !== null && (
          <span
            aria-hidden
            className="absolute top-1/2 h-3 w-px -translate-y-1/2 bg-ink2"
            style={{ left: `${middle}%` }}
          />
        )}
        <input
          type="range"
          aria-label={label}
          min={min}
          max={max}
          step={step}
          value={value}
          onChange={(event) => onChange(Number(event.target.value))}
          className="slide relative h-9 w-full"
        />
      </span>
      <span className="text-[13px] text-ink2">{ends?.[1]}</span>
      <span className="mono text-right text-[13px]">{show(value)}</span>
    </label>
  );
}
