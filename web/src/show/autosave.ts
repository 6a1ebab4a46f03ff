import { GearList, Instrument, LibraryItem, Setlist, Shelf, Song, setlistWithActionKinds } from '@rackle/core';
import type { Conflict, SaveState, Working } from './showSlice';
import { KINDS, save as saveToServer, type Kind, type SaveOutcome, type SavedShow } from './api';

const SETTLE_MS = 350;
const RETRY_MS = [1000, 2000, 4000, 8000, 15_000];
/** Songs before the setlists that point at them. */
const ORDER: readonly Kind[] = ['instruments', 'gearLists', 'songs', 'setlists', 'libraryItems', 'shelves'];
const SCHEMAS = {
  songs: Song,
  setlists: Setlist,
  instruments: Instrument,
  gearLists: GearList,
  libraryItems: LibraryItem,
  shelves: Shelf,
};
const UNSAVED_KEY = 'rackle.unsaved';

export interface AutosaveParts {
  read: () => Working;
  onState: (state: SaveState) => void;
  onConflict: (conflict: Conflict) => void;
  save?: (kind: Kind, id: string, revision: number, body: object | null) => Promise<SaveOutcome>;
  storage?: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;
  nowMs?: () => number;
}

interface Known {
  revision: number;
  /** What the server has; null: nothing. */
  body: object | null;
}

/**
 * Saves every edit by itself. What the server does not take now waits, also over a reload (kept in this browser),
 * and is tried again; what was changed elsewhere is put to the player, never overwritten.
 */
export class Autosave {
  private readonly known = new Map<string, Known>();
  private readonly held = new Set<string>();
  private timer: ReturnType<typeof setTimeout> | null = null;
  private running = false;
  private failures = 0;
  private savedAt: number | null = null;
  private refusal: string | null = null;
  private readonly refusedBodies = new WeakSet<object>();

  constructor(private readonly parts: AutosaveParts) {}

  /** Takes up what the server has; gives back what an earlier page could not save. */
  start(show: SavedShow): Partial<Working> {
    for (const kind of KINDS)
      for (const { revision, body } of show[kind]) this.known.set(`${kind} ${body.id}`, { revision, body });
    return this.readUnsaved();
  }

  /** The show has changed: save soon. */
  touch(): void {
    const waiting = this.changes().length;
    this.keepUnsaved();
    if (waiting > 0 && !this.running) this.tell('saving');
    this.schedule(SETTLE_MS);
  }

  /** The player chose: their version (true) is saved over the other, or (false) the other is taken. */
  resolve({ kind, id, theirs }: Conflict, ours: boolean): void {
    this.known.set(`${kind} ${id}`, { revision: theirs.revision, body: ours ? {} : (theirs.body as object | null) });
    this.held.delete(`${kind} ${id}`);
    this.schedule(0);
  }

  private schedule(delayMs: number): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.run(), delayMs);
  }

  /** Everything that differs from what the server has, in the order in which it must be saved. */
  private changes(): { kind: Kind; id: string; body: object | null }[] {
    const working = this.parts.read();
    const found: { kind: Kind; id: string; body: object | null }[] = [];
    for (const kind of ORDER) {
      for (const [id, body] of Object.entries(working[kind]))
        if (this.known.get(`${kind} ${id}`)?.body !== body && !this.refusedBodies.has(body))
          found.push({ kind, id, body });
    }
    for (const kind of [...ORDER].reverse()) {
      for (const [key, { body }] of this.known)
        if (body !== null && key.startsWith(`${kind} `) && !(key.slice(kind.length + 1) in working[kind]))
          found.push({ kind, id: key.slice(kind.length + 1), body: null });
    }
    return found.filter(({ kind, id }) => !this.held.has(`${kind} ${id}`));
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    this.refusal = null;
    let away: string | null = null;
    for (let changes = this.changes(); changes.length > 0 && away === null; changes = this.changes()) {
      this.tell('saving');
      away = await this.saveOne(changes[0]);
    }
    this.running = false;
    this.keepUnsaved();
    if (away !== null) {
      this.tell('waiting', away);
      return this.schedule(RETRY_MS[Math.min(this.failures++, RETRY_MS.length - 1)]);
    }
    this.failures = 0;
    if (this.held.size > 0) this.tell('stale', 'It was changed elsewhere in the meantime.');
    else if (this.refusal !== null) this.tell('refused', this.refusal);
    else this.tell('saved');
  }

  /** @returns why the server is away, or null. */
  private async saveOne({ kind, id, body }: { kind: Kind; id: string; body: object | null }): Promise<string | null> {
    const key = `${kind} ${id}`;
    const outcome = await (this.parts.save ?? saveToServer)(kind, id, this.known.get(key)?.revision ?? 0, body);
    switch (outcome.kind) {
      case 'saved':
        this.known.set(key, { revision: outcome.revision, body });
        this.savedAt = (this.parts.nowMs ?? Date.now)();
        return null;
      case 'stale':
        this.held.add(key);
        this.parts.onConflict({ kind, id, theirs: { revision: outcome.revision, body: outcome.body } });
        return null;
      case 'refused':
        this.refusal = outcome.message;
        // Not tried again as it is; the next change to it is.
        if (body === null) this.held.add(key);
        else this.refusedBodies.add(body);
        return null;
      case 'away':
        return outcome.message;
    }
  }

  private tell(kind: SaveState['kind'], message: string | null = null): void {
    this.parts.onState({ kind, at: this.savedAt, waiting: this.changes().length, message });
  }

  /** Keeps what is not saved in this browser, so that closing the page loses nothing. */
  private keepUnsaved(): void {
    const storage = this.parts.storage ?? globalThis.localStorage;
    const changes = this.changes()
      .filter((change) => change.body !== null)
      .map((change) => ({ ...change, revision: this.known.get(`${change.kind} ${change.id}`)?.revision ?? 0 }));
    try {
      if (changes.length === 0) storage.removeItem(UNSAVED_KEY);
      else storage.setItem(UNSAVED_KEY, JSON.stringify(changes));
    } catch {
      // No room in this browser: the edits are still on the page, and "waiting" says that they are not saved.
    }
  }

  private readUnsaved(): Partial<Working> {
    const storage = this.parts.storage ?? globalThis.localStorage;
    const unsaved: Partial<Working> = {};
    try {
      const changes = JSON.parse(storage.getItem(UNSAVED_KEY) ?? '[]') as {
        kind: Kind;
        id: string;
        body: object;
        revision: number;
      }[];
      for (const { kind, id, body, revision } of changes) {
        // It may have been written by an older page: what that did not know yet has defaults.
        const read = SCHEMAS[kind].safeParse(kind === 'setlists' ? setlistWithActionKinds(body) : body);
        if (!read.success) continue;
        (unsaved[kind] ??= {} as never)[id as never] = read.data as never;
        // It was made to that revision: if another window has saved since, the server says so, and the player chooses.
        this.known.set(`${kind} ${id}`, { revision, body: this.known.get(`${kind} ${id}`)?.body ?? null });
      }
    } catch {
      storage.removeItem(UNSAVED_KEY);
    }
    return unsaved;
  }
}
