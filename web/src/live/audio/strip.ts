import { CC_ATTACK, CC_BRIGHTNESS, CC_EXPRESSION, CC_MODULATION, CC_RELEASE, CC_RESONANCE, CC_SUSTAIN, CC_VIBRATO_DEPTH, CC_VIBRATO_RATE } from './controllers';
import type { Recipe } from './recipe';
import { Voice } from './voice';

const BEND_CENTS = 200;
const MOST_VIBRATO_CENTS = 45;
const MOST_VOICES = 32;
const WARM_UP_VOICES = 6;
const OPEN_HZ = 20_000;
const DULL_HZ = 220;
const BRIGHTEST_DB = 10;

/** Where the strips of all layers meet. */
export interface Desk {
  context: AudioContext;
  master: AudioNode;
  room: AudioNode;
  echo: AudioNode;
  noise: AudioBuffer;
  waves: WeakMap<readonly number[], PeriodicWave>;
}

interface ChannelBend {
  /** Cents of the wheel. */
  wheel: AudioParam;
  /** Wheel and vibrato together, as voices take them. */
  cents: GainNode;
  sustained: Set<Voice>;
  held: Map<number, Voice[]>;
}

/**
 * One built-in layer: voices → expression → tremolo → brightness → pan → level → output, with sends to reverb and delay behind the level.
 * Sixteen channels bend and hold apart from each other, for inputs that send each note on its own.
 */
export class Strip {
  private readonly context: BaseAudioContext;
  private readonly expression: GainNode;
  private readonly panner: StereoPannerNode;
  private readonly level: GainNode;
  private readonly roomSend: GainNode;
  private readonly echoSend: GainNode;
  private readonly meter: AnalyserNode;
  private readonly vibrato: GainNode;
  private readonly wobble: OscillatorNode;
  private readonly cutoff: BiquadFilterNode;
  private readonly shelf: BiquadFilterNode;
  /** Factors of attack and release times, for voices to come. */
  private readonly shape = { attack: 1, release: 1 };
  private main: AudioNode;
  private readonly channels: (ChannelBend | null)[] = new Array<ChannelBend | null>(16).fill(null);
  private readonly voices = new Set<Voice>();
  private readonly samples = new Float32Array(256);
  private sustain = false;
  private modulation = 0;

  constructor(private readonly recipe: Recipe, private readonly desk: Desk, readonly name: string) {
    const { context } = desk;
    this.context = context;
    this.expression = context.createGain();
    this.panner = context.createStereoPanner();
    this.level = context.createGain();
    this.roomSend = context.createGain();
    this.echoSend = context.createGain();
    this.meter = context.createAnalyser();
    this.meter.fftSize = 256;
    this.vibrato = context.createGain();
    this.vibrato.gain.value = recipe.vibrato?.cents ?? 0;
    this.wobble = context.createOscillator();
    this.wobble.frequency.value = recipe.vibrato?.hz ?? 5.3;
    this.wobble.connect(this.vibrato);
    this.wobble.start();
    this.cutoff = context.createBiquadFilter();
    this.cutoff.type = 'lowpass';
    this.cutoff.frequency.value = OPEN_HZ;
    this.shelf = context.createBiquadFilter();
    this.shelf.type = 'highshelf';
    this.shelf.frequency.value = 2800;
    this.roomSend.gain.value = 0;
    this.echoSend.gain.value = 0;
    const tremolo = context.createGain();
    if (recipe.tremolo) this.shake(tremolo, recipe.tremolo, context);
    this.expression.connect(tremolo).connect(this.cutoff).connect(this.shelf).connect(this.panner).connect(this.level);
    this.main = desk.master;
    this.level.connect(this.main);
    this.level.connect(this.meter);
    this.level.connect(this.roomSend).connect(desk.room);
    this.level.connect(this.echoSend).connect(desk.echo);
    this.warmUp();
  }

  /** Makes voices that go nowhere, so that the player's first note does not pay for what is done once. */
  private warmUp(): void {
    const nowhere = this.context.createGain();
    const cents = this.context.createGain();
    const recipes = this.recipe.kit ?? [this.recipe];
    for (let i = 0; i < WARM_UP_VOICES; i++) {
      const voice = new Voice(60, 1, recipes[i % recipes.length], { context: this.context, output: nowhere, bend: cents, noise: this.desk.noise, waves: this.desk.waves, shape: this.shape }, () => undefined);
      voice.release();
    }
    this.channel(0);
  }

  private shake(into: GainNode, { hz, depth }: NonNullable<Recipe['tremolo']>, context: AudioContext): void {
    const oscillator = context.createOscillator();
    oscillator.frequency.value = hz;
    const amount = context.createGain();
    amount.gain.value = depth / 2;
    into.gain.value = 1 - depth / 2;
    oscillator.connect(amount).connect(into.gain);
    oscillator.start();
  }

  /** Leads it to another output, without a click: both carry it for a moment. */
  route(main: AudioNode): void {
    if (main === this.main) return;
    const old = this.main;
    this.main = main;
    this.level.connect(main);
    this.level.disconnect(old);
  }

  /** Whether any note-on of a key is still to be ended here. */
  holds(channel: number, key: number): boolean {
    return this.channels[channel]?.held.has(key) ?? false;
  }

  /** Lets go of what it is made of; nothing may sound in it any more. */
  dispose(): void {
    this.level.disconnect();
    this.wobble.stop();
    for (const at of this.channels) at?.cents.disconnect();
  }

  get isSounding(): boolean {
    return this.voices.size > 0;
  }

  noteOn(channel: number, key: number, velocity: number): void {
    const { kit } = this.recipe;
    const recipe = kit ? kit[key % kit.length] : this.recipe;
    const at = this.channel(channel);
    if (this.voices.size >= MOST_VOICES) this.steal();
    const voice = new Voice(kit ? 36 + (key % 12) : key, velocity, recipe, {
      context: this.context, output: this.expression, bend: at.cents, noise: this.desk.noise, waves: this.desk.waves, shape: this.shape,
    }, (ended) => this.forget(at, ended));
    this.voices.add(voice);
    const held = at.held.get(key);
    if (held) held.push(voice);
    else at.held.set(key, [voice]);
  }

  /** Ends one of the note-ons of a key, the oldest first. */
  noteOff(channel: number, key: number): void {
    const at = this.channel(channel);
    const held = at.held.get(key);
    const voice = held?.shift();
    if (held?.length === 0) at.held.delete(key);
    if (!voice) return;
    if (this.sustain) at.sustained.add(voice);
    else voice.release();
  }

  controller(channel: number, controller: number, value: number): void {
    const { currentTime } = this.context;
    if (controller === CC_SUSTAIN) this.setSustain(value >= 64);
    else if (controller === CC_EXPRESSION) this.expression.gain.setTargetAtTime((value / 127) ** 1.5, currentTime, 0.012);
    else if (controller === CC_MODULATION) this.setVibrato(value / 127);
    else if (controller >= CC_RESONANCE && controller <= CC_VIBRATO_DEPTH) this.soundController(controller, value);
    else if (controller === 120) for (const voice of this.voices) voice.fade(0.01);
    else if (controller === 121) {
      this.setVibrato(0);
      this.expression.gain.setTargetAtTime(1, currentTime, 0.012);
      this.bend(channel, 8192);
    } else if (controller === 123) for (const key of [...this.channel(channel).held.keys()]) while (this.channel(channel).held.has(key)) this.noteOff(channel, key);
  }

  /** The sound controllers of MIDI (RP-021): 64 leaves the preset as it is. */
  private soundController(controller: number, value: number): void {
    const { currentTime } = this.context;
    const away = (value - 64) / 64;
    switch (controller) {
      case CC_BRIGHTNESS:
        this.cutoff.frequency.setTargetAtTime(away >= 0 ? OPEN_HZ : DULL_HZ * (OPEN_HZ / DULL_HZ) ** (1 + away), currentTime, 0.012);
        this.shelf.gain.setTargetAtTime(Math.max(0, away) * BRIGHTEST_DB, currentTime, 0.012);
        break;
      case CC_RESONANCE: this.cutoff.Q.setTargetAtTime(Math.max(0, away) * 12, currentTime, 0.012); break;
      case CC_ATTACK: this.shape.attack = 8 ** away; break;
      case CC_RELEASE: this.shape.release = 8 ** away; break;
      case CC_VIBRATO_RATE: this.wobble.frequency.setTargetAtTime((this.recipe.vibrato?.hz ?? 5.3) * 2 ** away, currentTime, 0.012); break;
      case CC_VIBRATO_DEPTH: this.setVibrato(Math.max(0, away)); break;
    }
  }

  /** Pressure deepens the vibrato as the wheel does. */
  pressure(value: number): void {
    this.setVibrato(Math.max(this.modulation, value / 127));
  }

  private setVibrato(amount: number): void {
    this.modulation = amount;
    this.vibrato.gain.setTargetAtTime((this.recipe.vibrato?.cents ?? 0) + amount * MOST_VIBRATO_CENTS, this.context.currentTime, 0.02);
  }

  private setSustain(down: boolean): void {
    this.sustain = down;
    if (down) return;
    for (const at of this.channels) {
      for (const voice of at?.sustained ?? []) voice.release();
      at?.sustained.clear();
    }
  }

  /** Wheel, 14 bit; two semitones each way. */
  bend(channel: number, value: number): void {
    this.channel(channel).wheel.setTargetAtTime(((value - 8192) / 8192) * BEND_CENTS, this.context.currentTime, 0.004);
  }

  balance(levelDb: number, pan: number, room: number, echo: number, rampMs: number): void {
    const now = this.context.currentTime;
    // A time constant of a third of the ramp is 95 % there at its end.
    const constant = Math.max(0.003, rampMs / 3000);
    this.level.gain.setTargetAtTime(levelDb <= -60 ? 0 : 10 ** (levelDb / 20), now, constant);
    this.panner.pan.setTargetAtTime(pan / 100, now, constant);
    this.roomSend.gain.setTargetAtTime(room / 100, now, constant);
    this.echoSend.gain.setTargetAtTime(echo / 100, now, constant);
  }

  /** Voices that sound now die away; later ones are not touched. */
  fade(fadeMs: number): void {
    for (const voice of this.voices) voice.fade(fadeMs / 1000);
  }

  peak(): number {
    this.meter.getFloatTimeDomainData(this.samples);
    let peak = 0;
    for (const sample of this.samples) peak = Math.max(peak, Math.abs(sample));
    return peak;
  }

  private channel(channel: number): ChannelBend {
    const known = this.channels[channel];
    if (known) return known;
    const source = this.context.createConstantSource();
    source.offset.value = 0;
    source.start();
    const cents = this.context.createGain();
    source.connect(cents);
    this.vibrato.connect(cents);
    const made: ChannelBend = { wheel: source.offset, cents, sustained: new Set(), held: new Map() };
    this.channels[channel] = made;
    return made;
  }

  private forget(at: ChannelBend, voice: Voice): void {
    this.voices.delete(voice);
    at.sustained.delete(voice);
  }

  /** Makes room: a released voice if there is one, else the oldest, fades in a few milliseconds. */
  private steal(): void {
    let victim: Voice | null = null;
    for (const voice of this.voices) {
      victim ??= voice;
      if (voice.released) {
        victim = voice;
        break;
      }
    }
    if (!victim) return;
    victim.fade(0.006);
    this.voices.delete(victim);
  }
}
