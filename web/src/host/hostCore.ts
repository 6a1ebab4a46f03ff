import { Registry, Engine, IGNORED_IN_WORDS, InputLog, type CompiledStep, type EngineInput } from '@rackle/core/engine';
import { messageInWords } from '@rackle/core/midi';
import type { GearList, InputPort } from '@rackle/core/show';
import { BENCH_INPUT, type HandOver, type HostCommand, type HostEvent, type HostKept, type Topics } from '../protocol';
import type { SoundOut, SoundTold, UnderHands } from './audio/soundOut';
import { Bench } from './bench/Bench';
import { LearnSession } from './learnSession';
import { PlayedNotes } from './playedNotes';
import { PortRegistry } from './portRegistry';
import type { InPort, OutPort, PortListener } from './ports/port';
import { connectWebMidi } from './ports/webMidiPorts';
import { ShowFeed } from './showFeed';
import { SoundFeed, type SoundParts } from './soundFeed';
import { TakeRenders, type RenderTake } from './takeRenders';
import { Teller } from './teller';
import type { BenchMemory } from './bench/memory';
import { Times, type Lateness } from './times';
import type { After } from './timer';

/** What the host is put together from. */
export interface HostParts {
  nowMs: () => number;
  after: After;
  /** Does a piece of work after whatever has arrived meanwhile. */
  nextSlice: (act: () => void) => void;
  startSound: (told: SoundTold) => Promise<SoundOut>;
  send: (event: HostEvent) => void;
  /** What simulated devices keep; without it they forget. */
  benchMemory?: BenchMemory;
  /** Renders a take unheard. */
  renderTake?: RenderTake;
  /** What is there with the server stopped. */
  kept?: () => Promise<HostKept>;
}

/**
 * The running side: ports → engine → ports and sound. It hears pages by commands and answers by events, and never waits
 * for them. Everything that reaches the engine goes through here, stamped and logged.
 *
 *     port message → receive → engine → sink → port
 *                                            → sound feed → rack
 *     command → input → engine                teller → pages
 */
export class HostCore implements PortListener {
  private readonly registry = new Registry();
  private readonly ports = new PortRegistry();
  private readonly sound: HostSink;
  private readonly engine: Engine;
  /** The last inputs of tonight. */
  readonly log = new InputLog(this.registry);
  private readonly feed: ShowFeed;
  private readonly learning: LearnSession;
  private readonly teller: Teller;
  private readonly bench: Bench;
  private readonly renders: TakeRenders;
  /** From a message's arrival to its hand-over. */
  private readonly handOver = new Times(4096);
  private readonly played: PlayedNotes;
  /** From when something of a timeline that plays fell due to its hand-over. */
  private readonly lateness = new Times(65_536);
  private midi: Topics['sound']['midi'] = 'unasked';
  private sysex = false;
  /** The engine knows that sound is made here. */
  private soundIsTold = false;
  private cancelDue: (() => void) | null = null;
  private dueMs = Infinity;
  private lastStep: CompiledStep | null = null;
  private gear: GearList | null = null;
  private unknownPrograms = 0;
  /** Keys of the computer that a page holds down. */
  private readonly keysDown = new Set<string>();

  constructor(private readonly parts: HostParts) {
    const { nowMs, after, nextSlice, send } = parts;
    this.sound = new HostSink(this.registry, this.ports, {
      nowMs,
      after,
      nextSlice,
      send,
      start: (told) => parts.startSound(told),
      onReady: (destination, ready) => {
        this.apply({ type: 'ready', destination, ready });
        this.schedule();
        this.teller.touch();
      },
      onDelay: (delayMs) => this.apply({ type: 'soundDelay', delayMs }),
      onChange: () => this.soundChanged(),
    });
    this.engine = new Engine(this.registry, this.sound);
    this.engine.pulseWhileStanding();
    this.feed = new ShowFeed(send);
    this.played = new PlayedNotes(send);
    this.learning = new LearnSession(parts, () => this.teller.touch());
    this.teller = new Teller({
      nowMs,
      after,
      send,
      engine: this.engine,
      setlistId: () => this.engine.show.setlist?.id ?? null,
      learn: () => this.learning.state(),
      sound: () => this.sound.state,
      midi: () => ({ midi: this.midi, sysex: this.sysex }),
      levels: () => this.sound.levels(this.engine, this.handOver.summary().within(0.5)),
      isMoving: () => this.engine.isPlaying || this.bench.isMoving,
      onTold: () => {
        if (this.bench.isMoving) this.tellBench();
      },
    });
    this.bench = new Bench(this, nowMs, after, () => this.tellBench(), parts.benchMemory);
    this.bench.plugAll();
    this.renders = new TakeRenders(parts, () => this.engine.sounding().length === 0);
  }

  private apply(input: EngineInput): void {
    const now = this.parts.nowMs();
    this.log.add(input, now);
    this.engine.apply(input, now);
  }

  /** What a page asks for. */
  command(command: HostCommand): void {
    switch (command.type) {
      case 'show':
      case 'changed':
      case 'audition':
        this.takeShow(command);
        break;
      case 'recall':
      case 'perform':
      case 'role':
      case 'fader':
      case 'cursor':
      case 'locate':
      case 'loop':
      case 'jump':
        this.apply(command);
        if (command.type === 'cursor') this.sound.settle(this.engine);
        break;
      case 'tryName': {
        const { port, channel, msb, lsb, program, also } = command;
        this.apply({ type: 'select', port, channel, msb, lsb, program, also });
        break;
      }
      case 'setCount':
        this.apply({ type: 'count', instrumentId: command.instrumentId, count: command.count });
        break;
      case 'computerKey':
        if (command.down) this.keysDown.add(command.code);
        else this.keysDown.delete(command.code);
        if (!this.learning.isOn) this.apply(command);
        else if (command.down) this.learning.hearComputerKey(command.code);
        break;
      case 'bench':
        this.bench.do(command.gesture);
        if (command.gesture.device === BENCH_INPUT) this.sound.setBenchLoop(this.bench.loops);
        break;
      case 'startSound':
        void this.sound.start(this.engine);
        break;
      case 'connectMidi':
        void this.connectMidi();
        break;
      case 'watch':
        this.teller.watch(command.monitor, command.meters);
        this.tellBench();
        this.tellPorts();
        break;
      case 'learn':
        this.learning.start(command.roles, this.gear);
        break;
      case 'learnUndo':
        this.learning.undo();
        break;
      case 'learnSkip':
        this.learning.skip();
        break;
      case 'learnConfirm':
        this.learning.confirm();
        break;
      case 'memory':
        this.sound.setMemory(this.engine, command);
        break;
      case 'testTone':
        this.sound.testTone(command.output);
        break;
      case 'ping':
        // Asked while everything else waits: it is answered and nothing more.
        return this.parts.send({ type: 'pong', number: command.number });
      case 'askFigures':
        void this.tellFigures();
        break;
      case 'renderTake':
        this.renders.render(command);
        break;
      case 'letGo':
        this.letGo();
        break;
    }
    this.afterwards();
  }

  /** The window goes: what is owed to gear and sound is sent at once. */
  leave(): void {
    this.apply({ type: 'perform', action: 'panic' });
  }

  /** Another page has the connection: what was held through the last one is up, and everything is told again. */
  pageChanged(): void {
    this.letGo();
    this.teller.forgetTold();
    this.tellPorts();
    this.tellBench();
    this.afterwards();
  }

  /** What is held through a page, by computer keys or on the bench, goes up. */
  private letGo(): void {
    this.bench.letGo();
    for (const code of this.keysDown) this.apply({ type: 'computerKey', code, down: false });
    this.keysDown.clear();
  }

  private async tellFigures(): Promise<void> {
    const handOver = this.handOverTimes();
    const kept = (await this.parts.kept?.().catch(() => null)) ?? null;
    this.parts.send({ type: 'figures', handOver, kept });
  }

  handOverTimes(): HandOver {
    const { count, within } = this.handOver.summary();
    return {
      messages: count,
      medianMs: within(0.5),
      p99Ms: within(0.99),
      longestSliceMs: this.sound.longestSliceMs,
    };
  }

  /**
   * For the figures, since it takes its time: how late the host was awake for what a timeline that plays has to do, and
   * how late messages to ports were, beside the time that they have to go out at.
   */
  timelineLateness(): { due: Lateness; ports: Lateness } {
    return { due: this.lateness.lateness(), ports: this.sound.lateness.lateness() };
  }

  /** Layers that are near and do not stand yet as they will sound. */
  get unfinished(): number {
    return this.sound.unfinished;
  }

  /** What the present patch sounds like, to be made ready before the sound is started. */
  underHands(): UnderHands {
    return this.sound.underHands(this.engine);
  }

  // Ports.

  /** @hotpath */
  onMessage(device: string, status: number, data1: number, data2: number, stampMs: number): void {
    const atMs = this.notAhead(stampMs);
    if (this.learning.isOn && !this.learning.hear(device, status, data1, data2, atMs)) return;
    const port = this.registry.findInput(device);
    if (port >= 0) this.log.message(port, status, data1, data2, atMs);
    const silent = this.engine.ignoredFor('no-layer-here');
    this.engine.receive(port, status, data1, data2, atMs);
    if ((status & 0xf0) === 0x90 && data2 > 0)
      this.noteStrike(device, port, data1, data2, this.engine.ignoredFor('no-layer-here') > silent);
    this.handOver.add(this.parts.nowMs() - atMs);
    this.afterMessage(device, status, data1, data2);
  }

  /** A device whose clock is ahead sends now. @hotpath */
  private notAhead(stampMs: number): number {
    const nowMs = this.parts.nowMs();
    return stampMs <= nowMs ? stampMs : nowMs;
  }

  /** A key is counted once, also where a device sends it by two ports. @hotpath */
  private noteStrike(device: string, port: number, key: number, velocity: number, isSilent: boolean): void {
    const shift = this.engine.keyShiftOf(port);
    if (shift === null) return;
    const struck = Math.min(127, Math.max(0, key + shift));
    this.teller.strikes.add(device, struck, velocity, isSilent ? this.engine.step : null);
    this.played.add(this.engine.tickAt(this.parts.nowMs()), struck);
  }

  onSysex(device: string, length: number, stampMs: number): void {
    const atMs = this.notAhead(stampMs);
    const input: EngineInput = { type: 'sysex', device, length };
    this.log.add(input, atMs);
    this.engine.apply(input, atMs);
  }

  onInput(port: InPort, here: boolean): void {
    this.ports.note(port, 'in', here);
    this.apply({ type: 'input', device: port.name, here });
    this.tellPorts();
    this.afterwards();
  }

  onOutput(port: OutPort, here: boolean): void {
    this.ports.note(port, 'out', here);
    // A device that comes hears what follows; to one that goes nothing is sent any more.
    this.ports.lead(this.registry, this.gear);
    this.apply({ type: 'output', device: port.name, here });
    this.tellPorts();
    this.afterwards();
  }

  private async connectMidi(): Promise<void> {
    this.midi = 'asking';
    this.teller.touch();
    const wantsSysex = this.gear?.ports.some((port) => port.direction === 'out' && port.allowsSysex) === true;
    ({ midi: this.midi, sysex: this.sysex } = await connectWebMidi(this, wantsSysex));
    this.teller.touch();
  }

  // The show.

  private takeShow(command: Extract<HostCommand, { type: 'show' | 'changed' | 'audition' }>): void {
    const input = this.feed.take(command);
    if (input === null) return;
    // Outputs must lead somewhere before the first recall sends to them.
    if (command.type === 'show') {
      this.leadAhead(command);
      if (command.afterCrash) this.ports.silence();
    }
    this.apply(input);
    const { show } = this.engine;
    if (show.gear !== this.gear || command.type === 'show') {
      this.gear = show.gear;
      this.ports.lead(this.registry, this.gear);
    }
    if (show.setlist) this.bench.know(show);
    this.sound.takeShow(this.engine, this.gear);
    this.sound.retellAhead(this.engine);
    this.sound.settle(this.engine);
    if (command.type === 'show') this.teller.forgetTold();
  }

  private leadAhead({ show, setlistId }: Extract<HostCommand, { type: 'show' }>): void {
    const setlist = show.setlists.find(({ id }) => id === setlistId);
    const gear = show.gearLists.find(({ id }) => id === setlist?.gearListId) ?? show.gearLists[0] ?? null;
    for (const port of gear?.ports ?? []) if (port.direction === 'out') this.registry.outputPort(port.alias);
    this.ports.lead(this.registry, gear);
  }

  private soundChanged(): void {
    const isThere = this.sound.state === 'on' || this.sound.state === 'waits';
    if (isThere && !this.soundIsTold) this.apply({ type: 'sound', on: true });
    this.soundIsTold ||= isThere;
    this.teller.touch();
  }

  // What follows.

  /** @hotpath */
  private afterMessage(device: string, status: number, data1: number, data2: number): void {
    this.schedule();
    this.teller.touch();
    if (this.engine.step !== this.lastStep)
      this.recalled(`${device} · ch ${(status & 15) + 1} · ${this.words(device, status, data1, data2)}`);
    else if ((status & 0xf0) === 0xc0) this.tellProgram(device, status, data1);
  }

  private tellProgram(device: string, status: number, program: number): void {
    const ignored = this.engine.ignoredFor('no-such-program');
    if (ignored === this.unknownPrograms) return;
    this.unknownPrograms = ignored;
    const channel = status & 15;
    this.parts.send({
      type: 'lastWord',
      text: `${device} · ch ${channel + 1} · ${this.words(device, status, program, 0)} → ${IGNORED_IN_WORDS['no-such-program']}`,
    });
    const bank = this.engine.bankOn(this.registry.findInput(device), channel);
    const alias = this.inputOf(device)?.alias;
    if (bank && alias !== undefined) this.parts.send({ type: 'unanswered', heard: { port: alias, ...bank, program } });
  }

  private inputOf(device: string): InputPort | undefined {
    return this.gear?.ports.find((port): port is InputPort => port.direction === 'in' && port.device === device);
  }

  /** A message as the panel of its device reads. */
  private words(device: string, status: number, data1: number, data2: number): string {
    const port = this.inputOf(device);
    const { setlist } = this.engine.show;
    return messageInWords(status, data1, data2, {
      programsFrom: port?.programsFrom ?? setlist?.programsFrom ?? 1,
      middleC: port?.middleC ?? setlist?.middleC ?? 'C4',
    });
  }

  private recalled(cause: string): void {
    const { step } = this.engine;
    this.lastStep = step;
    this.sound.settle(this.engine);
    if (step && cause)
      this.parts.send({
        type: 'lastWord',
        text: `${cause} → ${step.patch.song}: ${step.patch.name}${step.balance.name ? `, ${step.balance.name}` : ''}`,
      });
  }

  private afterwards(): void {
    if (this.engine.step !== this.lastStep) this.recalled('');
    this.schedule();
    this.teller.touch();
  }

  /** Asks to be woken when the next thing falls due. */
  private schedule(): void {
    const now = this.parts.nowMs();
    const next = this.engine.advance(now);
    this.sound.isPlaying = this.engine.isPlaying;
    this.played.runs(this.engine.isPlaying ? (this.engine.step?.patch.songId ?? null) : null);
    const due = Math.min(next, this.engine.handAhead(now));
    if (due === this.dueMs) return;
    this.cancelDue?.();
    this.cancelDue = null;
    this.dueMs = due;
    if (due === Infinity) return;
    this.cancelDue = this.parts.after(due - now, () => {
      this.dueMs = Infinity;
      this.cancelDue = null;
      const wokenMs = this.parts.nowMs();
      if (this.engine.isPlaying && wokenMs >= next) this.lateness.add(wokenMs - next);
      this.engine.advance(wokenMs);
      if (this.engine.step !== this.lastStep) this.recalled('timeline');
      this.schedule();
      this.teller.touch();
    });
  }

  private tellBench(): void {
    this.parts.send({ type: 'bench', bench: this.bench.state() });
  }

  private tellPorts(): void {
    this.parts.send({ type: 'ports', ports: this.ports.states() });
  }
}

/** Ports get what goes to them; all the rest is the sound's. */
class HostSink extends SoundFeed {
  /** Of what goes to ports while a timeline plays: from its time to its hand-over. */
  readonly lateness = new Times(65_536);
  isPlaying = false;
  private readonly nowMs: () => number;

  constructor(
    registry: Registry,
    private readonly ports: PortRegistry,
    parts: SoundParts,
  ) {
    super(registry, parts);
    this.nowMs = parts.nowMs;
  }

  /** @hotpath */
  override send(destination: number, status: number, data1: number, data2: number, clock: Float64Array): void {
    const port = this.ports.at(destination);
    if (port === undefined) super.send(destination, status, data1, data2, clock);
    else {
      port?.send(status, data1, data2, clock[0]);
      if (this.isPlaying) this.lateness.add(Math.max(0, this.nowMs() - clock[0]));
    }
  }

  override sendSysex(destination: number, bytes: Uint8Array): void {
    this.ports.at(destination)?.sendSysex(bytes);
  }
}
