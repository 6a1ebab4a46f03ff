import { useMemo } from 'react';
import { Shelf, type ShelfId } from '@rackle/core/show';
import { useApp, useEdit } from '../../state/hooks';
import { soundKey, type SoundOf } from './soundIndex';

const MOST_RECENT = 40;
const THE_SHELF = 'shelf' as ShelfId;

/** Stars, categories and what was used last. */
export interface ShelfView {
  stars: ReadonlySet<string>;
  /** Newest first. */
  recent: readonly string[];
  categories: readonly { name: string; sounds: ReadonlySet<string> }[];
  toggleStar(sound: SoundOf): void;
  /** The shelf with a sound as the one that was used last. */
  withUsed(sound: SoundOf): Shelf;
  addCategory(name: string): void;
  removeCategory(name: string): void;
  toggleIn(category: string, sound: SoundOf): void;
}

const same = (a: SoundOf, b: SoundOf): boolean => a.instrumentId === b.instrumentId && a.presetId === b.presetId;
const toggled = (sounds: Shelf['stars'], sound: SoundOf): Shelf['stars'] =>
  sounds.some((other) => same(other, sound)) ? sounds.filter((other) => !same(other, sound)) : [...sounds, sound];

/** The player's stars, recent sounds and categories, and what changes them. */
export function useShelf(): ShelfView {
  const stored = useApp(({ show }) => Object.values(show.working.shelves)[0] ?? null);
  const edit = useEdit();
  return useMemo(() => {
    const shelf = stored ?? Shelf.parse({ id: THE_SHELF, name: 'Shelf' });
    const change = (label: string, next: Partial<Shelf>): void => edit({ label, shelves: [{ ...shelf, ...next }] });
    return {
      stars: new Set(shelf.stars.map(soundKey)),
      recent: shelf.recent.map(soundKey),
      categories: shelf.categories.map(({ name, sounds }) => ({ name, sounds: new Set(sounds.map(soundKey)) })),
      toggleStar: (sound) =>
        change(shelf.stars.some((other) => same(other, sound)) ? 'take a star away' : 'star a sound', {
          stars: toggled(shelf.stars, sound),
        }),
      withUsed: (sound) => ({
        ...shelf,
        recent: [sound, ...shelf.recent.filter((other) => !same(other, sound))].slice(0, MOST_RECENT),
      }),
      addCategory: (name) => {
        if (!shelf.categories.some((category) => category.name === name))
          change('add a category', { categories: [...shelf.categories, { name: name as Shelf['name'], sounds: [] }] });
      },
      removeCategory: (name) =>
        change('remove a category', { categories: shelf.categories.filter((category) => category.name !== name) }),
      toggleIn: (name, sound) =>
        change('sort a sound', {
          categories: shelf.categories.map((category) =>
            category.name === name ? { ...category, sounds: toggled(category.sounds, sound) } : category,
          ),
        }),
    };
  }, [stored, edit]);
}
