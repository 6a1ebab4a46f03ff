import { applied, noBodies, sameBody, type Bodies, type Change, type Edit, type Kind } from '@rackle/core/show';
import type { OutboxParts } from './outboxParts';
import { Gesture } from './gesture';
import { madeAnew, setAside } from './settling';
import { grown, sealed, taken } from './taking';
import { viewOf, type HeldEdit, type OutboxView } from './outboxView';
import { sendAside, sendEdit, type SavedShow, type SendOutcome } from './api';
import { MemoryKept, broughtUp, type About, type Answer, type Kept, type Snapshot, type Write } from './kept';
import {
  bodiesIn,
  foldedTogether,
  keyOf,
  migratedRow,
  nextOf,
  showOf,
  towards,
  type KeptBody,
  type NewBody,
  type Next,
  type Row,
} from './rows';

const MOST_ROWS = 500;
/** The server is next door: asking again costs nothing, and a player who has plugged it in watches for `saved`. */
const RETRY_MS = [1000, 2000, 4000, 5000];

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
  private readonly gesture: Gesture;
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

  constructor(private readonly parts: OutboxParts) {
    this.gesture = new Gesture(
      parts.pointerIsDown,
      () => this.now(),
      () => this.seal(),
    );
  }

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
      const bodies = bodiesIn(show, this.kept);
      const changed = isSame ? bodies.filter((one) => this.kept.get(keyOf(one))?.revision !== one.revision) : bodies;
      this.about = { dataId: show.dataId, serial: show.serial, tick: this.about.tick };
      await this.write({ about: this.about }, changed);
      await this.load();
      isTaken = true;
    });
    return isTaken;
  }

  /** What this browser keeps has opened late: it takes what waits in this window, and what has waited there joins in. */
  async keepIn(store: Kept): Promise<void> {
    await this.parts.windows.alone(async () => {
      await broughtUp(store, this.known());
      this.store = store;
      this.knownTick = 0;
      for (const row of this.rows) this.keep(row, { isNew: true }, true);
      await this.load();
    });
    this.show();
    this.tryAgain();
  }

  private async load(): Promise<{ about: About | null }> {
    const readAt = ++this.clock;
    const { about, rows, bodies, answers } = await this.store.read(this.knownTick);
    if (about) this.about = about;
    for (const one of bodies) {
      this.kept.set(keyOf(one), one);
      this.knownTick = Math.max(this.knownTick, one.tick);
    }
    const known = this.answers;
    this.answers = new Map(answers.map(({ id, revisions }) => [id, new Map(revisions)]));
    // Whichever window sent it.
    const hasWaited = (of: string): boolean => this.forgotten.has(of) || this.rows.some(({ id }) => id === of);
    if (answers.some(({ id }) => !known.has(id) && hasWaited(id))) this.savedAt = this.now();
    // What this window has put in, or taken out, since is not in what was read.
    for (const [id, { row, keptAt }] of this.fresh) {
      const at = rows.findIndex((other) => other.id === id);
      if (at >= 0) rows[at] = this.gesture.id === id ? row : rows[at];
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
    return this.gesture.id === id;
  }

  /**
   * Takes an edit, within the task that makes it. An `open` one may be followed by the same edit, grown; a closed one is
   * sealed.
   */
  take(edit: Edit, open: boolean): void {
    this.shown = applied(this.shown, edit.changes);
    if (this.gesture.id !== edit.id) this.seal();
    if (this.gesture.id !== null) this.grow(edit);
    else this.put(edit, open);
    this.tell();
  }

  private put(edit: Edit, open: boolean): void {
    const { dataId } = this.about;
    const { row, rows, gone } = taken(edit, this.rows, this.kept, { dataId, windowId: this.parts.windowId, open });
    this.rows = rows;
    if (row && open) this.gesture.start(row.id);
    this.keep(row, { isNew: true, gone }, !open);
  }

  /** The gesture goes on: its row is written over, not more often than need be. */
  private grow(edit: Edit): void {
    const at = this.rows.findIndex((row) => row.id === edit.id);
    const row = grown(edit, this.rows, this.kept, this.about.dataId);
    this.rows = this.rows.with(at, row);
    this.fresh.set(row.id, { row, keptAt: Infinity });
    if (this.gesture.goesOn()) this.keep(row, {}, false);
  }

  /** The gesture is over: at its end, at another edit, and when the page goes. */
  seal(): void {
    const id = this.gesture.end();
    const at = this.rows.findIndex((row) => row.id === id);
    if (at < 0) return;
    const row = sealed(this.rows[at]);
    // What came back to where it was is no edit.
    this.rows = row ? this.rows.with(at, row) : this.rows.toSpliced(at, 1);
    this.keep(row, row ? {} : { gone: [id!] }, true);
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
    if (this.store.isLasting) this.store = new MemoryKept(this.known());
    this.tell();
    void this.send();
  }

  private known(): Snapshot {
    const answers = [...this.answers].map(([id, revisions]): Answer => ({ id, revisions: [...revisions] }));
    return { about: this.about, rows: this.rows, bodies: [...this.kept.values()], answers };
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
      !row.sealed &&
      (row.windowId === this.parts.windowId ? this.gesture.id === row.id : this.living.has(row.windowId));
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
        const now = outcome.items.map(({ kind, id, current }): NewBody => {
          return { kind, id, revision: current?.revision ?? 0, body: current?.body ?? null };
        });
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
      const rows = madeAnew(this.rows, row, this.parts.newId(), this.kept);
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
      const aside = setAside(this.rows, row, this.kept, this.now());
      step = aside.step;
      await this.write({ rows: aside.rows });
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
    const { rows, kept, away, isMet, savedAt, isNowhereElse: isOnlyHere, about } = this;
    return viewOf({ rows, kept, about, away, isMet, savedAt, isOnlyHere });
  }
}
