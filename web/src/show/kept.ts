import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { withGone, type KeptBody, type Row } from './rows';

/** What of the kept things changes at one moment, all or nothing. */
export interface Write {
  /** A row that is new, or changed: new ones stand behind all others. */
  rows?: readonly Row[];
  isNew?: boolean;
  gone?: readonly string[];
  bodies?: readonly KeptBody[];
  about?: About;
  answer?: Answer;
}

/** Which data is kept, up to which serial of the server and which tick of this browser. */
export interface About {
  dataId: string;
  /** Of the server's newest save that is kept here. */
  serial: number;
  tick: number;
}

/** What the server answered to an edit: for rows that build on it and were written before that was heard. */
export interface Answer {
  id: string;
  revisions: [key: string, revision: number][];
}

/** What is kept, as it was read. */
export interface Snapshot {
  about: About | null;
  rows: Row[];
  /** Those that changed after the tick that was asked for. */
  bodies: KeptBody[];
  answers: Answer[];
}

/** Where edits are kept until the server has them. */
export interface Kept {
  /** Whether it outlives this window. */
  readonly isLasting: boolean;
  read(sinceTick: number): Promise<Snapshot>;
  /**
   * Begins at once, within the task that calls it; no page that goes afterwards takes it along. Resolves once it is kept.
   * @param isFinal at the end of a gesture: as durable as can be had
   */
  write(what: Write, isFinal: boolean): Promise<void>;
  /** Seals a row, so that it may be sent. @returns it as it stands, or null when it is not there. */
  claim(id: string): Promise<Row | null>;
}

interface Schema extends DBSchema {
  /** By the store's own counter: the order of the rows. */
  order: { key: number; value: string };
  rows: { key: string; value: Row };
  bodies: { key: [string, string]; value: KeptBody; indexes: { tick: number } };
  about: { key: string; value: About };
  answers: { key: number; value: Answer };
}

const STORES = ['order', 'rows', 'bodies', 'about', 'answers'] as const;
const MOST_ANSWERS = 1000;

/** Kept in this browser (IndexedDB). @throws Error when that cannot be opened */
export async function openKept(name = 'rackle'): Promise<Kept> {
  const database = await openDB<Schema>(name, 1, {
    upgrade: (fresh) => {
      fresh.createObjectStore('order', { autoIncrement: true });
      fresh.createObjectStore('rows', { keyPath: 'id' });
      fresh.createObjectStore('bodies', { keyPath: ['kind', 'id'] }).createIndex('tick', 'tick');
      fresh.createObjectStore('about');
      fresh.createObjectStore('answers', { autoIncrement: true });
    },
  });
  return new BrowserKept(database);
}

class BrowserKept implements Kept {
  readonly isLasting = true;

  constructor(private readonly database: IDBPDatabase<Schema>) {}

  async read(sinceTick: number): Promise<Snapshot> {
    const transaction = this.database.transaction(STORES);
    const [order, rows, bodies, about, answers] = await Promise.all([
      transaction.objectStore('order').getAll(),
      transaction.objectStore('rows').getAll(),
      transaction.objectStore('bodies').index('tick').getAll(IDBKeyRange.lowerBound(sinceTick, true)),
      transaction.objectStore('about').get('show'),
      transaction.objectStore('answers').getAll(),
    ]);
    // One that was put in again stands at its last place.
    const places = new Map(order.map((id, place) => [id, place]));
    rows.sort((a, b) => places.get(a.id)! - places.get(b.id)!);
    return { about: about ?? null, rows, bodies, answers };
  }

  write({ rows = [], isNew = false, gone = [], bodies = [], about, answer }: Write, isFinal: boolean): Promise<void> {
    const transaction = this.database.transaction(STORES, 'readwrite', {
      durability: isFinal ? 'strict' : 'relaxed',
    });
    const store = <K extends (typeof STORES)[number]>(of: K) => transaction.objectStore(of);
    // What fails shows at the transaction, which is awaited; each request's own promise says nothing more.
    const asked: Promise<unknown>[] = [];
    for (const id of gone) asked.push(store('rows').delete(id));
    for (const row of rows) asked.push(store('rows').put(row));
    if (isNew) for (const row of rows) asked.push(store('order').put(row.id));
    for (const kept of bodies) asked.push(store('bodies').put(kept));
    if (about) asked.push(store('about').put(about, 'show'));
    if (answer) asked.push(store('answers').put(answer));
    transaction.commit();
    for (const request of asked) request.catch(() => undefined);
    return transaction.done;
  }

  async claim(id: string): Promise<Row | null> {
    const transaction = this.database.transaction(STORES, 'readwrite', { durability: 'strict' });
    const rows = transaction.objectStore('rows');
    const row = await rows.get(id);
    const sealed = row ? { ...row, sealed: true, sent: true } : null;
    if (sealed) await rows.put(sealed);
    // Places of rows that are gone, and answers that nothing builds on any more.
    const there = new Set(await rows.getAllKeys());
    for (let place = await transaction.objectStore('order').openCursor(); place; place = await place.continue())
      if (!there.has(place.value)) await place.delete();
    const old = (await transaction.objectStore('answers').getAllKeys()).slice(0, -MOST_ANSWERS);
    for (const key of old) await transaction.objectStore('answers').delete(key);
    await transaction.done;
    return sealed;
  }
}

/**
 * Where an older state of these data is kept, or none, or other data: this is kept there from now on, and the answers; not
 * the rows.
 */
export async function broughtUp(store: Kept, { about, bodies, answers }: Snapshot): Promise<void> {
  const there = await store.read(0);
  for (const answer of answers) await store.write({ answer }, true);
  if (about === null || (there.about?.dataId === about.dataId && there.about.serial >= about.serial)) return;
  const tick = (there.about?.tick ?? 0) + 1;
  const newer = withGone(bodies, there.bodies).map((one) => ({ ...one, tick }));
  await store.write({ about: { ...about, tick }, bodies: newer }, true);
}

/** Kept nowhere but in this window, where the browser keeps nothing. */
export class MemoryKept implements Kept {
  readonly isLasting = false;
  private about: About | null = null;
  private readonly rows = new Map<string, Row>();
  private readonly bodies = new Map<string, KeptBody>();
  private answers: Answer[] = [];

  constructor(known?: Snapshot) {
    if (!known) return;
    void this.write({ rows: known.rows, bodies: known.bodies, about: known.about ?? undefined });
    this.answers = known.answers;
  }

  read(sinceTick: number): Promise<Snapshot> {
    const { about, answers } = this;
    const bodies = [...this.bodies.values()].filter(({ tick }) => tick > sinceTick);
    return Promise.resolve({ about, rows: [...this.rows.values()], bodies, answers });
  }

  write({ rows = [], gone = [], bodies = [], about, answer }: Write): Promise<void> {
    for (const id of gone) this.rows.delete(id);
    for (const row of rows) this.rows.set(row.id, row);
    for (const kept of bodies) this.bodies.set(`${kept.kind} ${kept.id}`, kept);
    if (about) this.about = about;
    if (answer) this.answers = [...this.answers, answer].slice(-MOST_ANSWERS);
    return Promise.resolve();
  }

  claim(id: string): Promise<Row | null> {
    const row = this.rows.get(id);
    if (!row) return Promise.resolve(null);
    const sealed = { ...row, sealed: true, sent: true };
    this.rows.set(id, sealed);
    return Promise.resolve(sealed);
  }
}
