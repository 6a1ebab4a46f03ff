import type { KeyboardEvent } from 'react';

const STEPS: Readonly<Record<string, number | undefined>> = {
  ArrowRight: 1,
  ArrowDown: 1,
  ArrowLeft: -1,
  ArrowUp: -1,
};

/** Presets one after the other, like words; the arrow keys go through them, and each is heard. */
export function PresetWords({
  title,
  presets,
  chosen,
  onChoose,
}: {
  title: string;
  presets: readonly { id: string; name: string }[];
  chosen: string;
  onChoose: (id: string) => void;
}) {
  const step = (event: KeyboardEvent<HTMLUListElement>): void => {
    const by = STEPS[event.key];
    const next = by === undefined ? undefined : presets[presets.findIndex(({ id }) => id === chosen) + by];
    if (!next) return;
    event.preventDefault();
    onChoose(next.id);
    event.currentTarget.querySelectorAll('button')[presets.indexOf(next)]?.focus();
  };
  return (
    <section aria-label={title} className="mt-2">
      <h2 className="text-[13px] font-bold text-ink2">{title}</h2>
      <ul className="-ml-2 flex flex-wrap" onKeyDown={step}>
        {presets.map((preset) => (
          <li key={preset.id}>
            <button
              type="button"
              aria-pressed={preset.id === chosen}
              onClick={() => onChoose(preset.id)}
              className={`named min-h-11 px-2 text-[21px] ${preset.id === chosen ? 'bg-ink text-ground' : 'hover:bg-ground2'}`}
            >
              {preset.name}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
