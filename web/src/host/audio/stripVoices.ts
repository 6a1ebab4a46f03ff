import type { PresetSound } from './presets';
import type { Recipe } from './recipe';
import { hitOf } from './recipes/kit';
import { SampleVoice } from './sampled/sampleVoice';
import type { SoundingVoice } from './soundingVoice';
import type { Buses } from './strip';
import { Voice } from './voice';

const BEND_CENTS = 200;
/** What is made rings half as long so many keys higher. */
const KEYS_TO_HALF = 24;
const MIDDLE_KEY = 60;
/** Hits of kits are made to be played there. */
const KIT_KEY = 40;
const MOST_VOICES = 32;
const CENTRE = 8192;
const END_RELEASED_S = 0.01;

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

/**
 * The voices of a strip. Sixteen channels bend and hold apart from each other, for inputs that send each note on its
 * own.
 */
export class StripVoices {
  /** Factors of attack and release times, for voices to come. */
  readonly shape = { attack: 1, release: 1 };
  /** When the last voice ended, in seconds of the context. */
  endedS = 0;
  private readonly bends = new Float64Array(16).fill(CENTRE);
  private readonly channels: (ChannelBend | null)[] = new Array<ChannelBend | null>(16).fill(null);
  private readonly voices = new Set<SoundingVoice>();
  /** The last voice of each group whose members silence each other. */
  private readonly groups = new Map<number, SoundingVoice>();
  /** Where voices stand that are not in the middle: all of a place leave by one node. */
  private readonly places = new Map<number, StereoPannerNode>();
  private sustain = false;

  /**
   * @param output where voices go; @param vibrato cents that bend all channels alike
   */
  constructor(
    private readonly sound: PresetSound,
    private readonly buses: Pick<Buses, 'context' | 'noise' | 'waves'>,
    private readonly output: AudioNode,
    private readonly vibrato: AudioNode,
  ) {}

  get isSounding(): boolean {
    return this.voices.size > 0;
  }

  /** Whether any note-on of a key is still to be ended here. */
  holds(channel: number, key: number): boolean {
    return this.channels[channel]?.held.has(key) ?? false;
  }

  noteOn(channel: number, key: number, velocity: number): void {
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
    const hit = kit && hitOf(key);
    const recipe = kit && hit ? kit[hit.place] : whole;
    return new Voice(
      hit ? KIT_KEY + hit.semitones : key,
      velocity,
      recipe,
      {
        context: this.buses.context,
        output: this.output,
        bend: at.cents,
        noise: this.buses.noise,
        waves: this.buses.waves,
        shape: this.shape,
        decay: kit ? 1 : 2 ** ((MIDDLE_KEY - key) / KEYS_TO_HALF),
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
          { context: this.buses.context, outputAt: this.outputAt, bend: at.cents, shape: this.shape },
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

  private readonly outputAt = (pan: number): AudioNode => {
    if (pan === 0) return this.output;
    const known = this.places.get(pan);
    if (known) return known;
    const place = this.buses.context.createStereoPanner();
    place.pan.value = pan;
    place.connect(this.output);
    this.places.set(pan, place);
    return place;
  };

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

  /** Every key of a channel goes up. */
  allKeysUp(channel: number): void {
    for (const key of [...(this.channels[channel]?.held.keys() ?? [])])
      while (this.holds(channel, key)) this.noteOff(channel, key);
  }

  setSustain(down: boolean): void {
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
    this.channels[channel]?.wheel.setTargetAtTime(centsOf(value), this.buses.context.currentTime, 0.004);
  }

  centre(channel: number): void {
    this.bend(channel, CENTRE);
  }

  /** Voices that sound now die away; later ones are not touched. */
  fade(seconds: number): void {
    for (const voice of this.voices) voice.fade(seconds);
  }

  /** Voices whose keys are up end now, without their releases. */
  endReleased(): void {
    for (const voice of this.voices) if (voice.released) voice.fade(END_RELEASED_S);
  }

  /** What runs by itself ends: nothing sounds. */
  rest(): void {
    this.channels.forEach((at, channel) => {
      if (at === null) return;
      this.vibrato.disconnect(at.cents);
      at.source.stop();
      at.source.disconnect();
      at.cents.disconnect();
      this.channels[channel] = null;
    });
    for (const place of this.places.values()) place.disconnect();
    this.places.clear();
  }

  private channel(channel: number): ChannelBend {
    const known = this.channels[channel];
    if (known) return known;
    const source = this.buses.context.createConstantSource();
    source.offset.value = centsOf(this.bends[channel]);
    source.start();
    const cents = this.buses.context.createGain();
    source.connect(cents);
    this.vibrato.connect(cents);
    const made: ChannelBend = { source, wheel: source.offset, cents, sustained: new Set(), held: new Map() };
    this.channels[channel] = made;
    return made;
  }

  private forget(at: ChannelBend, voice: SoundingVoice): void {
    this.voices.delete(voice);
    at.sustained.delete(voice);
    this.endedS = this.buses.context.currentTime;
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
