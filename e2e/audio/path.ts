// Runs in a page: what the path from voice to output does to a plain tone.
import { EFFECT_KINDS, Effect, effectCurve } from '@rackle/core/show';
import type { PresetSound } from '../../web/src/host/audio/presets';
import { Strip, type Buses } from '../../web/src/host/audio/strip';
import { RATE, rendered } from './buses';
import { dbOf } from './measures';

const BPM = 120;
const KEY = 57;

/** A sine that stands as long as its key is down: whatever else is heard, the path has made. */
const TONE: PresetSound = {
  kind: 'recipe',
  effects: [],
  recipe: {
    oscillators: [{ wave: 'sine', ratio: 1, gain: 1 }],
    envelope: { attackS: 0.01, decayS: 0.01, sustain: 1, releaseS: 0.05 },
    gainDb: -12,
    touch: 0,
  },
};

interface Stereo {
  left: Float32Array;
  right: Float32Array;
}

async function render(seconds: number, build: (buses: Buses) => [number, () => void][]): Promise<Stereo> {
  const buffer = await rendered(seconds, build);
  return { left: buffer.getChannelData(0), right: buffer.getChannelData(1) };
}

/** Above 6 kHz: a high pass of 1023 taps under a Blackman window. */
const HIGH_TAPS = 1023;
const HIGH = Float64Array.from({ length: HIGH_TAPS }, (_, i) => {
  const x = i - (HIGH_TAPS - 1) / 2;
  const cut = 6000 / RATE;
  const low = x === 0 ? 2 * cut : Math.sin(2 * Math.PI * cut * x) / (Math.PI * x);
  const share = i / (HIGH_TAPS - 1);
  const window = 0.42 - 0.5 * Math.cos(2 * Math.PI * share) + 0.08 * Math.cos(4 * Math.PI * share);
  return ((x === 0 ? 1 : 0) - low) * window;
});

function highPeak(samples: Float32Array, fromS: number, toS: number): number {
  const half = (HIGH_TAPS - 1) / 2;
  let most = 0;
  for (let at = Math.floor(fromS * RATE); at < toS * RATE; at++) {
    let sum = 0;
    for (let i = 0; i < HIGH_TAPS; i++) sum += HIGH[i] * (samples[at + i - half] ?? 0);
    most = Math.max(most, Math.abs(sum));
  }
  return most;
}

const powerOf = ({ left, right }: Stereo, fromS: number, toS: number): number => {
  let sum = 0;
  for (let i = Math.floor(fromS * RATE); i < toS * RATE; i++) sum += left[i] ** 2 + right[i] ** 2;
  return sum / ((toS - fromS) * RATE);
};
const levelDb = (sound: Stereo, fromS: number, toS: number): number => 10 * Math.log10(powerOf(sound, fromS, toS));
const peakOf = (samples: Float32Array, fromS: number, toS: number): number =>
  samples.subarray(fromS * RATE, toS * RATE).reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);

const effect = (kind: string, over: object = {}): Effect => Effect.parse({ id: 'e', kind, ...over });
const MOVED_S = 0.7;
/** So many turns, where it is done again and again. */
const AGAIN = 7;

/** Sound that comes on the left only, as of a bank's panned samples. */
function feedLeft(strip: Strip, { context }: Buses): void {
  const tone = context.createOscillator();
  tone.frequency.value = 220;
  const level = context.createGain();
  level.gain.value = 0.2;
  const sides = context.createChannelMerger(2);
  tone.connect(level).connect(sides, 0, 0);
  tone.start();
  strip.feed(sides);
}

/** What hands do to a layer that sounds, each with what it was before. */
const MOVES: Record<
  string,
  { first?: Effect[]; act: (strip: Strip) => void; again?: (strip: Strip) => void; oneSided?: true }
> = {
  'brightness up': { act: (strip) => strip.controller(0, 74, 100) },
  'brightness down': { act: (strip) => strip.controller(0, 74, 30) },
  resonance: { act: (strip) => strip.controller(0, 71, 100) },
  pan: { act: (strip) => strip.balance(0, -100, 0, 0, 0) },
  level: { act: (strip) => strip.balance(-12, 0, 0, 0, 0) },
  expression: { act: (strip) => strip.controller(0, 11, 30) },
  ...Object.fromEntries(
    EFFECT_KINDS.flatMap((kind) => [
      [`add ${kind}`, { act: (strip: Strip) => strip.effects([effect(kind)], BPM, 0) }],
      [`remove ${kind}`, { first: [effect(kind)], act: (strip: Strip) => strip.effects([], BPM, 0) }],
      [
        `switch ${kind} off`,
        { first: [effect(kind)], act: (strip: Strip) => strip.effects([effect(kind, { on: false })], BPM, 0) },
      ],
    ]),
  ),
  'filter type': {
    first: [effect('filter', { type: 'lowpass', hz: 800 })],
    act: (strip) => strip.effects([effect('filter', { type: 'highpass', hz: 100 })], BPM, 0),
  },
  'chorus depth': {
    first: [effect('chorus', { depth: 10 })],
    act: (strip) => strip.effects([effect('chorus', { depth: 100 })], BPM, 0),
  },
  'tremolo depth': {
    first: [effect('tremolo', { depth: 10 })],
    act: (strip) => strip.effects([effect('tremolo', { depth: 100 })], BPM, 0),
  },
  'rotary speed': {
    first: [effect('rotary', { speed: 50 })],
    act: (strip) => strip.effects([effect('rotary', { speed: 100, rampS: 0.1 })], BPM, 0),
  },
  'rotary depth': {
    first: [effect('rotary', { depth: 10 })],
    act: (strip) => strip.effects([effect('rotary', { depth: 100 })], BPM, 0),
  },
  'rotary by the wheel': { first: [effect('rotary')], act: (strip) => strip.controller(0, 1, 127) },
  'drive amount': {
    first: [effect('drive', { amount: 10 })],
    act: (strip) => strip.effects([effect('drive', { amount: 50 })], BPM, 0),
  },
  'chorus and room by turns, every 12 ms': {
    act: (strip) => strip.effects([effect('chorus')], BPM, 0),
    again: (strip) => strip.effects([effect('reverb')], BPM, 0),
  },
  'brightness of one side': { act: (strip) => strip.controller(0, 74, 40), oneSided: true },
  'filter type of one side': {
    first: [effect('filter', { type: 'lowpass', hz: 800 })],
    act: (strip) => strip.effects([effect('filter', { type: 'highpass', hz: 100 })], BPM, 0),
    oneSided: true,
  },
  'chorus of one side': { act: (strip) => strip.effects([effect('chorus')], BPM, 0), oneSided: true },
  'echo tempo': { first: [effect('delay')], act: (strip) => strip.setTempo(132) },
};

/** For each: how far below the tone what is heard above 6 kHz is while it is done, where it is more than before and after. */
async function moves(): Promise<{ what: string; clickDb: number }[]> {
  const found = [];
  for (const [what, { first, act, again, oneSided }] of Object.entries(MOVES)) {
    const sound = await render(1.7, (buses) => {
      const strip = new Strip(TONE, buses, what, BPM);
      strip.balance(0, 0, 0, 0, 0);
      if (first) strip.effects(first, BPM, 0);
      return [
        [0.02, () => (oneSided ? feedLeft(strip, buses) : strip.noteOn(0, KEY, 100))],
        ...Array.from({ length: again ? AGAIN : 1 }, (_, i): [number, () => void] => [
          MOVED_S + i * 0.012,
          () => (i % 2 === 1 ? again! : act)(strip),
        ]),
      ];
    });
    const worst = [sound.left, sound.right].map((side) => {
      const peak = Math.max(0.01, peakOf(side, 0.4, 0.6), peakOf(side, 1.3, 1.6));
      const steady = Math.max(highPeak(side, 0.45, 0.6), highPeak(side, 1.3, 1.6));
      return dbOf(Math.max(0, highPeak(side, MOVED_S - 0.01, 1.2) - steady) / peak);
    });
    found.push({ what, clickDb: Math.max(...worst) });
  }
  return found;
}

const NEUTRAL: Record<string, object> = {
  drive: { amount: 0 },
  chorus: { mix: 0 },
  phaser: { mix: 0 },
  tremolo: { depth: 0 },
  rotary: { depth: 0 },
  delay: { mix: 0 },
  reverb: { mix: 0 },
  compressor: { ratio: 1, makeUpDb: 0 },
  filter: { hz: 20_000, resonance: 0 },
  limiter: { ceilingDb: 0 },
};

/** By how many dB each effect changes the level at its neutral setting, switched off, and in front of a stereo one that is off. */
async function unity(): Promise<{ of: string; byDb: number }[]> {
  const tone = async (chain: Effect[], pan = 0): Promise<number> => {
    const sound = await render(0.8, (buses) => {
      const strip = new Strip(TONE, buses, 'unity', BPM);
      strip.balance(0, pan, 0, 0, 0);
      strip.effects(chain, BPM, 0);
      return [[0.02, () => strip.noteOn(0, KEY, 100)]];
    });
    return levelDb(sound, 0.4, 0.8);
  };
  const plain = await tone([]);
  const found = [];
  for (const kind of EFFECT_KINDS) {
    found.push({ of: `${kind}, neutral`, byDb: (await tone([effect(kind, NEUTRAL[kind])])) - plain });
    found.push({ of: `${kind}, off`, byDb: (await tone([effect(kind, { on: false })])) - plain });
  }
  for (const pan of [-100, -40, 60, 100]) {
    found.push({ of: `pan ${pan}`, byDb: (await tone([], pan)) - plain });
    found.push({
      of: `pan ${pan} behind a stereo effect`,
      byDb: (await tone([effect('chorus', { on: false })], pan)) - plain,
    });
  }
  return found;
}

/** The pitch of what an echo gives back while the tempo goes from one to another, in cents away from the tone; the worst. */
async function echoPitch(toBpm: number): Promise<number> {
  const sound = await render(2.4, (buses) => {
    const strip = new Strip(TONE, buses, 'echo', BPM);
    strip.balance(0, 0, 0, 0, 0);
    strip.effects([effect('delay', { mix: 100, repeats: 40 })], BPM, 0);
    return [
      [0.02, () => strip.noteOn(0, 81, 100)],
      [1.2, () => strip.setTempo(toBpm)],
    ];
  });
  const hz = 880;
  let worst = 0;
  // From crossing to crossing, a hundred of them at a time: a glide is heard in all of them, a change over in none.
  const crossings: number[] = [];
  for (let i = Math.floor(0.9 * RATE); i < 2.3 * RATE; i++) {
    const [before, now] = [sound.left[i - 1], sound.left[i]];
    if (before < 0 && now >= 0) crossings.push(i - 1 + before / (before - now));
  }
  for (let i = 40; i < crossings.length; i++) {
    const heard = (40 * RATE) / (crossings[i] - crossings[i - 40]);
    worst = Math.max(worst, Math.abs(1200 * Math.log2(heard / hz)));
  }
  return worst;
}

/** How often in a second a preset with a rotary speaker is loudest. @param ofLayer speed of one that the layer has; null: none @param wheel 0–127 */
async function rotors(ofLayer: number | null, wheel: number, pressures: number[] = []): Promise<number> {
  const sound: PresetSound = { ...TONE, effects: [effect('rotary', { depth: 100, rampS: 0.1 })] };
  const { left } = await render(5, (buses) => {
    const strip = new Strip(sound, buses, 'rotors', BPM);
    strip.balance(0, 0, 0, 0, 0);
    strip.effects(ofLayer === null ? [] : [effect('rotary', { depth: 100, rampS: 0.1, speed: ofLayer })], BPM, 0);
    strip.controller(0, 1, wheel);
    for (const pressure of pressures) strip.pressure(pressure);
    return [[0.02, () => strip.noteOn(0, 93, 100)]];
  });
  const step = RATE / 50;
  const levels = Array.from({ length: 200 }, (_, i) =>
    Math.sqrt(left.subarray((i + 50) * step, (i + 51) * step).reduce((sum, each) => sum + each * each, 0) / step),
  );
  const mean = levels.reduce((sum, level) => sum + level, 0) / levels.length;
  // What stands still is not counted for its last thousandth.
  return levels.filter((level, i) => i > 0 && levels[i - 1] < mean * 0.99 && level >= mean * 0.99).length / 4;
}

const PLACES = 40;
/** So far up and down the drawn line of an effect reaches. */
const DRAWN_DB = 24;

/** What an effect makes of each frequency, beside its drawn line; in dB, from 20 Hz to 20 kHz. */
async function response(kind: string, over: object): Promise<{ hz: number; heardDb: number; drawnDb: number }[]> {
  const chosen = effect(kind, over);
  const { left } = await render(1, (buses) => {
    const strip = new Strip(TONE, buses, 'response', BPM);
    strip.balance(0, 0, 0, 0, 0);
    strip.effects([chosen], BPM, 0);
    const impulse = buses.context.createBufferSource();
    impulse.buffer = buses.context.createBuffer(1, RATE, RATE);
    impulse.buffer.getChannelData(0)[0] = 1;
    strip.feed(impulse);
    impulse.start(0.1);
    return [];
  });
  const curve = effectCurve(chosen)!.points;
  return Array.from({ length: PLACES }, (_, i) => {
    const x = i / (PLACES - 1);
    const hz = 20 * 1000 ** x;
    let [re, im] = [0, 0];
    left.forEach((sample, at) => {
      re += sample * Math.cos((2 * Math.PI * hz * at) / RATE);
      im -= sample * Math.sin((2 * Math.PI * hz * at) / RATE);
    });
    const place = x * (curve.length - 1);
    const [low, high] = [curve[Math.floor(place)], curve[Math.min(curve.length - 1, Math.floor(place) + 1)]];
    const y = low[1] + (high[1] - low[1]) * (place % 1);
    return { hz, heardDb: dbOf(Math.hypot(re, im)), drawnDb: (2 * y - 1) * DRAWN_DB };
  });
}

Object.assign(globalThis, { path: { moves, unity, echoPitch, rotors, response } });
