import type { Effect, Send } from '@rackle/core/show';
import {
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
import { EffectChain } from './effects/effectChain';
import type { EffectSurroundings } from './effects/effectCore';
import { KnownParam } from './knownParam';
import type { PresetSound } from './presets';
import type { Recipe } from './recipe';
import { SampleVoice } from './sampled/sampleVoice';
import type { SoundingVoice } from './soundingVoice';
import { Voice } from './voice';

const BEND_CENTS = 200;
const MOST_VIBRATO_CENTS = 45;
const MOST_VOICES = 32;
const OPEN_HZ = 20_000;
const DULL_HZ = 220;
const BRIGHTEST_DB = 10;
const CENTRE = 8192;
/** What is moved in less would click. */
const SHORTEST_RAMP_S = 0.01;
const SMOOTH_S = 0.03;
/** Below this an output counts as silent: −90 dB. */
const SILENT = 10 ** (-90 / 20);
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
  waves: WeakMap<readonly number[], PeriodicWave>;
}

interface ChannelBend {
  /** Runs only while the strip is awake. */
  source: ConstantSourceNode;
  /** Cents of the wheel. */
  wheel: AudioParam;
  /** Wheel and vibrato together, as voices take them. */
  cents: GainNode;
  sustained: Set<SoundingVoice>;
  held: Map<number, SoundingVoice[]>;
}

/** The voices of one note, as one. */
class VoiceGroup implements SoundingVoice {
  released = false;

  constructor(readonly voices: readonly SoundingVoice[]) {}

  release(): void {
    this.released = true;
    for (const voice of this.voices) voice.release();
  }

  fade(seconds: number): void {
    for (const voice of this.voices) voice.fade(seconds);
  }
}

const centsOf = (wheel: number): number => ((wheel - CENTRE) / CENTRE) * BEND_CENTS;

/** What is made note by note only, where a preset is sampled. */
const PLAIN: Pick<Recipe, 'vibrato' | 'tremolo'> = {};

/**
 * Of what a strip is made, only the plain way stands all the time: what runs by itself (vibrato, tremolo, wheels, the
 * meter, oscillators and loops of its effects) is started by the first note or live sound, and ends a while after all is
 * silent.
 *
 * One layer: voices or live sound → expression → tremolo → brightness → its effects → pan → level → output, with sends
 * behind the level.
 * Sixteen channels bend and hold apart from each other, for inputs that send each note on its own.
 */
export class Strip {
  private readonly context: BaseAudioContext;
  private readonly expression: GainNode;
  private readonly panner: StereoPannerNode;
  private readonly level: GainNode;
  private readonly roomSend: GainNode;
  private readonly echoSend: GainNode;
  private meter: AnalyserNode | null = null;
  private readonly vibrato: GainNode;
  /** What hands and recalls move. Straight ramps: a curve without end would be reckoned for every sample, all evening. */
  private readonly moved: Record<'level' | 'pan' | 'room' | 'echo' | 'expression' | 'vibrato', KnownParam>;
  // What a layer may never need costs nothing until it does: the vibrato's oscillator, and the two filters of
  // brightness.
  private wobble: OscillatorNode | null = null;
  private brightness: { cutoff: BiquadFilterNode; shelf: BiquadFilterNode } | null = null;
  private readonly tremolo: GainNode;
  private shaking: { oscillator: OscillatorNode; amount: GainNode } | null = null;
  private awake = false;
  /** Since when nothing feeds it, and since when it has been silent besides, in seconds of the context. */
  private endedS = 0;
  private silentS: number | null = null;
  private vibratoRate = 1;
  private readonly bends = new Float64Array(16).fill(CENTRE);
  /** Factors of attack and release times, for voices to come. */
  private readonly shape = { attack: 1, release: 1 };
  private main: AudioNode;
  private readonly channels: (ChannelBend | null)[] = new Array<ChannelBend | null>(16).fill(null);
  private readonly voices = new Set<SoundingVoice>();
  private readonly chain: EffectChain;
  /** To shared effects, by name. */
  private readonly sent = new Map<string, { gain: GainNode; level: KnownParam }>();
  /** The last voice of each group whose members silence each other. */
  private readonly groups = new Map<number, SoundingVoice>();
  private feeding: AudioNode | null = null;
  private readonly samples = new Float32Array(256);
  private sustain = false;
  private modulation = 0;

  private readonly recipe: Pick<Recipe, 'vibrato' | 'tremolo'>;

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
    this.panner = context.createStereoPanner();
    this.level = context.createGain();
    this.roomSend = context.createGain();
    this.echoSend = context.createGain();
    this.vibrato = context.createGain();
    this.moved = {
      level: new KnownParam(this.level.gain, 1),
      pan: new KnownParam(this.panner.pan, 0),
      room: new KnownParam(this.roomSend.gain, 0),
      echo: new KnownParam(this.echoSend.gain, 0),
      expression: new KnownParam(this.expression.gain, 1),
      vibrato: new KnownParam(this.vibrato.gain, recipe.vibrato?.cents ?? 0),
    };
    this.chain = new EffectChain(buses);
    this.tremolo = context.createGain();
    this.tremolo.gain.value = 1 - (recipe.tremolo?.depth ?? 0) / 2;
    this.expression.connect(this.tremolo).connect(this.chain.input);
    this.chain.output.connect(this.panner).connect(this.level);
    this.main = buses.master;
    this.level.connect(this.main);
    this.level.connect(this.roomSend).connect(buses.room);
    this.level.connect(this.echoSend).connect(buses.echo);
  }

  /** What of it is still to be made before it sounds as it should, in small steps: its effects, one by one. */
  *complete(effects: readonly Effect[]): Generator<void> {
    yield* this.chain.steps(this.inSeries(effects), this.bpm);
  }

  private inSeries(effects: readonly Effect[]): readonly Effect[] {
    return this.sound.effects.length === 0 ? effects : [...this.sound.effects, ...effects];
  }

  /** Something begins to sound in it. */
  private wake(): void {
    this.silentS = null;
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
    if (this.voices.size > 0 || this.feeding !== null) {
      this.endedS = currentTime;
      this.silentS = null;
      return false;
    }
    if (this.peak() > SILENT) this.silentS = null;
    else this.silentS ??= currentTime;
    const isOver = currentTime - this.endedS > this.chain.tailS;
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
    this.channels.forEach((at, channel) => {
      if (at === null) return;
      this.vibrato.disconnect(at.cents);
      at.source.stop();
      at.source.disconnect();
      at.cents.disconnect();
      this.channels[channel] = null;
    });
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

  /** The filters behind the tremolo; open, they leave the sound as it is. */
  private filters(): NonNullable<Strip['brightness']> {
    if (this.brightness) return this.brightness;
    const cutoff = this.context.createBiquadFilter();
    cutoff.type = 'lowpass';
    cutoff.frequency.value = OPEN_HZ;
    const shelf = this.context.createBiquadFilter();
    shelf.type = 'highshelf';
    shelf.frequency.value = 2800;
    this.tremolo.connect(cutoff).connect(shelf).connect(this.chain.input);
    this.tremolo.disconnect(this.chain.input);
    this.brightness = { cutoff, shelf };
    return this.brightness;
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

  /** Its own effects, behind those of the preset. */
  effects(effects: readonly Effect[], bpm: number, rampMs: number): void {
    this.bpm = bpm;
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
    for (const node of [this.expression, this.tremolo, this.panner, this.level, this.roomSend, this.echoSend])
      node.disconnect();
    this.brightness?.cutoff.disconnect();
    this.brightness?.shelf.disconnect();
  }

  get isSounding(): boolean {
    return this.voices.size > 0;
  }

  noteOn(channel: number, key: number, velocity: number): void {
    this.wake();
    const at = this.channel(channel);
    if (this.voices.size >= MOST_VOICES) this.steal();
    const voice =
      this.sound.kind === 'sampled'
        ? this.sampledVoice(at, key, velocity, this.sound)
        : this.madeVoice(at, key, velocity, this.sound.recipe);
    if (voice === null) return;
    this.voices.add(voice);
    const held = at.held.get(key);
    if (held) held.push(voice);
    else at.held.set(key, [voice]);
  }

  private madeVoice(at: ChannelBend, key: number, velocity: number, { kit, ...whole }: Recipe): SoundingVoice {
    const recipe = kit ? kit[key % kit.length] : whole;
    return new Voice(
      kit ? 36 + (key % 12) : key,
      velocity,
      recipe,
      {
        context: this.context,
        output: this.expression,
        bend: at.cents,
        noise: this.buses.noise,
        waves: this.buses.waves,
        shape: this.shape,
      },
      (ended) => this.forget(at, ended),
    );
  }

  /** The samples of every zone that takes the note; null when none does. */
  private sampledVoice(
    at: ChannelBend,
    key: number,
    velocity: number,
    { preset, buffers }: Extract<PresetSound, { kind: 'sampled' }>,
  ): SoundingVoice | null {
    const zones = preset.zones.filter(
      (zone) =>
        key >= zone.lowKey && key <= zone.highKey && velocity >= zone.lowVelocity && velocity <= zone.highVelocity,
    );
    if (zones.length === 0) return null;
    for (const group of new Set(zones.map((zone) => zone.group))) if (group !== 0) this.groups.get(group)?.fade(0.02);
    let left = zones.length;
    const note: { voice: SoundingVoice | null } = { voice: null };
    const voices = zones.map(
      (zone) =>
        new SampleVoice(
          key,
          velocity,
          zone,
          buffers[zone.sample],
          { context: this.context, output: this.expression, bend: at.cents, shape: this.shape },
          () => {
            left--;
            if (left === 0 && note.voice) this.forget(at, note.voice);
          },
        ),
    );
    note.voice = voices.length === 1 ? voices[0] : new VoiceGroup(voices);
    for (const { group } of zones) if (group !== 0) this.groups.set(group, note.voice);
    return note.voice;
  }

  /** Ends one of the note-ons of a key, the oldest first. */
  noteOff(channel: number, key: number): void {
    const at = this.channels[channel];
    const held = at?.held.get(key);
    const voice = held?.shift();
    if (held?.length === 0) at!.held.delete(key);
    if (!at || !voice) return;
    if (this.sustain) at.sustained.add(voice);
    else voice.release();
  }

  controller(channel: number, controller: number, value: number): void {
    const { currentTime } = this.context;
    if (controller === CC_SUSTAIN) this.setSustain(value >= 64);
    else if (controller === CC_EXPRESSION) this.moved.expression.go((value / 127) ** 1.5, SMOOTH_S, currentTime);
    else if (controller === CC_MODULATION) this.setVibrato(value / 127);
    else if (controller >= CC_RESONANCE && controller <= CC_VIBRATO_DEPTH) this.soundController(controller, value);
    else if (controller === 120) for (const voice of this.voices) voice.fade(0.01);
    else if (controller === 121) {
      this.setVibrato(0);
      this.moved.expression.go(1, SMOOTH_S, currentTime);
      this.bend(channel, CENTRE);
    } else if (controller === 123)
      for (const key of [...(this.channels[channel]?.held.keys() ?? [])])
        while (this.channels[channel]?.held.has(key)) this.noteOff(channel, key);
  }

  /** The sound controllers of MIDI (RP-021): 64 leaves the preset as it is. */
  private soundController(controller: number, value: number): void {
    const { currentTime } = this.context;
    const away = (value - 64) / 64;
    switch (controller) {
      case CC_BRIGHTNESS:
        this.filters().cutoff.frequency.setTargetAtTime(
          away >= 0 ? OPEN_HZ : DULL_HZ * (OPEN_HZ / DULL_HZ) ** (1 + away),
          currentTime,
          0.012,
        );
        this.filters().shelf.gain.setTargetAtTime(Math.max(0, away) * BRIGHTEST_DB, currentTime, 0.012);
        break;
      case CC_RESONANCE:
        this.filters().cutoff.Q.setTargetAtTime(Math.max(0, away) * 12, currentTime, 0.012);
        break;
      case CC_ATTACK:
        this.shape.attack = 8 ** away;
        break;
      case CC_RELEASE:
        this.shape.release = 8 ** away;
        break;
      case CC_VIBRATO_RATE:
        this.vibratoRate = 2 ** away;
        this.wobble?.frequency.setTargetAtTime(this.vibratoHz, currentTime, 0.012);
        break;
      case CC_VIBRATO_DEPTH:
        this.setVibrato(Math.max(0, away));
        break;
    }
  }

  /** Pressure deepens the vibrato as the wheel does. */
  pressure(value: number): void {
    this.setVibrato(Math.max(this.modulation, value / 127));
  }

  private setVibrato(amount: number): void {
    this.modulation = amount;
    if (amount > 0 && this.awake) this.startWobble();
    const cents = (this.recipe.vibrato?.cents ?? 0) + amount * MOST_VIBRATO_CENTS;
    this.moved.vibrato.go(cents, SMOOTH_S, this.context.currentTime);
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
    this.bends[channel] = value;
    this.channels[channel]?.wheel.setTargetAtTime(centsOf(value), this.context.currentTime, 0.004);
  }

  balance(levelDb: number, pan: number, room: number, echo: number, rampMs: number): void {
    const now = this.context.currentTime;
    const rampS = Math.max(SHORTEST_RAMP_S, rampMs / 1000);
    this.moved.level.go(levelDb <= -60 ? 0 : 10 ** (levelDb / 20), rampS, now);
    this.moved.pan.go(pan / 100, rampS, now);
    this.moved.room.go(room / 100, rampS, now);
    this.moved.echo.go(echo / 100, rampS, now);
  }

  /** Voices that sound now die away; later ones are not touched. */
  fade(fadeMs: number): void {
    for (const voice of this.voices) voice.fade(fadeMs / 1000);
  }

  /** Voices whose keys are up end now, without their releases. */
  endReleased(): void {
    for (const voice of this.voices) if (voice.released) voice.fade(SHORTEST_RAMP_S);
  }

  peak(): number {
    if (this.meter === null) return 0;
    this.meter.getFloatTimeDomainData(this.samples);
    let peak = 0;
    for (const sample of this.samples) peak = Math.max(peak, Math.abs(sample));
    return peak;
  }

  private channel(channel: number): ChannelBend {
    const known = this.channels[channel];
    if (known) return known;
    const source = this.context.createConstantSource();
    source.offset.value = centsOf(this.bends[channel]);
    source.start();
    const cents = this.context.createGain();
    source.connect(cents);
    this.vibrato.connect(cents);
    const made: ChannelBend = { source, wheel: source.offset, cents, sustained: new Set(), held: new Map() };
    this.channels[channel] = made;
    return made;
  }

  private forget(at: ChannelBend, voice: SoundingVoice): void {
    this.voices.delete(voice);
    at.sustained.delete(voice);
    this.endedS = this.context.currentTime;
  }

  /** Makes room: a released voice if there is one, else the oldest, fades in a few milliseconds. */
  private steal(): void {
    let victim: SoundingVoice | null = null;
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
