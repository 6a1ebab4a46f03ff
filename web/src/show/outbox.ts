import {
  KIND_NAMES,
  SHOW_VERSION,
  applied,
  folded,
  noBodies,
  sameBody,
  type Bodies,
  type Body,
  type Change,
  type Edit,
  type Kind,
} from '@rackle/core/show';
import { sendAside, sendEdit, type SavedShow, type SendOutcome } from './api';
import { MemoryKept, type About, type Answer, type Kept, type Write } from './kept';
import {
  baseOf,
  blockedBy,
  foldedRow,
  foldedTogether,
  isOf,
  keyOf,
  migratedRow,
  nextOf,
  showOf,
  towards,
  type KeptBody,
  type Next,
  type Row,
} from './rows';

/** What the frame says of saving. */
export interface SaveState {
  kind: 'saved' | 'saving' | 'waiting' | 'conflict' | 'refused';
  /** ms since 1970, of the last save; null before the first. */
  at: number | null;
  /** The server does not answer. */
  isAway: boolean;
  /** Edits that wait. */
  waiting: number;
  message: string | null;
  /** The browser keeps nothing: what waits is nowhere but in this window. */
  isOnlyHere: boolean;
}

/** An edit that is held until the player has settled it, or that was made for another data folder. */
export interface HeldEdit {
  id: string;
  label: string;
  why: 'conflict' | 'refused' | 'otherData';
  message: string | null;
  items: { kind: Kind; id: string; before: Body | null; ours: Body | null; theirs: Body | null }[];
}

export interface OutboxView {
  saveState: SaveState;
  held: HeldEdit[];
}

/** What the windows tell each other: that something of what is kept has changed. Only a hint. */
interface Windows {
  announce(): void;
  onHint(act: () => void): void;
  /** Runs alone among all windows of this browser. */
  alone(work: () => Promise<void>): Promise<void>;
  /** Whether the window of this id is still there. */
  living(): Promise<ReadonlySet<string>>;
}

export interface OutboxParts {
  windowId: string;
  newId: () => string;
  windows: Windows;
  /** What the pages show has to change so. */
  onShow: (changes: Change[]) => void;
  onView: (view: OutboxView) => void;
  /** Whether a pointer is down: a gesture goes on. */
  pointerIsDown: () => boolean;
  send?: typeof sendEdit;
  setAside?: typeof sendAside;
  nowMs?: () => number;
}

type NewBody = Omit<KeptBody, 'tick'>;

const NOTHING_HELD: HeldEdit[] = [];
const MOST_ROWS = 500;
const GESTURE_MS = 1000;
const WRITE_EVERY_MS = 250;
const RETRY_MS = [1000, 2000, 4000, 8000, 15_000, 30_000];

/**
 * Keeps every edit in this browser from the moment in which it is made until the server has it. One window at a time
 * sends; all see what waits. What the server does not take now is tried again; what was changed elsewhere is put to the
 * player, never written over.
 */
export class Outbox {
  private about: About = { dataId: '', serial: 0, tick: 0 };
  private readonly kept = new Map<string, KeptBody>();
  private knownTick = 0;
  private rows: Row[] = [];
  private answers = new Map<string, Map<string, number>>();
  /** What the pages show, as far as this knows. */
  private shown: Bodies = noBodies();
  /** Rows of this window that are not kept yet, or were not when a read began. */
  private readonly fresh = new Map<string, { row: Row; keptAt: number }>();
  private readonly forgotten = new Set<string>();
  private clock = 0;
  /** The row of the gesture that goes on. */
  private open: { id: string; timer: ReturnType<typeof setTimeout>; writtenAtMs: number } | null = null;
  private living: ReadonlySet<string> = new Set();
  private sending = false;
  private failures = 0;
  private retry: ReturnType<typeof setTimeout> | null = null;
  private away: string | null = null;
  /** The server has said what it has. */
  private isMet = true;
  private savedAt: number | null = null;
  private told: OutboxView | null = null;
  private store: Kept = new MemoryKept();

  constructor(private readonly parts: OutboxParts) {}

  /**
   * Takes up what the server has, and what waits from before.
   * @param show null when the server does not answer: what it had last is kept here
   * @returns the show as the pages have it; null when there is none
   */
  async start(store: Kept, show: SavedShow | null): Promise<Bodies | null> {
    this.store = store;
    if (show !== null) await this.takeUp(show);
    else if ((await this.load()).about === null) return null;
    this.isMet = show !== null;
    this.shown = applied(noBodies(), [...showOf(this.kept, this.rows, this.about.dataId).values()]);
    this.parts.windows.onHint(() => void this.sync());
    this.tell();
    void this.send();
    return this.shown;
  }

  /**
   * The server answers again: what it has now shows on the pages.
   * @returns false when something was saved since it said so: it has to be asked again
   */
  async meet(show: SavedShow): Promise<boolean> {
    this.isMet = await this.takeUp(show);
    this.show();
    this.tryAgain();
    return this.isMet;
  }

  private async takeUp(show: SavedShow): Promise<boolean> {
    let isTaken = false;
    await this.parts.windows.alone(async () => {
      const { about } = await this.load();
      if (about?.dataId === show.dataId && about.serial > show.serial) return;
      const isSame = about?.dataId === show.dataId;
      const bodies: NewBody[] = [];
      const there = new Set<string>();
      for (const kind of KIND_NAMES)
        for (const { revision, body } of show[kind]) {
          there.add(`${kind} ${body.id}`);
          bodies.push({ kind, id: body.id, revision, body });
        }
      for (const { kind, id, revision } of show.unreadable) {
        there.add(`${kind} ${id}`);
        bodies.push({ kind, id, revision, body: null });
      }
      for (const [key, { kind, id }] of this.kept)
        if (!there.has(key)) bodies.push({ kind, id, revision: 0, body: null });
      const changed = isSame ? bodies.filter((one) => this.kept.get(keyOf(one))?.revision !== one.revision) : bodies;
      this.about = { dataId: show.dataId, serial: show.serial, tick: this.about.tick };
      await this.write({ about: this.about }, changed);
      await this.load();
      isTaken = true;
    });
    return isTaken;
  }

  private async load(): Promise<{ about: About | null }> {
    const readAt = ++this.clock;
    const { about, rows, bodies, answers } = await this.store.read(this.knownTick);
    if (about) this.about = about;
    for (const one of bodies) {
      this.kept.set(keyOf(one), one);
      this.knownTick = Math.max(this.knownTick, one.tick);
    }
    this.answers = new Map(answers.map(({ id, revisions }) => [id, new Map(revisions)]));
    // What this window has put in, or taken out, since is not in what was read.
    for (const [id, { row, keptAt }] of this.fresh) {
      const at = rows.findIndex((other) => other.id === id);
      if (at >= 0) rows[at] = this.open?.id === id ? row : rows[at];
      else if (keptAt > readAt) rows.push(row);
      if (keptAt <= readAt) this.fresh.delete(id);
    }
    this.rows = rows.filter(({ id }) => !this.forgotten.has(id)).map(migratedRow);
    return { about };
  }

  private forget(ids: readonly string[] = []): void {
    for (const id of ids) {
      this.fresh.delete(id);
      this.forgotten.add(id);
    }
  }

  /** Whether this edit may still grow: its gesture goes on. */
  isOpen(id: string): boolean {
    return this.open?.id === id;
  }

  /**
   * Takes an edit, within the task that makes it. An `open` one may be followed by the same edit, grown; a closed one is
   * sealed.
   */
  take(edit: Edit, open: boolean): void {
    this.shown = applied(this.shown, edit.changes);
    if (this.open && this.open.id !== edit.id) this.seal();
    if (this.open) this.grow(edit);
    else this.put(edit, open);
    this.tell();
  }

  private put(edit: Edit, open: boolean): void {
    const { about, kept } = this;
    // A refused edit is mended by the next one that touches it: both go as one.
    const keys = new Set(edit.changes.map(keyOf));
    const refused = this.rows.find(
      ({ held, items }) => held?.why === 'refused' && items.some((item) => keys.has(keyOf(item))),
    );
    const behind = refused ? blockedBy(this.rows.slice(this.rows.indexOf(refused)), (row) => row === refused) : null;
    const mended = refused ? this.rows.filter((row) => row === refused || behind!.has(row.id)) : [];
    const others = this.rows.filter((row) => !mended.includes(row));
    const own: Row = {
      id: edit.id,
      label: edit.label,
      dataId: about.dataId,
      showVersion: SHOW_VERSION,
      windowId: this.parts.windowId,
      sealed: !open,
      sent: false,
      items: edit.changes.map((change) => ({ ...change, on: baseOf(kept, this.rows, about.dataId, keyOf(change)) })),
      held: null,
      aside: null,
    };
    const row = mended.length > 0 ? foldedRow([...mended, own], edit) : own;
    const gone = mended.map(({ id }) => id);
    this.rows = row ? [...others, row] : others;
    if (row && open) this.open = { id: row.id, timer: this.sealsIn(GESTURE_MS), writtenAtMs: this.now() };
    this.keep(row, { isNew: true, gone }, !open);
  }

  /** The gesture goes on: its row is written over, not more often than need be. */
  private grow(edit: Edit): void {
    const at = this.rows.findIndex((row) => row.id === edit.id);
    const before = this.rows[at];
    const on = new Map(before.items.map((item) => [keyOf(item), item.on]));
    const others = this.rows.filter((row) => row.id !== edit.id);
    const items = edit.changes.map((change) => ({
      ...change,
      on: on.get(keyOf(change)) ?? baseOf(this.kept, others, this.about.dataId, keyOf(change)),
    }));
    const row = { ...before, label: edit.label, items };
    this.rows = this.rows.with(at, row);
    const open = this.open!;
    clearTimeout(open.timer);
    open.timer = this.sealsIn(GESTURE_MS);
    this.fresh.set(row.id, { row, keptAt: Infinity });
    if (this.now() - open.writtenAtMs < WRITE_EVERY_MS) return;
    open.writtenAtMs = this.now();
    this.keep(row, {}, false);
  }

  private sealsIn(ms: number): ReturnType<typeof setTimeout> {
    return setTimeout(() => {
      if (!this.open) return;
      if (this.parts.pointerIsDown()) this.open.timer = this.sealsIn(ms);
      else this.seal();
    }, ms);
  }

  /** The gesture is over: at its end, at another edit, and when the page goes. */
  seal(): void {
    if (!this.open) return;
    const { id, timer } = this.open;
    clearTimeout(timer);
    this.open = null;
    const at = this.rows.findIndex((row) => row.id === id);
    if (at < 0) return;
    const items = this.rows[at].items.filter(({ before, after }) => !sameBody(before, after));
    const row = { ...this.rows[at], sealed: true, items };
    // What came back to where it was is no edit.
    this.rows = items.length > 0 ? this.rows.with(at, row) : this.rows.toSpliced(at, 1);
    if (items.length > 0) this.keep(row, {}, true);
    else this.keep(null, { gone: [id] }, true);
  }

  private keep(row: Row | null, more: Pick<Write, 'isNew' | 'gone'>, isFinal: boolean): void {
    if (row) this.fresh.set(row.id, { row, keptAt: Infinity });
    this.forget(more.gone);
    let writing: Promise<void>;
    try {
      writing = this.store.write({ rows: row ? [row] : [], ...more }, isFinal);
    } catch {
      return this.onlyHere();
    }
    writing.then(
      () => {
        const entry = row && this.fresh.get(row.id);
        if (entry?.row === row) entry!.keptAt = ++this.clock;
        this.parts.windows.announce();
        if (row?.sealed !== false) void this.send();
      },
      () => this.onlyHere(),
    );
  }

  /** Nothing can be kept here any more: what waits goes on in this window, and the frame says so. */
  private onlyHere(): void {
    if (this.store.isLasting) {
      const memory = new MemoryKept();
      void memory.write({ rows: this.rows, bodies: [...this.kept.values()], about: this.about });
      this.store = memory;
    }
    this.tell();
    void this.send();
  }

  /** Reads what all windows have kept. What another one has changed shows here too. */
  async sync(): Promise<void> {
    await this.load();
    this.show();
    void this.send();
  }

  private show(): void {
    const changes = towards(this.shown, showOf(this.kept, this.rows, this.about.dataId));
    if (changes.length > 0) {
      this.shown = applied(this.shown, changes);
      this.parts.onShow(changes);
    }
    this.tell();
  }

  /** Sends what waits, one after the other, alone among the windows; what is away is tried again, with growing pauses. */
  private async send(): Promise<void> {
    if (this.sending || this.retry !== null) return;
    this.sending = true;
    this.tell();
    try {
      for (let more = true; more;) {
        more = false;
        await this.parts.windows.alone(async () => {
          this.living = await this.parts.windows.living();
          await this.load();
          await this.makeRoom();
          for (let next = this.next(); next !== null && this.away === null; next = this.next()) {
            more = true;
            await this.act(next);
            await this.load();
          }
        });
        if (this.away !== null) more = false;
      }
    } catch (cause) {
      this.away = cause instanceof Error ? cause.message : 'It could not be sent.';
    }
    this.sending = false;
    this.show();
    if (this.away === null) this.failures = 0;
    else {
      const pauseMs = RETRY_MS[Math.min(this.failures++, RETRY_MS.length - 1)];
      this.retry = setTimeout(() => this.tryAgain(), pauseMs);
    }
  }

  /** Tries what was away: after its pause, or because something says that the server is there. */
  tryAgain(): void {
    if (this.retry !== null) clearTimeout(this.retry);
    this.retry = null;
    this.away = null;
    void this.send();
  }

  /** So many wait that they would fill the browser: those that follow one another on the same things become one. */
  private async makeRoom(): Promise<void> {
    if (this.rows.length <= MOST_ROWS) return;
    const together = foldedTogether(this.rows, this.about.dataId);
    if (together.length === 0) return;
    await this.write({ gone: together.flatMap(({ gone }) => gone), rows: together.map(({ row }) => row) });
    await this.load();
  }

  private next(): Next | null {
    const isOpen = (row: Row): boolean =>
      !row.sealed && (row.windowId === this.parts.windowId ? this.open?.id === row.id : this.living.has(row.windowId));
    return nextOf(this.rows, this.kept, this.about.dataId, this.answers, isOpen);
  }

  private async act(next: Next): Promise<void> {
    const { row } = next;
    switch (next.kind) {
      case 'saved':
        return this.write({ gone: [row.id] });
      case 'conflict':
        return this.write({ rows: [{ ...row, held: { why: 'conflict' } }] });
      case 'setAside':
        return this.heard(row, await this.sendAside(row));
      case 'send': {
        const claimed = await this.store.claim(row.id);
        if (!claimed) return;
        const items = claimed.items.map(({ kind, id, after }, i) => ({
          kind,
          id,
          revision: next.revisions[i],
          body: after,
        }));
        const { id, label, dataId } = claimed;
        return this.heard(claimed, await (this.parts.send ?? sendEdit)({ id, label, dataId, items }));
      }
    }
  }

  private sendAside({ id, aside, dataId, items }: Row): Promise<SendOutcome> {
    const bodies = items.map(({ kind, id: of, after }) => ({ kind, id: of, body: after }));
    return (this.parts.setAside ?? sendAside)({ id, dataId, name: aside!, items: bodies });
  }

  private heard(row: Row, outcome: SendOutcome): Promise<void> {
    switch (outcome.kind) {
      case 'saved':
        return this.saved(row, outcome.items, outcome.serial);
      case 'stale': {
        const now = outcome.items.map(({ kind, id, current }): NewBody => ({
          kind,
          id,
          revision: current?.revision ?? 0,
          body: current?.body ?? null,
        }));
        const isThere = row.items.every((item) => {
          const there = now.find((one) => keyOf(one) === keyOf(item));
          return there !== undefined && sameBody(there.body, item.after);
        });
        if (isThere) return this.write({ gone: [row.id] }, now);
        return this.write({ rows: [{ ...row, held: { why: 'conflict' } }] }, now);
      }
      case 'refused':
        return this.write({ rows: [{ ...row, held: { why: 'refused', message: outcome.message } }] });
      case 'otherData':
      case 'away':
        this.away = outcome.kind === 'away' ? outcome.message : 'The server has another show now: load this page anew.';
        return Promise.resolve();
    }
  }

  /** At one moment: the row is gone, the kept show has what it made, and what builds on it knows the revision. */
  private saved(
    row: Row,
    answered: readonly { kind: Kind; id: string; revision: number }[],
    serial: number,
  ): Promise<void> {
    this.savedAt = this.now();
    const revisions = new Map(answered.map((item) => [keyOf(item), item.revision]));
    const bodies =
      row.aside === null
        ? row.items.map(({ kind, id, after }): NewBody => ({
            kind,
            id,
            revision: revisions.get(`${kind} ${id}`) ?? 0,
            body: after,
          }))
        : [];
    const answer: Answer = { id: row.id, revisions: [...revisions] };
    const about = { ...this.about, serial: Math.max(this.about.serial, serial) };
    return this.write({ gone: [row.id], answer, about }, bodies);
  }

  /** What only who is alone may write: what the server has, under the next tick. */
  private async write(what: Omit<Write, 'bodies'>, changed: readonly NewBody[] = []): Promise<void> {
    this.forget(what.gone);
    const tick = this.about.tick + 1;
    const bodies = changed.map((one): KeptBody => ({ ...one, tick }));
    const about = what.about || bodies.length > 0 ? { ...(what.about ?? this.about), tick } : undefined;
    if (about) this.about = about;
    await this.store.write({ ...what, bodies, about }, true);
    this.parts.windows.announce();
  }

  /** Whether anything would be lost with this window. */
  get isNowhereElse(): boolean {
    return !this.store.isLasting && this.rows.length > 0;
  }

  // What the player settles.

  /** Ours counts: all of the edit, made anew on what stands there now. */
  async keepOurs(id: string): Promise<void> {
    await this.parts.windows.alone(async () => {
      await this.load();
      const row = this.rows.find((one) => one.id === id);
      if (!row) return;
      const newId = this.parts.newId();
      const items = row.items.map((item) => ({ ...item, on: { revision: this.kept.get(keyOf(item))?.revision ?? 0 } }));
      const behind = this.rows
        .filter((other) => other !== row && other.items.some(({ on }) => 'edit' in on && on.edit === id))
        .map((other) => ({
          ...other,
          items: other.items.map((item) =>
            'edit' in item.on && item.on.edit === id ? { ...item, on: { edit: newId } } : item,
          ),
        }));
      // It keeps its place before what builds on it: those are put in again behind it.
      const after = this.rows.filter((other) => this.rows.indexOf(other) > this.rows.indexOf(row));
      const moved = after.map((other) => behind.find((one) => one.id === other.id) ?? other);
      const rows = [{ ...row, id: newId, items, held: null, sent: false }, ...moved];
      await this.write({ gone: [id], rows, isNew: true });
      await this.load();
    });
    this.parts.windows.announce();
    this.show();
    this.tryAgain();
  }

  /** Theirs counts: the edit, and what waits on it, is set aside under a name. @returns what that changes, as one step. */
  async takeTheirs(id: string): Promise<Change[]> {
    let step: Change[] = [];
    await this.parts.windows.alone(async () => {
      await this.load();
      const row = this.rows.find((one) => one.id === id);
      if (!row) return;
      const from = this.rows.slice(this.rows.indexOf(row));
      const behind = blockedBy(from, (other) => other === row);
      const set = from.filter((other) => other === row || behind.has(other.id));
      const ours = set.reduce<Change[]>((sum, other) => folded(sum, other.items), []);
      step = ours.map(
        ({ kind, id: of, after }) =>
          ({ kind, id: of, before: after, after: this.kept.get(`${kind} ${of}`)?.body ?? null }) as Change,
      );
      const time = new Date(this.now()).toTimeString().slice(0, 5);
      await this.write({
        rows: set.map((other) => ({
          ...other,
          sealed: true,
          held: null,
          aside: `not taken at ${time}: ${other.label}`.slice(0, 200),
        })),
      });
      await this.load();
    });
    this.parts.windows.announce();
    this.show();
    this.tryAgain();
    return step.filter(({ before, after }) => !sameBody(before, after));
  }

  /** Lets go of an edit that was made for another data folder. @returns it, to be made here, or kept as a file. */
  async letGo(id: string): Promise<HeldEdit | null> {
    const edit = this.view().held.find((one) => one.id === id) ?? null;
    await this.parts.windows.alone(() => this.write({ gone: [id] }));
    await this.sync();
    return edit;
  }

  private now(): number {
    return (this.parts.nowMs ?? Date.now)();
  }

  /** Nothing is told twice: within a gesture the frame stays as it is. */
  private tell(): void {
    const view = this.view();
    if (sameBody(view.saveState, this.told?.saveState) && view.held === this.told?.held) return;
    this.told = view;
    this.parts.onView(view);
  }

  private view(): OutboxView {
    const { dataId } = this.about;
    const held = this.rows.flatMap((row): HeldEdit[] => {
      const why = isOf(row, dataId) ? (row.held?.why ?? null) : 'otherData';
      if (why === null || row.aside !== null) return [];
      const message = row.held?.why === 'refused' ? row.held.message : null;
      const items = row.items.map(({ kind, id, before, after }) => ({
        kind,
        id,
        before,
        ours: after,
        theirs: this.kept.get(`${kind} ${id}`)?.body ?? null,
      }));
      return [{ id: row.id, label: row.label, why, message, items }];
    });
    const waiting = this.rows.filter((row) => isOf(row, dataId) && row.held === null).length;
    const refused = held.find(({ why }) => why === 'refused');
    const kind = held.some(({ why }) => why === 'conflict')
      ? 'conflict'
      : refused
        ? 'refused'
        : waiting === 0
          ? 'saved'
          : this.away !== null
            ? 'waiting'
            : 'saving';
    const message = this.away ?? refused?.message ?? null;
    const list = held.length > 0 ? held : NOTHING_HELD;
    const { savedAt: at, isNowhereElse: isOnlyHere } = this;
    return {
      saveState: { kind, at, isAway: this.away !== null || !this.isMet, waiting, message, isOnlyHere },
      held: list,
    };
  }
}
