import type { LevelMeasured } from '@rackle/core/soundcheck';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { BUILD } from '../protocol';

/** What was measured of takes, by their keys, over all visits. */
export interface KeptLevels {
  read(): Promise<ReadonlyMap<string, LevelMeasured>>;
  /** What is kept already under that key is another one from then on. */
  write(key: string, measured: LevelMeasured): Promise<void>;
}

/** More than that of takes is not kept: what comes then takes the place of all of it. */
const MOST_KEPT = 5000;

interface Schema extends DBSchema {
  levels: { key: string; value: LevelMeasured };
  about: { key: 'build'; value: string };
}

/**
 * Kept in this browser (IndexedDB). Another version of Rackle may sound otherwise: what an older one has measured is
 * forgotten. Where nothing can be kept, nothing is.
 */
export class BrowserLevels implements KeptLevels {
  private database: Promise<IDBPDatabase<Schema> | null> | null = null;

  constructor(
    private readonly name = 'rackle-levels',
    private readonly build = BUILD,
  ) {}

  async read(): Promise<ReadonlyMap<string, LevelMeasured>> {
    const database = await this.opened();
    if (database === null) return new Map();
    const [keys, values] = await Promise.all([database.getAllKeys('levels'), database.getAll('levels')]);
    return new Map(keys.map((key, i) => [key, values[i]]));
  }

  async write(key: string, measured: LevelMeasured): Promise<void> {
    const database = await this.opened();
    if (database === null) return;
    const change = database.transaction('levels', 'readwrite');
    if ((await change.store.count()) >= MOST_KEPT) await change.store.clear();
    await change.store.put(measured, key);
    await change.done;
  }

  private opened(): Promise<IDBPDatabase<Schema> | null> {
    this.database ??= this.open().catch(() => null);
    return this.database;
  }

  private async open(): Promise<IDBPDatabase<Schema>> {
    const database = await openDB<Schema>(this.name, 1, {
      upgrade: (fresh) => {
        fresh.createObjectStore('levels');
        fresh.createObjectStore('about');
      },
    });
    const change = database.transaction(['levels', 'about'], 'readwrite');
    if ((await change.objectStore('about').get('build')) !== this.build) {
      await change.objectStore('levels').clear();
      await change.objectStore('about').put(this.build, 'build');
    }
    await change.done;
    return database;
  }
}
