import { faderGain } from './decibels';
import { quartersOf, type Effect, type NoteValue, type SharedEffect } from '@rackle/core/show';
import { delayLine, LONGEST_DELAY_S } from './effects/delay';
import { EffectChain } from './effects/effectChain';
import type { EffectCore, EffectSurroundings } from './effects/effectCore';
import { reverb } from './effects/reverb';
import { closedGate } from './gate';
import { KnownParam } from './knownParam';

const RAMP_S = 0.03;
const ROOM_S = 2.6;
const ROOM_DELAY_S = 0.018;
const FIRST_ECHO_S = 0.4;
const CUT_S = 0.01;
const GONE_MS = 250;

/** A send's way through an effect and back. */
interface Path {
  from: AudioNode;
  start: GainNode;
  core: EffectCore;
  /** Fades the way out as it is left. */
  end: GainNode;
}

interface Shared {
  about: SharedEffect;
  chain: EffectChain;
  back: GainNode;
  level: KnownParam;
}

/**
 * What layers are sent to: one room, one tempo delay, and the player's own shared effects. All of it returns to the
 * first output. What runs by itself runs only while a layer is awake, and for its own tail after that.
 */
export class Returns {
  readonly room: GainNode;
  readonly echo: GainNode;
  private readonly roomBack: GainNode;
  private readonly echoBack: GainNode;
  private readonly levels: { room: KnownParam; echo: KnownParam };
  private roomPath: Path;
  private echoPath: Path;
  private line: ReturnType<typeof delayLine>;
  /** How the echo is set: the time from repeat to repeat in seconds, and how much of each comes back. */
  private echoS = FIRST_ECHO_S;
  private repeats = 0.34;
  private shared: Shared[] = [];
  private bpm = 120;
  private echoQuarters = 0.75;
  private awake = false;
  /** Since when nothing is sent here, in seconds of the context. */
  private quietS = 0;

  constructor(private readonly around: EffectSurroundings) {
    const { context } = around;
    this.room = context.createGain();
    this.echo = context.createGain();
    this.roomBack = context.createGain();
    this.echoBack = context.createGain();
    this.levels = { room: new KnownParam(this.roomBack.gain, 1), echo: new KnownParam(this.echoBack.gain, 1) };
    this.roomPath = this.lead(this.room, this.makeRoom(), this.roomBack);
    this.line = delayLine(around, FIRST_ECHO_S, this.repeats);
    this.echoPath = this.lead(this.echo, this.line, this.echoBack);
  }

  /** The one room that is always there. */
  private makeRoom(): EffectCore {
    return reverb(this.around.context, ROOM_S, ROOM_DELAY_S);
  }

  private lead(from: AudioNode, core: EffectCore, to: AudioNode, afterCut = false): Path {
    const { context } = this.around;
    const start = afterCut ? closedGate(context) : context.createGain();
    const end = context.createGain();
    from.connect(start).connect(core.input);
    core.output.connect(end).connect(to);
    return { from, start, core, end };
  }

  /** A path falls silent in a moment, and is let go of. */
  private leave({ from, start, core, end }: Path): void {
    const { context, after } = this.around;
    new KnownParam(end.gain, 1).go(0, CUT_S, context.currentTime);
    from.disconnect(start);
    after(GONE_MS, () => {
      start.disconnect();
      end.disconnect();
      core.dispose();
    });
  }

  /** What still rings in room, echo and shared effects is gone: all of it anew, and empty. */
  cut(): void {
    if (!this.awake) return;
    for (const { chain } of this.shared) chain.cut();
    this.leave(this.roomPath);
    this.leave(this.echoPath);
    this.roomPath = this.lead(this.room, this.makeRoom(), this.roomBack, true);
    this.line = delayLine(this.around, this.echoS, this.repeats);
    this.line.wake?.();
    this.echoPath = this.lead(this.echo, this.line, this.echoBack, true);
  }

  /** Input of a shared effect, by its name; null: there is none such. */
  input(name: string): AudioNode | null {
    return this.shared.find(({ about }) => about.name === name)?.chain.input ?? null;
  }

  /** Everything comes back here. */
  leadTo(main: AudioNode): void {
    for (const back of [this.roomBack, this.echoBack, ...this.shared.map((shared) => shared.back)]) {
      back.disconnect();
      back.connect(main);
    }
  }

  setRoomLevel(gain: number): void {
    this.levels.room.go(gain, RAMP_S, this.around.context.currentTime);
  }

  setEchoLevel(gain: number): void {
    this.levels.echo.go(gain, RAMP_S, this.around.context.currentTime);
  }

  setEchoRepeats(percent: number): void {
    this.repeats = Math.min(0.95, Math.max(0, percent / 100));
    this.line.feed(this.repeats, 0.05);
  }

  setTempo(bpm: number): void {
    this.bpm = bpm;
    this.setEchoTime();
    for (const { chain } of this.shared) chain.setTempo(bpm);
  }

  setEchoNote(note: NoteValue): void {
    this.echoQuarters = quartersOf(note);
    this.setEchoTime();
  }

  private setEchoTime(): void {
    this.echoS = Math.min(LONGEST_DELAY_S, (60 / this.bpm) * this.echoQuarters);
    this.line.glide(this.echoS);
  }

  /**
   * Takes the shared effects as they are now.
   * @returns whether they are others than before, so that layers have to be sent to them anew.
   */
  set(shared: readonly SharedEffect[], main: AudioNode): boolean {
    const same =
      shared.length === this.shared.length &&
      shared.every(({ id, name }, i) => id === this.shared[i].about.id && name === this.shared[i].about.name);
    const old = this.shared;
    if (!same) this.shared = shared.map((about) => this.made(about, main));
    shared.forEach((about, i) => this.take(this.shared[i], about));
    if (same) return false;
    for (const { chain, back } of old) {
      back.disconnect();
      chain.dispose();
    }
    return true;
  }

  private made(about: SharedEffect, main: AudioNode): Shared {
    const chain = new EffectChain(this.around);
    const back = this.around.context.createGain();
    chain.output.connect(back).connect(main);
    if (this.awake) chain.wake();
    return { about, chain, back, level: new KnownParam(back.gain, 1) };
  }

  private take(shared: Shared, about: SharedEffect): void {
    shared.about = about;
    shared.chain.set(about.effects, this.bpm);
    const gain = faderGain(about.levelDb);
    shared.level.go(gain, RAMP_S, this.around.context.currentTime);
  }

  /** One parameter of an effect moved by hand, over what was told last. */
  moved(withValue: (effect: Effect) => Effect): void {
    for (const shared of this.shared) {
      const effects = shared.about.effects.map(withValue);
      if (effects.some((effect, i) => effect !== shared.about.effects[i]))
        this.take(shared, { ...shared.about, effects });
    }
  }

  wake(): void {
    if (this.awake) return;
    this.awake = true;
    this.line.wake?.();
    for (const { chain } of this.shared) chain.wake();
  }

  /** @param quiet whether no layer is awake. To be asked now and then. */
  restIfSilent(quiet: boolean): void {
    const { currentTime } = this.around.context;
    if (!quiet) this.quietS = currentTime;
    const tailS = Math.max(this.line.tailS(), ...this.shared.map(({ chain }) => chain.tailS));
    if (!this.awake || currentTime - this.quietS <= tailS) return;
    this.awake = false;
    this.line.rest?.();
    for (const { chain } of this.shared) chain.rest();
  }
}
