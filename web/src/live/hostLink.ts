import type { HostCommand, HostConnection, HostEvent, HostPlace } from '../protocol';
import type { FrameOutcome } from './hostFrame';

const BEAT_MS = 250;
/** How many beats lie between two questions: two seconds on a machine that gives the page its turns. */
const BEATS_A_QUESTION = 8;
/** A browser that clears thousands of sounds away holds a frame up for seconds on a machine that has little left. */
const DEAD_AFTER = 8;
/** How often a frame that stops is started again before the page plays itself. */
const MOST_RESTARTS = 2;
const KEPT_COMMANDS = 200;

interface Open {
  connection: HostConnection;
  /** Of a frame: takes it away; has it take its newest version. */
  remove: (() => void) | null;
  renew: (() => Promise<void>) | null;
  stop: () => void;
}

/** What a link to the host needs of the page. */
export interface LinkParts {
  /** Opens the frame; null: there is no second port. */
  openFrame: (() => Promise<FrameOutcome>) | null;
  /** The host in this page, until it is reloaded. */
  hereInPage: () => Promise<HostConnection>;
  /** Another build came: both are loaded anew, once. @returns whether that is under way. */
  reloadOnce: () => Promise<boolean>;
  every: (ms: number, act: () => void) => () => void;
}

/**
 * The pages' connection to whichever host there is: in its frame, or in the page where the frame is not to be had. It watches
 * over the frame, starts it again when it has stopped, and tells what it needs to go on.
 */
export class HostLink implements HostConnection {
  private readonly listeners = new Set<(event: HostEvent) => void>();
  private open: Open | null = null;
  /** What is asked before there is a host. */
  private waiting: HostCommand[] = [];
  private place: HostPlace = { where: 'starting', why: null, restarts: 0 };
  private hadHost = false;
  private serial = 0;
  // What a host that is started again has to be told besides the show.
  private watched: HostCommand | null = null;
  private soundWasOn = false;
  private midiWasOn = false;

  constructor(private readonly parts: LinkParts) {}

  post(command: HostCommand): void {
    if (command.type === 'watch') this.watched = command;
    if (this.open !== null) return this.open.connection.post(command);
    // The show is told whole once there is a host again.
    if (this.hadHost && (command.type === 'show' || command.type === 'changed')) return;
    if (this.waiting.length < KEPT_COMMANDS) this.waiting.push(command);
  }

  listen(listener: (event: HostEvent) => void): () => void {
    this.listeners.add(listener);
    listener({ type: 'hostPlace', place: this.place });
    return () => this.listeners.delete(listener);
  }

  /** This window plays from here on. */
  async start(afterCrash = false): Promise<void> {
    const serial = ++this.serial;
    this.tellPlace('starting');
    const { openFrame } = this.parts;
    if (openFrame === null) return this.inPage('no-second-port', afterCrash);
    const outcome = await openFrame();
    if (serial !== this.serial) return outcome.kind === 'open' ? outcome.remove() : undefined;
    if (outcome.kind === 'none') {
      if (outcome.why === 'other-build' && (await this.parts.reloadOnce())) return;
      return this.inPage(outcome.why, afterCrash);
    }
    const stopWatching = this.watchOver(outcome.connection);
    outcome.onClose(() => this.stopped(serial));
    const { connection, remove, renew } = outcome;
    this.connected({ connection, remove, renew, stop: stopWatching }, 'frame', null, afterCrash);
  }

  /** Another window plays from here on. */
  end(): void {
    this.serial++;
    this.close();
    this.tellPlace('elsewhere');
  }

  /** Has the frame, if there is one, take its newest version. */
  async renewFrame(): Promise<void> {
    await this.open?.renew?.();
  }

  get playsInPage(): boolean {
    return this.place.where === 'page';
  }

  private async inPage(why: NonNullable<HostPlace['why']>, afterCrash: boolean): Promise<void> {
    const connection = await this.parts.hereInPage();
    this.connected({ connection, remove: null, renew: null, stop: () => undefined }, 'page', why, afterCrash);
  }

  private connected(open: Open, where: 'frame' | 'page', why: HostPlace['why'], afterCrash: boolean): void {
    this.open = open;
    open.connection.listen((event) => this.heard(event));
    this.tellPlace(where, why);
    const again = this.hadHost;
    this.hadHost = true;
    if (again) {
      this.tell({ type: 'askShow', anew: true, afterCrash });
      if (this.watched) open.connection.post(this.watched);
      if (this.midiWasOn) open.connection.post({ type: 'connectMidi' });
      if (this.soundWasOn) open.connection.post({ type: 'startSound' });
    }
    for (const command of this.waiting.splice(0)) open.connection.post(command);
  }

  private heard(event: HostEvent): void {
    if (event.type === 'topics' && event.topics.sound) {
      const { sound, midi } = event.topics.sound;
      this.soundWasOn = sound === 'on' || sound === 'waits';
      this.midiWasOn = midi === 'on';
    }
    if (event.type !== 'pong') this.tell(event);
  }

  /**
   * A frame is dead when its port closes, or when nothing at all came from it while eight questions in a row waited. A frame
   * with so much to do that questions wait behind it lives: to start it again would cut what sounds. Between questions the
   * page counts its own turns, not time: a machine on which it hardly comes to its turn has none for the frame either.
   */
  private watchOver(connection: HostConnection): () => void {
    const { serial } = this;
    let beats = 0;
    let asked = 0;
    let unanswered = 0;
    const unlisten = connection.listen(() => {
      unanswered = 0;
    });
    const stop = this.parts.every(BEAT_MS, () => {
      if (++beats % BEATS_A_QUESTION !== 0) return;
      if (unanswered >= DEAD_AFTER) return this.stopped(serial);
      unanswered++;
      connection.post({ type: 'ping', number: ++asked });
    });
    return () => {
      stop();
      unlisten();
    };
  }

  private stopped(serial: number): void {
    if (serial !== this.serial || this.open === null) return;
    this.close();
    this.place = { ...this.place, restarts: this.place.restarts + 1 };
    this.tell({
      type: 'trouble',
      text: 'The running side had stopped. It is started again in the same patch; keys that are down have to be struck again.',
    });
    if (this.place.restarts <= MOST_RESTARTS) void this.start(true);
    else {
      this.serial++;
      void this.inPage('stopped-again', true);
    }
  }

  private close(): void {
    this.open?.stop();
    this.open?.remove?.();
    this.open = null;
  }

  private tellPlace(where: HostPlace['where'], why: HostPlace['why'] = null): void {
    this.place = { ...this.place, where, why };
    this.tell({ type: 'hostPlace', place: this.place });
  }

  private tell(event: HostEvent): void {
    for (const listener of this.listeners) listener(event);
  }
}
