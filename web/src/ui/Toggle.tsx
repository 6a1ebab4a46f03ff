/** A word that is on or off. */
export function Toggle({ on, name, onClick }: { on: boolean; name: string; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={`min-h-9 px-2 ${on ? 'bg-ink font-bold text-ground' : 'underline decoration-dotted underline-offset-4'}`}
    >
      {name}
    </button>
  );
}
