/** A word that is on or off. */
export function Toggle({
  on,
  name,
  disabled,
  title,
  onClick,
}: {
  on: boolean;
  name: string;
  disabled?: boolean;
  title?: string;
  onClick: () => void;
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      disabled={disabled}
      title={title}
      onClick={onClick}
      className={`min-h-9 px-2 disabled:opacity-40 ${on ? 'bg-ink font-bold text-ground' : 'underline decoration-dotted underline-offset-4'}`}
    >
      {name}
    </button>
  );
}
