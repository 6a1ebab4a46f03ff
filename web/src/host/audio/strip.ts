import type { Effect, Send } from '@rackle/core/show';
import {
  CC_ALL_SOUND_OFF,
  CC_ATTACK,
  CC_BRIGHTNESS,
  CC_EXPRESSION,
  CC_MODULATION,
  CC_RELEASE,
  CC_RESONANCE,
  CC_SUSTAIN,
  CC_VIBRATO_DEPTH,
  CC_VIBRATO_RATE,
} from './controllers';
import { faderGain, gainOf } from './decibels';
import { Brightness } from './brightness';
import { EffectChain } from './effects/effectChain';
import type { EffectSurroundings } from './effects/effectCore';
import { KnownParam } from './knownParam';
import { Pan } from './pan';
import type { PresetSound } from './presets';
import type { Recipe } from './recipe';
import { StripVoices } from './stripVoices';
import type { Waves } from './waves';

const MOST_VIBRATO_CENTS = 45;
/** What is moved in less would click. */
const SHORTEST_RAMP_S = 0.016;
const SMOOTH_S = 0.03;
/** Speeds of a rotary speaker. */
const [SLOW, FAST] = [50, 100];
/** Lower than any key. */
const STILL_HZ = 8;
/** Below this an output counts as silent: −90 dB. */
const SILENT = gainOf(-90);
/** How long it has to be silent, in seconds. */
const SILENT_FOR_S = 1;

/** Where the strips of all layers meet. */
export interface Buses extends EffectSurroundings {
  master: AudioNode;
  room: AudioNode;
  echo: AudioNode;
  /** Input of a shared effect that the player has made; null: there is none of that name. */
  shared: (name: string) => AudioNode | null;
  noise: AudioBuffer;
  waves: Waves;
}

/** What is made note by note only, where a preset is sampled. */
const PLAIN: Partial<Recipe> = {};

type Rotary = Extract<Effect, { kind: 'rotary' }>;
const isRotary = (effect: Effect): effect is Rotary => effect.kind === 'rotary';

/** A rotary speaker on its way from its own speed to the other one, slow or fast. @param amount 0–1 */
function turned(effect: Rotary, amount: number): Rotary {
  const other = effect.speed > (SLOW + FAST) / 2 ? SLOW : FAST;
  return { ...effect, speed: effect.speed + amount * (other - effect.speed) };
}

/**
 * Of what a strip is made, only the plain way stands all the time: what runs by itself (vibrato, tremolo, wheels, the
 * meter, oscillators and loops of its effects) is started by the first note or live sound, and ends a while after all is
 * silent.
 *
 * One layer: voices or live sound → expression → tremolo → brightness → its effects → pan → level → output, with sends
 * behind the level.
 */
export class Strip {
  private readonly context: BaseAudioContext;
  private readonly expression: GainNode;
  private readonly pan: Pan;
  private readonly level: GainNode;
  private readonly roomSend: GainNode;
  private readonly echoSend: GainNode;
  private meter: AnalyserNode | null = null;
  private readonly vibrato: GainNode;
  /** What hands and recalls move. Straight ramps: a curve without end would be reckoned for every sample, all evening. */
  private readonly moved: Record<'level' | 'room' | 'echo' | 'expression' | 'vibrato', KnownParam>;
  // What a layer may never need costs nothing until it does: the vibrato's oscillator, the filters of brightness.
  private wobble: OscillatorNode | null = null;
  private readonly brightness: Brightness;
  private readonly tremolo: GainNode;
  private shaking: { oscillator: OscillatorNode; amount: GainNode } | null = null;
  private awake = false;
  /** Since when nothing feeds it, and since when it has been silent besides, in seconds of the context. */
  private fedS = 0;
  /** What rang in its effects has been cut: there is no tail to wait for. */
  private isCut = false;
  private silentS: number | null = null;
  private vibratoRate = 1;
  private main: AudioNode;
  private readonly voices: StripVoices;
  private readonly chain: EffectChain;
  /** To shared effects, by name. */
  private readonly sent = new Map<string, { gain: GainNode; level: KnownParam }>();
  private feeding: AudioNode | null = null;
  private readonly samples = new Float32Array(256);
  /** What deepens the vibrato, each for itself, 0–1: the most of them counts. */
  private readonly deepening = { wheel: 0, pressure: 0, depth: 0 };

  private readonly recipe: Pick<Recipe, 'vibrato' | 'tremolo'>;
  /** Behind those of the preset; null before the first. */
  private layerEffects: readonly Effect[] | null = null;

  constructor(
    private readonly sound: PresetSound,
    private readonly buses: Buses,
    readonly name: string,
    private bpm: number,
  ) {
    const { context } = buses;
    const recipe = sound.kind === 'recipe' ? sound.recipe : PLAIN;
    this.recipe = recipe;
    this.context = context;
    this.expression = context.createGain();
    this.pan = new Pan(context);
    this.level = context.createGain();
    this.roomSend = context.createGain();
    this.echoSend = context.createGain();
    this.vibrato = context.createGain();
    this.moved = {
      level: new KnownParam(this.level.gain, 1),
      room: new KnownParam(this.roomSend.gain, 0),
      echo: new KnownParam(this.echoSend.gain, 0),
      expression: new KnownParam(this.expression.gain, 1),
      vibrato: new KnownParam(this.vibrato.gain, recipe.vibrato?.cents ?? 0),
    };
    this.voices = new StripVoices(sound, buses, this.expression, this.vibrato);
    this.chain = new EffectChain(buses);
    this.tremolo = context.createGain();
    this.tremolo.gain.value = 1 - (recipe.tremolo?.depth ?? 0) / 2;
    this.brightness = new Brightness(context, this.chain.input);
    this.steadied(recipe).connect(this.tremolo).connect(this.brightness.input);
    this.chain.output.connect(this.pan.input);
    this.pan.output.connect(this.level);
    this.main = buses.master;
    this.level.connect(this.main);
    this.level.connect(this.roomSend).connect(buses.room);
    this.level.connect(this.echoSend).connect(buses.echo);
  }

  /** A tone that modulates itself stands a little to one side: what stands still of it is taken out. */
  private steadied({ oscillators }: Partial<Recipe>): AudioNode {
    if (!oscillators?.some(({ fm }) => fm)) return this.expression;
    const still = this.context.createBiquadFilter();
    still.type = 'highpass';
    still.frequency.value = STILL_HZ;
    return this.expression.connect(still);
  }

  /** What of it is still to be made before it sounds as it should, in small steps: its effects, one by one. */
  *complete(effects: readonly Effect[]): Generator<void> {
    yield* this.chain.steps(this.inSeries(effects), this.bpm);
    this.layerEffects ??= effects;
  }

  /** Those of the preset and of the layer. There is one rotary speaker: that of the layer takes the place of the preset's. */
  private inSeries(effects: readonly Effect[]): readonly Effect[] {
    const own = effects.some(isRotary) ? this.sound.effects.filter((effect) => !isRotary(effect)) : this.sound.effects;
    const all = own.length === 0 ? effects : [...own, ...effects];
    return this.modulation === 0 || !all.some(isRotary)
      ? all
      : all.map((effect) => (isRotary(effect) ? turned(effect, this.modulation) : effect));
  }

  /** Something begins to sound in it. */
  private wake(): void {
    this.silentS = null;
    this.isCut = false;
    if (this.awake) return;
    this.awake = true;
    const { context, recipe } = this;
    this.meter = context.createAnalyser();
    this.meter.fftSize = 256;
    this.level.connect(this.meter);
    if (recipe.tremolo) this.shaking = this.shake(recipe.tremolo);
    if (recipe.vibrato || this.modulation > 0) this.startWobble();
    this.chain.wake();
  }

  /**
   * Ends what runs by itself when nothing has sounded for long enough. To be asked now and then.
   * @returns whether it is at rest.
   */
  restIfSilent(): boolean {
    if (!this.awake) return true;
    const { currentTime } = this.context;
    if (this.voices.isSounding || this.feeding !== null) {
      this.fedS = currentTime;
      this.silentS = null;
      return false;
    }
    if (this.peak() > SILENT) this.silentS = null;
    else this.silentS ??= currentTime;
    const isOver = this.isCut || currentTime - Math.max(this.fedS, this.voices.endedS) > this.chain.tailS;
    if (this.silentS === null || currentTime - this.silentS < SILENT_FOR_S || !isOver) return false;
    this.rest();
    return true;
  }

  private rest(): void {
    if (!this.awake) return;
    this.awake = false;
    if (this.meter) this.level.disconnect(this.meter);
    this.meter = null;
    this.shaking?.oscillator.stop();
    this.shaking?.amount.disconnect();
    this.shaking = null;
    this.wobble?.stop();
    this.wobble?.disconnect();
    this.wobble = null;
    this.voices.rest();
    this.chain.rest();
  }

  private shake({ hz, depth }: NonNullable<Recipe['tremolo']>): NonNullable<Strip['shaking']> {
    const oscillator = this.context.createOscillator();
    oscillator.frequency.value = hz;
    const amount = this.context.createGain();
    amount.gain.value = depth / 2;
    oscillator.connect(amount).connect(this.tremolo.gain);
    oscillator.start();
    return { oscillator, amount };
  }

  private startWobble(): OscillatorNode {
    if (this.wobble !== null) return this.wobble;
    this.wobble = this.context.createOscillator();
    this.wobble.frequency.value = this.vibratoHz;
    this.wobble.connect(this.vibrato);
    this.wobble.start();
    return this.wobble;
  }

  private get vibratoHz(): number {
    return (this.recipe.vibrato?.hz ?? 5.3) * this.vibratoRate;
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
    return this.voices.holds(channel, key);
  }

  /** Its own effects, behind those of the preset. */
  effects(effects: readonly Effect[], bpm: number, rampMs: number): void {
    this.bpm = bpm;
    this.layerEffects = effects;
    this.chain.set(this.inSeries(effects), bpm, rampMs / 1000);
  }

  setTempo(bpm: number): void {
    this.bpm = bpm;
    this.chain.setTempo(bpm);
  }

  /** How much goes to each shared effect; those that are not named get nothing. */
  sends(sends: readonly Send[], rampMs: number): void {
    const rampS = Math.max(SHORTEST_RAMP_S, rampMs / 1000);
    for (const { to } of sends) {
      const input = this.sent.has(to) ? null : this.buses.shared(to);
      if (input === null) continue;
      const gain = this.context.createGain();
      this.level.connect(gain).connect(input);
      this.sent.set(to, { gain, level: new KnownParam(gain.gain, 0) });
    }
    for (const [to, { level }] of this.sent) {
      const percent = sends.find((send) => send.to === to)?.percent ?? 0;
      level.go(percent / 100, rampS, this.context.currentTime);
    }
  }

  /** The shared effects are others: sends are led anew. */
  dropSends(): void {
    for (const { gain } of this.sent.values()) {
      gain.disconnect();
      this.level.disconnect(gain);
    }
    this.sent.clear();
  }

  /** Live sound that goes through it; null: none. */
  feed(from: AudioNode | null): void {
    if (from === this.feeding) return;
    this.feeding?.disconnect(this.expression);
    this.feeding = from;
    if (from === null) return;
    this.wake();
    from.connect(this.expression);
  }

  /** Lets go of what it is made of; nothing may sound in it any more. */
  dispose(): void {
    this.feed(null);
    this.dropSends();
    this.rest();
    this.chain.dispose();
    for (const node of [this.expression, this.tremolo, this.level, this.roomSend, this.echoSend]) node.disconnect();
    this.pan.disconnect();
    this.brightness.disconnect();
  }

  get isSounding(): boolean {
    return this.voices.isSounding;
  }

  noteOn(channel: number, key: number, velocity: number): void {
    this.wake();
    this.voices.noteOn(channel, key, velocity);
  }

  /** Ends one of the note-ons of a key, the oldest first. */
  noteOff(channel: number, key: number): void {
    this.voices.noteOff(channel, key);
  }

  controller(channel: number, controller: number, value: number): void {
    const { currentTime } = this.context;
    if (controller === CC_SUSTAIN) this.voices.setSustain(value >= 64);
    else if (controller === CC_EXPRESSION) this.moved.expression.go((value / 127) ** 1.5, SMOOTH_S, currentTime);
    else if (controller === CC_MODULATION) this.modulate({ wheel: value / 127 });
    else if (controller >= CC_RESONANCE && controller <= CC_VIBRATO_DEPTH) this.soundController(controller, value);
    else if (controller === CC_ALL_SOUND_OFF) this.cut();
    else if (controller === 121) {
      this.modulate({ wheel: 0, pressure: 0 });
      this.moved.expression.go(1, SMOOTH_S, currentTime);
      this.voices.centre(channel);
    } else if (controller === 123) this.voices.allKeysUp(channel);
  }

  /** All sound off: voices end, and nothing rings on. */
  private cut(): void {
    this.voices.fade(SHORTEST_RAMP_S);
    if (!this.awake) return;
    this.chain.cut();
    this.isCut = true;
  }

  /** The sound controllers of MIDI (RP-021): 64 leaves the preset as it is. */
  private soundController(controller: number, value: number): void {
    const { currentTime } = this.context;
    const away = (value - 64) / 64;
    switch (controller) {
      case CC_BRIGHTNESS:
        this.brightness.bright(away);
        break;
      case CC_RESONANCE:
        this.brightness.resonance(away);
        break;
      case CC_ATTACK:
        this.voices.shape.attack = 8 ** away;
        break;
      case CC_RELEASE:
        this.voices.shape.release = 8 ** away;
        break;
      case CC_VIBRATO_RATE:
        this.vibratoRate = 2 ** away;
        this.wobble?.frequency.setTargetAtTime(this.vibratoHz, currentTime, 0.012);
        break;
      case CC_VIBRATO_DEPTH:
        this.modulate({ depth: Math.max(0, away) });
        break;
    }
  }

  /** Pressure deepens the vibrato as the wheel does. */
  pressure(value: number): void {
    this.modulate({ pressure: value / 127 });
  }

  /** How far the wheel and pressure lead. */
  private get modulation(): number {
    const { wheel, pressure, depth } = this.deepening;
    return Math.max(wheel, pressure, depth);
  }

  /** A rotary speaker goes to its other speed, slow or fast; where there is none, a vibrato comes. */
  private modulate(by: Partial<Strip['deepening']>): void {
    Object.assign(this.deepening, by);
    const effects = this.layerEffects ?? [];
    if (effects.some(isRotary) || this.sound.effects.some(isRotary)) {
      if (this.layerEffects !== null) this.chain.set(this.inSeries(effects), this.bpm);
      return;
    }
    if (this.modulation > 0 && this.awake) this.startWobble();
    const cents = (this.recipe.vibrato?.cents ?? 0) + this.modulation * MOST_VIBRATO_CENTS;
    this.moved.vibrato.go(cents, SMOOTH_S, this.context.currentTime);
  }

  /** Wheel, 14 bit; two semitones each way. */
  bend(channel: number, value: number): void {
    this.voices.bend(channel, value);
  }

  balance(levelDb: number, pan: number, room: number, echo: number, rampMs: number): void {
    const now = this.context.currentTime;
    const rampS = Math.max(SHORTEST_RAMP_S, rampMs / 1000);
    this.moved.level.go(faderGain(levelDb), rampS, now);
    this.pan.go(pan / 100, rampS, now);
    this.moved.room.go(room / 100, rampS, now);
    this.moved.echo.go(echo / 100, rampS, now);
  }

  /** Voices that sound now die away; later ones are not touched. */
  fade(fadeMs: number): void {
    this.voices.fade(fadeMs / 1000);
  }

  /** Voices whose keys are up end now, without their releases. */
  endReleased(): void {
    this.voices.endReleased();
  }

  peak(): number {
    if (this.meter === null) return 0;
    this.meter.getFloatTimeDomainData(this.samples);
    let peak = 0;
    for (const sample of this.samples) peak = Math.max(peak, Math.abs(sample));
    return peak;
  }
}
