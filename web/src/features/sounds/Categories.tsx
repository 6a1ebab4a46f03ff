import { useState } from 'react';
import { Button } from '../../ui/Button';
import type { SoundOf } from './soundIndex';
import { soundKey } from './soundIndex';
import type { ShelfView } from './useShelf';

/** The player's own categories; the chosen sound is put into them and taken out. */
export function Categories({ shelf, chosen }: { shelf: ShelfView; chosen: { name: string; sound: SoundOf } | null }) {
  const [name, setName] = useState('');
  const add = (): void => {
    if (name.trim() !== '') shelf.addCategory(name.trim().slice(0, 120));
    setName('');
  };
  return (
    <section aria-label="my categories">
      <h2 className="mt-6 text-[13px] font-bold text-ink2">
        my categories
        {chosen && (
          <>
            : <span className="text-ink">{chosen.name}</span>
          </>
        )}
      </h2>
      <ul>
        {shelf.categories.map((category) => (
          <li key={category.name} className="flex min-h-9 items-center gap-2 border-b border-rule">
            <label className="flex min-w-0 flex-1 items-center gap-2">
              <input
                type="checkbox"
                disabled={!chosen}
                checked={chosen !== null && category.sounds.has(soundKey(chosen.sound))}
                onChange={() => {
                  if (chosen) shelf.toggleIn(category.name, chosen.sound);
                }}
              />
              <span className="truncate">{category.name}</span>
            </label>
            <span className="mono text-xs text-ink2">{category.sounds.size}</span>
            <Button
              look="plain"
              aria-label={`remove the category ${category.name}`}
              onClick={() => shelf.removeCategory(category.name)}
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
      <input
        aria-label="new category"
        placeholder="a new one, Enter"
        value={name}
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') add();
        }}
        onBlur={add}
        className="mt-1 w-full border-b border-rule bg-transparent [field-sizing:fixed] focus:border-ink focus:outline-none"
      />
    </section>
  );
}
