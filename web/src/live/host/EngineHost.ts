import {
  Book,
  Engine,
  IGNORED_IN_WORDS,
  LearnRow,
  ShowCompiler,
  WHOLE_DEFAULTS,
  inputsOf,
  knownInstrument,
  messageInWords,
  withEffectValue,
  type CompiledLayer,
  type CompiledShow,
  type Effect,
  type EngineRecord,
  type EngineSink,
  type GearList,
  type Instrument,
  type LearnStep,
  type Setlist,
  type Song,
} from '@rackle/core';
import type { SoundOut, SoundTold } from '../audio/soundOut';
import { Bench } from '../bench/Bench';
import {
  BENCH_INPUT,
  type HandOver,
  type HostCommand,
  type HostEvent,
  type PortState,
  type Snapshot,
  type StampedRecord,
} from '../door';
import type { InPort, OutPort, PortListener } from '../ports/port';
import { connectWebMidi } from '../ports/webMidiPorts';
import { HandOverTimes } from './handOverTimes';
import type { Memory } from './remembered';
import { Strikes } from './strikes';
import type { After } from './timer';

const SNAPSHOT_MS = 33;
const RECORDS_MS = 100;
const LEVELS_MS = 66;
const KEPT_RECORDS = 20_000;
const LEARN_POLL_MS = 60;
const SETTLED_MS = 1000;

export interface HostParts {
  nowMs: () => number;
  after: After;
  memory: Memory;
  startSound: (told: SoundTold) => Promise<SoundOut>;
  send: (event: HostEvent) => void;
}

/**
 * The running side: ports → engine → ports and sound. It hears pages by commands and answers by events, and never waits
 * for them.
 *
 *     port message → receive → engine → send → port
 *                                            → sound
 */
export class EngineHost implements EngineSink, PortListener {
  private readonly book = new Book();
  private readonly compiler = new ShowCompiler(this.book);
  private readonly engine = new Engine(this.book, this);
  private readonly bench: Bench;
  private readonly handOver = new HandOverTimes();
  private readonly strikes = new Strikes();
  /** Inputs and outputs that are here, by the name of the device. */
  private readonly inputs = new Map<string, InPort>();
  private readonly outputs = new Map<string, OutPort>();
  private readonly seen = new Map<string, PortState>();
  /** By destination: where its messages go. */
  private outputOf: (OutPort | null)[] = [];
  /** By destination: the layer that sounds there, for its output and effects. */
  private layerOf = new Map<number, CompiledLayer>();
  private readonly openLives = new Set<number>();
  private sound: SoundOut | null = null;
  private soundState: Snapshot['sound'] = 'off';
  private midi: Snapshot['midi'] = 'unasked';
  private readonly balances = new Map<number, number[]>();
  /** Effects of layers as the engine has told them last, and the layer's own that they were made of. */
  private readonly effectsOf = new Map<number, { of: readonly Effect[] | undefined; effects: readonly Effect[] }>();
  /** What hands have moved of the setlist's effects. */
  private readonly movedShared = new Map<string, { effectId: string; parameter: string; value: number }>();
  /** Presets that were stepped to, by destination; the rest sound with their own. */
  private readonly stepped = new Map<number, string>();
  private readonly wholes = [...WHOLE_DEFAULTS];
  private learning: LearnRow | null = null;
  private taken: { by: string; saw: string } | null = null;
  private songs = new Map<string, Song>();
  private instruments: Instrument[] = [];
  private setlist: Setlist | null = null;
  private gear: GearList | null = null;
  private compiled: CompiledShow | null = null;
  private cancelDue: (() => void) | null = null;
  private dueMs = Infinity;
  private snapshotWaits = false;
  private cancelSettled: (() => void) | null = null;
  private records: StampedRecord[] = [];
  private recordNumber = 0;
  private watching = { monitor: false, meters: false };
  private lastStep: unknown = null;
  private unknownPrograms = 0;
  private warning: string | null = null;

  constructor(private readonly parts: HostParts) {
    this.bench = new Bench(this, parts.nowMs, parts.after, () => this.tellBench());
    this.bench.plugAll();
  }

  /** What a page asks for. */
  command(command: HostCommand): void {
    const now = this.parts.nowMs();
    switch (command.type) {
      case 'show':
        this.takeShow(command);
        break;
      case 'song':
        this.takeSong(command.song);
        break;
      case 'recall':
        this.engine.recall(command.position, now);
        break;
      case 'perform':
        this.engine.perform(command.action, now);
        break;
      case 'cursor':
        this.engine.setCursor(command.position);
        break;
      case 'locate':
        this.engine.locate(command.tick, now);
        break;
      case 'bench':
        this.bench.do(command.gesture);
        if (command.gesture.device === BENCH_INPUT) this.sound?.setBenchLoop(this.bench.loops);
        break;
      case 'startSound':
        void this.startSound();
        break;
      case 'connectMidi':
        void this.connectMidi();
        break;
      case 'watch':
        this.watch(command.monitor, command.meters);
        break;
      case 'learn':
        this.startLearning(command.roles);
        break;
      case 'learnUndo':
        this.undoLearned();
        break;
      case 'learnSkip':
        this.learning?.skip();
        this.endLearningWhenDone();
        break;
      case 'computerKey':
        this.computerKey(command.code, command.down);
        break;
      case 'testTone':
        this.sound?.testTone(command.output);
        break;
      case 'tryName':
        this.engine.select(
          this.book.findOutputPort(command.port),
          command.channel - 1,
          command.msb ?? -1,
          command.lsb ?? -1,
          command.program ?? -1,
          command.also,
          now,
        );
        break;
      case 'setCount':
        this.setCount(command.instrumentId, command.count);
        break;
      case 'askFigures':
        this.parts.send({ type: 'figures', handOver: this.handOverTimes() });
        break;
    }
    this.afterwards();
  }

  handOverTimes(): HandOver {
    return this.handOver.summary();
  }

  // Ports in.

  /** @hotpath */
  onMessage(device: string, status: number, data1: number, data2: number, atMs: number): void {
    if (this.learning !== null && !this.hearsWhileLearning(device, status, data1, data2, atMs)) return;
    const port = this.book.findInput(device);
    this.engine.receive(port, status, data1, data2, atMs);
    if ((status & 0xf0) === 0x90 && data2 > 0) this.noteStrike(port, data1, data2);
    this.handOver.add(this.parts.nowMs() - atMs);
    this.afterMessage(device, status, data1, data2);
  }

  /** A key is counted once, also where a device sends it by two ports. @hotpath */
  private noteStrike(port: number, key: number, velocity: number): void {
    const input = this.compiled?.inputs[port];
    if (input?.on && input.plays && input.doubleOf < 0)
      this.strikes.add(Math.min(127, Math.max(0, key + input.keyShift)), velocity);
  }

  // Learn.

  private startLearning(roles: readonly string[]): void {
    this.taken = null;
    if (roles.length === 0 || !this.gear) {
      this.learning = null;
      return;
    }
    const doubles = new Map(
      inputsOf(this.gear).flatMap((port) =>
        port.doubleOf === null ? [] : [[port.alias as string, port.doubleOf as string]],
      ),
    );
    const idle = this.learning === null;
    this.learning = new LearnRow(roles, this.gear.roles, { doubles });
    if (idle) this.pollLearning();
  }

  /** While learn waits, what is moved is not played; what was played before still ends. */
  private hearsWhileLearning(device: string, status: number, data1: number, data2: number, atMs: number): boolean {
    const port = inputsOf(this.gear!).find((candidate) => candidate.device === device)?.alias ?? device;
    this.learning!.hear({ port, atMs, status, data1, data2 });
    const kind = status & 0xf0;
    return (
      kind === 0x80 ||
      (kind === 0x90 && data2 === 0) ||
      (kind === 0xb0 && data1 >= 64 && data1 <= 67 && data2 < 64) ||
      status >= 0xf0
    );
  }

  private pollLearning(): void {
    const { learning } = this;
    if (learning === null) return;
    const step = learning.poll(this.parts.nowMs());
    if (step !== null) this.tellLearned(step);
    this.endLearningWhenDone();
    this.tellSnapshot();
    this.parts.after(LEARN_POLL_MS, () => this.pollLearning());
  }

  private tellLearned(step: LearnStep): void {
    this.taken = step.kind === 'taken' ? { by: step.by, saw: step.learned.saw } : null;
    if (step.kind === 'filled') this.parts.send({ type: 'learned', role: step.role, learned: step.learned });
  }

  private undoLearned(): void {
    const role = this.learning?.undo() ?? null;
    this.taken = null;
    if (role !== null) this.parts.send({ type: 'unlearned', role });
  }

  private endLearningWhenDone(): void {
    if (this.learning?.waitsFor === null) this.learning = null;
  }

  private computerKey(code: string, down: boolean): void {
    if (this.learning === null) this.engine.computerKey(code, down, this.parts.nowMs());
    else if (down) this.learning.hearComputerKey(code, this.parts.nowMs());
  }

  private setCount(instrumentId: string, count: number): void {
    const found = this.instruments.find((candidate) => candidate.id === instrumentId);
    const instrument = found?.kind === 'outboard' ? found : null;
    const destination = instrument ? this.book.findOutputPort(instrument.port) : -1;
    if (instrument && destination >= 0) this.engine.setCount(destination, instrument.channel - 1, count);
  }

  onSysex(device: string, length: number, atMs: number): void {
    this.engine.receiveSysex(this.book.findInput(device), length, atMs);
  }

  onInput(port: InPort, here: boolean): void {
    if (here) this.inputs.set(port.name, port);
    else this.inputs.delete(port.name);
    this.note(port, 'in', here);
    const number = this.book.findInput(port.name);
    if (number >= 0) {
      if (here) this.engine.inputBack(number, this.parts.nowMs());
      else this.engine.inputGone(number, this.parts.nowMs());
    }
    this.afterwards();
  }

  onOutput(port: OutPort, here: boolean): void {
    if (here) this.outputs.set(port.name, port);
    else this.outputs.delete(port.name);
    this.note(port, 'out', here);
    this.connectOutputs();
    this.afterwards();
  }

  private note(port: InPort | OutPort, direction: 'in' | 'out', alive: boolean): void {
    this.seen.set(`${direction} ${port.name}`, { name: port.name, direction, origin: port.origin, alive });
    this.parts.send({ type: 'ports', ports: [...this.seen.values()] });
  }

  /** Leads each output of the gear list to its device; one that is not here is away for the engine. */
  private connectOutputs(): void {
    const now = this.parts.nowMs();
    const devices = new Map(
      this.gear?.ports.filter((port) => port.direction === 'out' && port.on).map((port) => [port.alias, port.device]) ??
        [],
    );
    this.outputOf = this.book.destinations.map((entry) =>
      entry.kind === 'port' ? (this.outputs.get(devices.get(entry.alias) ?? '') ?? null) : null,
    );
    this.book.destinations.forEach((entry, destination) => {
      if (entry.kind !== 'port') return;
      if (this.outputOf[destination]) this.engine.outputBack(destination, now);
      else this.engine.outputGone(destination, now);
    });
  }

  // The engine's sink.

  /** @hotpath */
  send(destination: number, status: number, data1: number, data2: number): void {
    const port = this.outputOf[destination];
    if (port) port.send(status, data1, data2);
    else this.sound?.send(destination, status, data1, data2);
  }

  sendSysex(destination: number, bytes: Uint8Array): void {
    this.outputOf[destination]?.sendSysex(bytes);
  }

  balance(destination: number, values: Float64Array, at: number, rampMs: number): void {
    this.balances.set(destination, [values[at], values[at + 1], values[at + 2], values[at + 3]]);
    this.prepare(destination);
    this.sound?.balance(destination, values[at], values[at + 1], values[at + 2], values[at + 3], rampMs);
    this.sendShared(destination, rampMs);
  }

  effects(destination: number, effects: readonly Effect[], rampMs: number): void {
    this.effectsOf.set(destination, { of: this.layerOf.get(destination)?.effects, effects });
    this.sound?.effects(destination, effects, rampMs);
  }

  effectValue(destination: number, effectId: string, parameter: string, value: number): void {
    if (destination < 0) {
      this.movedShared.set(`${effectId} ${parameter}`, { effectId, parameter, value });
      return this.tellSharedEffects();
    }
    const effects = this.effectsNow(destination).map((effect) =>
      effect.id === effectId ? withEffectValue(effect, parameter, value) : effect,
    );
    this.effects(destination, effects, 0);
  }

  /** Effects of a layer as the engine has left them, or its own. */
  private effectsNow(destination: number): readonly Effect[] {
    const own = this.layerOf.get(destination)?.effects ?? [];
    const told = this.effectsOf.get(destination);
    return told && told.of === own ? told.effects : own;
  }

  /** Shared effects and those of the whole output, with what hands have moved of them. */
  private tellSharedEffects(): void {
    const { setlist } = this;
    if (!this.sound || !setlist) return;
    const moved = [...this.movedShared.values()];
    const lying = (effects: Effect[]): Effect[] =>
      moved.length === 0
        ? effects
        : effects.map((effect) =>
            moved.reduce(
              (current, { effectId, parameter, value }) =>
                effectId === effect.id ? withEffectValue(current, parameter, value) : current,
              effect,
            ),
          );
    this.sound.setSharedEffects(
      moved.length === 0
        ? setlist.sharedEffects
        : setlist.sharedEffects.map((shared) => ({ ...shared, effects: lying(shared.effects) })),
      lying(setlist.wholeEffects),
    );
  }

  fade(destination: number, fadeMs: number): void {
    this.sound?.fade(destination, fadeMs);
  }

  preset(destination: number, preset: number): void {
    const entry = this.book.destinations[destination];
    const presetId =
      entry.kind === 'layer'
        ? knownInstrument(entry.instrumentId, (id) => this.instruments.find((instrument) => instrument.id === id))
            ?.presets[preset]?.id
        : undefined;
    if (entry.kind !== 'layer' || presetId === undefined) return;
    this.stepped.set(destination, presetId);
    this.sound?.changePreset(destination, entry.instrumentId, presetId);
  }

  whole(which: number, value: number): void {
    this.wholes[which] = value;
    this.sound?.whole(which, value);
  }

  tempo(bpm: number): void {
    this.sound?.setTempo(bpm);
  }

  private prepare(destination: number): void {
    const entry = this.book.destinations[destination];
    if (!this.sound || entry.kind !== 'layer') return;
    const isNew = this.sound.prepare(
      destination,
      entry.instrumentId,
      this.stepped.get(destination) ?? entry.presetId,
      entry.label.layer,
    );
    const known = isNew ? this.balances.get(destination) : undefined;
    if (known) this.sound.balance(destination, known[0], known[1], known[2], known[3], 0);
    if (isNew)
      for (const { channel, controller, value } of this.engine.controllersSentTo(destination))
        this.sound.send(destination, 0xb0 | channel, controller, value);
    const layer = this.layerOf.get(destination);
    this.sound.route(destination, layer?.output ?? 'Main');
    this.sound.effects(destination, this.effectsNow(destination), 0);
  }

  /** What the present step sends of a layer to shared effects. */
  private sendShared(destination: number, rampMs: number): void {
    const { step } = this.engine;
    const part = this.sound && step ? step.patch.layers.findIndex((layer) => layer.destination === destination) : -1;
    if (part >= 0) this.sound!.sends(destination, step!.balance.sends[part], rampMs);
  }

  /** Live sound is heard in the layers of the present patch that are open, and nowhere else. */
  private openLive(): void {
    const { sound } = this;
    if (!sound) return;
    const lives = this.engine.liveSounds();
    for (const destination of this.openLives) {
      if (lives.some((live) => live.destination === destination)) continue;
      sound.live(destination, null, true, false);
      this.openLives.delete(destination);
    }
    for (const { destination, input, mono, open } of lives) {
      this.openLives.add(destination);
      sound.live(destination, input, mono, open);
    }
  }

  // The show.

  private takeShow({ songs, instruments, setlist, gear }: Extract<HostCommand, { type: 'show' }>): void {
    // What arrives is a copy; what did not change keeps its identity, so that it is not compiled again.
    const kept = songs.map((song) => {
      const known = this.songs.get(song.id);
      return known && sameJson(known, song) ? known : song;
    });
    this.songs = new Map(kept.map((song) => [song.id, song]));
    if (!sameJson(this.instruments, instruments)) {
      this.instruments = instruments;
      this.sound?.know(instruments);
    }
    const other = this.setlist !== null && this.setlist.id !== setlist.id;
    if (this.setlist) {
      if (sameJson(this.setlist.layers, setlist.layers)) setlist.layers = this.setlist.layers;
      if (sameJson(this.setlist.standing, setlist.standing)) setlist.standing = this.setlist.standing;
      if (sameJson(this.setlist.bindings, setlist.bindings)) setlist.bindings = this.setlist.bindings;
      if (sameJson(this.setlist.sharedEffects, setlist.sharedEffects))
        setlist.sharedEffects = this.setlist.sharedEffects;
      if (sameJson(this.setlist.wholeEffects, setlist.wholeEffects)) setlist.wholeEffects = this.setlist.wholeEffects;
    }
    this.setlist = setlist;
    this.tellSharedEffects();
    if (!sameJson(this.gear, gear)) {
      this.gear = gear;
      if (gear) this.sound?.setOutputs(gear.sound);
    }
    this.load(other);
  }

  private takeSong(song: Song): void {
    this.songs.set(song.id, song);
    this.load(false);
  }

  private load(toFirst: boolean): void {
    if (!this.setlist) return;
    this.compiled = this.compiler.compile(
      { songs: [...this.songs.values()], instruments: this.instruments },
      this.setlist,
      this.gear,
    );
    this.layerOf = new Map(
      this.compiled.patches.flatMap((patch) =>
        patch.layers
          .filter((layer) => !layer.outboard)
          .map((layer): [number, CompiledLayer] => [layer.destination, layer]),
      ),
    );
    this.bench.know([...this.songs.values()], this.setlist, this.instruments);
    this.sound?.keepOnly(new Set(this.layerOf.keys()));
    const place = this.engine.step === null ? this.place() : null;
    if (this.engine.step === null) this.connectOutputsOf();
    this.engine.load(this.compiled, this.parts.nowMs(), place ?? undefined);
    this.connectOutputs();
    if (toFirst) this.engine.perform('firstSong', this.parts.nowMs());
    this.prepareSong();
    this.soundSong();
  }

  /** Before the first recall: outputs must be there for its addresses. */
  private connectOutputsOf(): void {
    const devices = new Map(
      this.gear?.ports.filter((port) => port.direction === 'out' && port.on).map((port) => [port.alias, port.device]) ??
        [],
    );
    this.outputOf = this.book.destinations.map((entry) =>
      entry.kind === 'port' ? (this.outputs.get(devices.get(entry.alias) ?? '') ?? null) : null,
    );
  }

  /** Position where this browser left the set, with its counters' references; null when it was never there. */
  private place(): number | null {
    const kept = this.parts.memory.read();
    if (!kept || kept.setlistId !== this.setlist?.id || !this.compiled) return null;
    for (const { device, channel, program } of kept.counters) {
      const port = this.book.findInput(device);
      if (port >= 0) this.engine.setCounterReference(port * 16 + channel, program);
    }
    const found = this.compiled.steps.findIndex(
      (step) =>
        step.entryId === kept.entryId && step.patch.patchId === kept.patchId && step.balance.blendId === kept.blendId,
    );
    return found >= 0 ? found : null;
  }

  private remember(): void {
    const { step } = this.engine;
    if (!step || !this.setlist) return;
    this.parts.memory.write({
      setlistId: this.setlist.id,
      entryId: step.entryId,
      patchId: step.patch.patchId,
      blendId: step.balance.blendId,
      counters: this.engine
        .counterReferences()
        .map(([at, program]) => ({ device: this.book.inputs[at >> 4], channel: at & 15, program })),
    });
  }

  // Sound and machine.

  private async startSound(): Promise<void> {
    if (this.soundState === 'starting' || this.soundState === 'on') return;
    this.soundState = 'starting';
    this.tellSnapshot();
    try {
      this.sound = await this.parts.startSound({
        onReady: (destination, ready) => this.setReady(destination, ready),
        onTrouble: (text) => this.parts.send({ type: 'trouble', text }),
      });
      this.soundState = 'on';
      this.sound.know(this.instruments);
      this.tellSharedEffects();
      this.sound.setBenchLoop(this.bench.loops);
      if (this.gear) this.sound.setOutputs(this.gear.sound);
      this.wholes.forEach((value, which) => this.sound?.whole(which, value));
      if (this.engine.tempoBpm > 0) this.sound.setTempo(this.engine.tempoBpm);
      this.prepareSong();
      this.balances.forEach(([levelDb, pan, room, echo], destination) => {
        this.prepare(destination);
        this.sound?.balance(destination, levelDb, pan, room, echo, 0);
        this.sendShared(destination, 0);
      });
      this.soundSong();
    } catch {
      this.soundState = 'failed';
      this.parts.send({
        type: 'trouble',
        text: 'This browser gives no sound output. Check the sound device and try again; MIDI goes on meanwhile.',
      });
    }
    this.tellSnapshot();
  }

  private setReady(destination: number, ready: boolean): void {
    this.engine.setReady(destination, ready, this.parts.nowMs());
    this.afterwards();
  }

  /** What of the present song is not a matter of notes. */
  private soundSong(): void {
    const song = this.songs.get(this.engine.step?.patch.songId ?? '');
    if (song) this.sound?.setEchoNote(song.echoNote);
    this.openLive();
  }

  /** Gets the sounds of the present song ready ahead of their notes. */
  private prepareSong(): void {
    const { step } = this.engine;
    const entry = step && this.compiled?.entries[step.entry];
    if (!entry || !this.compiled) return;
    for (let position = entry.first; position < Math.min(entry.end + 1, this.compiled.steps.length); position++) {
      for (const layer of this.compiled.steps[position].patch.layers)
        if (!layer.outboard) this.prepare(layer.destination);
    }
  }

  private async connectMidi(): Promise<void> {
    this.midi = 'asking';
    this.tellSnapshot();
    this.midi = await connectWebMidi(this);
    this.tellSnapshot();
  }

  // What pages are told.

  /** @hotpath */
  private afterMessage(device: string, status: number, data1: number, data2: number): void {
    this.schedule();
    this.tellSnapshot();
    if (this.openLives.size > 0) this.openLive();
    if (this.engine.step !== this.lastStep)
      this.recalled(`${device} · ch ${(status & 15) + 1} · ${this.words(device, status, data1, data2)}`);
    else if ((status & 0xf0) === 0xc0) this.tellProgram(device, status, data1);
  }

  private tellProgram(device: string, status: number, data1: number): void {
    const ignored = this.engine.ignoredCounts()['no-such-program'];
    if (ignored === this.unknownPrograms) return;
    this.unknownPrograms = ignored;
    this.parts.send({
      type: 'lastWord',
      text: `${device} · ch ${(status & 15) + 1} · ${this.words(device, status, data1, 0)} → ${IGNORED_IN_WORDS['no-such-program']}`,
    });
  }

  /** A message as the panel of its device reads. */
  private words(device: string, status: number, data1: number, data2: number): string {
    const port = this.gear?.ports.find((candidate) => candidate.direction === 'in' && candidate.device === device);
    return messageInWords(status, data1, data2, {
      programsFrom: port?.programsFrom ?? this.setlist?.programsFrom ?? 1,
      middleC: port?.middleC ?? this.setlist?.middleC ?? 'C4',
    });
  }

  private recalled(cause: string): void {
    const { step } = this.engine;
    this.lastStep = step;
    this.remember();
    this.prepareSong();
    this.soundSong();
    if (step && cause)
      this.parts.send({
        type: 'lastWord',
        text: `${cause} → ${step.patch.song}: ${step.patch.name}${step.balance.name ? `, ${step.balance.name}` : ''}`,
      });
  }

  private afterwards(): void {
    if (this.engine.step !== this.lastStep) this.recalled('');
    else if (this.openLives.size > 0) this.openLive();
    this.schedule();
    this.tellSnapshot();
  }

  /** Asks to be woken when the next thing falls due. */
  private schedule(): void {
    const now = this.parts.nowMs();
    const due = this.engine.advance(now);
    if (due === this.dueMs) return;
    this.cancelDue?.();
    this.cancelDue = null;
    this.dueMs = due;
    if (due === Infinity) return;
    this.cancelDue = this.parts.after(due - now, () => {
      this.dueMs = Infinity;
      this.cancelDue = null;
      this.engine.advance(this.parts.nowMs());
      if (this.engine.step !== this.lastStep) this.recalled('timeline');
      this.schedule();
      this.tellSnapshot();
    });
  }

  private tellSnapshot(): void {
    if (this.snapshotWaits) return;
    this.snapshotWaits = true;
    this.cancelSettled?.();
    // Once more when what moves now has come to rest.
    this.cancelSettled = this.parts.after(SETTLED_MS, () => {
      this.cancelSettled = null;
      this.parts.send({ type: 'snapshot', snapshot: this.snapshot() });
    });
    this.parts.after(SNAPSHOT_MS, () => {
      this.snapshotWaits = false;
      this.parts.send({ type: 'snapshot', snapshot: this.snapshot() });
      if (this.bench.isMoving) this.tellBench();
      if (this.engine.isPlaying || this.bench.isMoving) this.tellSnapshot();
    });
  }

  private snapshot(): Snapshot {
    const { engine } = this;
    const { step } = engine;
    return {
      position: step ? Math.floor(step.position) : -1,
      entryId: step?.entryId ?? null,
      songId: step?.patch.songId ?? null,
      patchId: step?.patch.patchId ?? null,
      blendId: step?.balance.blendId ?? null,
      cursor: engine.cursor,
      nextPosition: engine.nextPosition,
      playing: engine.isPlaying,
      tick: engine.tickAt(this.parts.nowMs()),
      keys: engine.keysDown(),
      carried: engine.carried(),
      pedal: engine.isPedalDown(64),
      transpose: engine.transpose,
      holding: engine.isHolding,
      tempoBpm: engine.tempoBpm,
      controls: engine.controlStates(),
      learn: this.learnState(),
      sound: this.soundState,
      midi: this.midi,
      warning: this.warning,
      loading: engine.notReady(),
      waiting: engine.waitingForBeat(),
      balance: engine.balanceNow(),
    };
  }

  private learnState(): Snapshot['learn'] {
    const { learning } = this;
    if (learning === null || learning.waitsFor === null) return null;
    return {
      waitsFor: learning.waitsFor,
      left: learning.roles.length - learning.roles.indexOf(learning.waitsFor),
      isMoving: learning.isMoving,
      taken: this.taken,
    };
  }

  private tellBench(): void {
    this.parts.send({ type: 'bench', bench: this.bench.state() });
  }

  private watch(monitor: boolean, meters: boolean): void {
    const was = this.watching;
    this.watching = { monitor, meters };
    this.engine.observer = monitor ? { record: (record) => this.keep(record) } : null;
    if (monitor && !was.monitor) this.sendRecords();
    if (meters && !was.meters) this.sendLevels();
    this.tellBench();
    this.parts.send({ type: 'ports', ports: [...this.seen.values()] });
  }

  private keep(record: EngineRecord): void {
    if (record.type === 'warning') this.warning = record.code;
    this.records.push({ number: ++this.recordNumber, record });
    if (this.records.length > KEPT_RECORDS) this.records.splice(0, this.records.length - KEPT_RECORDS);
  }

  private sendRecords(): void {
    if (!this.watching.monitor) return;
    if (this.records.length > 0) this.parts.send({ type: 'records', records: this.records.splice(0) });
    this.parts.after(RECORDS_MS, () => this.sendRecords());
  }

  private sendLevels(): void {
    if (!this.watching.meters) return;
    const strikes = this.strikes.news();
    if (strikes) this.parts.send({ type: 'strikes', strikes });
    if (this.sound)
      this.parts.send({
        type: 'levels',
        levels: {
          ...this.sound.levels(
            this.engine.step?.patch.layers.filter((layer) => !layer.outboard).map((layer) => layer.destination) ?? [],
          ),
          delay: { systemMs: this.sound.delayMs(), rackleMs: this.handOver.summary().medianMs },
        },
      });
    this.parts.after(LEVELS_MS, () => this.sendLevels());
  }
}

const sameJson = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
