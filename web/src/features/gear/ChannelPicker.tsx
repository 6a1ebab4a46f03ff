interface Props {
  label: string;
  /** How “all” reads. */
  none: string;
  value: readonly number[] | null;
  onChange: (channels: number[] | null) => void;
}

/** Sixteen channels to tick; all of them is “every”. */
export function ChannelPicker({ label, none, value, onChange }: Props) {
  const toggle = (channel: number): void => {
    const next =
      value === null
        ? [channel]
        : value.includes(channel)
          ? value.filter((other) => other !== channel)
          : [...value, channel].sort((a, b) => a - b);
    onChange(next.length === 0 || next.length === 16 ? null : next);
  };
  return (
    <span role="group" aria-label={label} className="inline-flex flex-wrap items-center">
      {Array.from({ length: 16 }, (_, i) => i + 1).map((channel) => (
        <button
          key={channel}
          type="button"
          aria-pressed={value?.includes(channel) ?? false}
          onClick={() => toggle(channel)}
          className={`mono grid size-6 place-items-center text-xs ${value?.includes(channel) ? 'bg-ink text-ground' : 'hover:bg-ground2'}`}
        >
          {channel}
        </button>
      ))}
      <span className="ml-2 text-[13px] text-ink2">{value === null ? none : ''}</span>
    </span>
  );
}
