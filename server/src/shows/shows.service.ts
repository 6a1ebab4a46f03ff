import { Injectable, Inject } from '@nestjs/common';
import {
  SHOW_FORMAT,
  SHOW_VERSION,
  readShowDocument,
  showFaults,
  type GearList,
  type Instrument,
  type LibraryItem,
  type Setlist,
  type Shelf,
  type Show,
  type Song,
} from '@rackle/core';
import type { EntityManager } from 'typeorm';
import type { AggregateStore, Saved } from '../aggregates/aggregate.store';
import { GearListsStore } from '../gear-lists/gear-lists.store';
import { Problem } from '../http/problem';
import { InstrumentsStore } from '../instruments/instruments.store';
import { LibraryItemsStore } from '../library-items/library-items.store';
import { SetlistsStore } from '../setlists/setlists.store';
import { ShelvesStore } from '../shelves/shelves.store';
import { SongsStore } from '../songs/songs.store';
import { Database } from '../storage/database';

export interface SavedShow {
  songs: Saved<Song>[];
  setlists: Saved<Setlist>[];
  instruments: Saved<Instrument>[];
  gearLists: Saved<GearList>[];
  libraryItems: Saved<LibraryItem>[];
  shelves: Saved<Shelf>[];
}

/** The whole show at once: for a page that opens, for the show file in and out. */
@Injectable()
export class ShowsService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(SongsStore) private readonly songs: SongsStore,
    @Inject(SetlistsStore) private readonly setlists: SetlistsStore,
    @Inject(InstrumentsStore) private readonly instruments: InstrumentsStore,
    @Inject(GearListsStore) private readonly gearLists: GearListsStore,
    @Inject(LibraryItemsStore) private readonly libraryItems: LibraryItemsStore,
    @Inject(ShelvesStore) private readonly shelves: ShelvesStore,
  ) {}

  async saved(): Promise<SavedShow> {
    return {
      songs: await this.songs.all(),
      setlists: await this.setlists.all(),
      instruments: await this.instruments.all(),
      gearLists: await this.gearLists.all(),
      libraryItems: await this.libraryItems.all(),
      shelves: await this.shelves.all(),
    };
  }

  async export(): Promise<Show> {
    const saved = await this.saved();
    const bodies = <T>(items: Saved<T>[]): T[] => items.map((item) => item.body);
    return {
      format: SHOW_FORMAT,
      version: SHOW_VERSION,
      songs: bodies(saved.songs),
      setlists: bodies(saved.setlists),
      instruments: bodies(saved.instruments),
      gearLists: bodies(saved.gearLists),
      libraryItems: bodies(saved.libraryItems),
      shelves: bodies(saved.shelves),
    };
  }

  /**
   * Puts a show file in, all of it or nothing. What has the same id takes the place of what was there, which stays in
   * the history.
   * @throws Problem `not-a-show`, `newer-version`, `invalid`, `broken-reference`
   */
  async import(
    document: unknown,
  ): Promise<{ songs: number; setlists: number; instruments: number; gearLists: number }> {
    const read = readShowDocument(document);
    if (!read.ok) throw new Problem(read.error.code, `${read.error.message}. Nothing was changed.`, read.error.path);
    const show = read.value;
    const [fault] = showFaults(show);
    if (fault) throw new Problem('broken-reference', `${fault.message}. Nothing was changed.`, fault.path);
    await this.database.write(async (manager) => {
      await this.put(manager, this.instruments, show.instruments);
      await this.put(manager, this.gearLists, show.gearLists);
      await this.put(manager, this.songs, show.songs);
      await this.put(manager, this.setlists, show.setlists);
      await this.put(manager, this.libraryItems, show.libraryItems);
      await this.put(manager, this.shelves, show.shelves);
    });
    return {
      songs: show.songs.length,
      setlists: show.setlists.length,
      instruments: show.instruments.length,
      gearLists: show.gearLists.length,
    };
  }

  private async put<T extends { id: string; name: string }>(
    manager: EntityManager,
    store: AggregateStore<T>,
    bodies: readonly T[],
  ): Promise<void> {
    for (const body of bodies) {
      const present = await manager.findOneBy(store.about.entity, { id: body.id });
      await store.saveWithin(manager, present?.revision ?? 0, body);
    }
  }
}
