// Runs in a page: renders the built-in instruments without real time, so that every sample can be looked at.
import { EFFECT_KINDS, EFFECT_PARAMETERS, Effect, withEffectValue } from '@rackle/core/show';
import { LayerSound } from '../../web/src/host/audio/layerSound';
import { RECIPES } from '../../web/src/host/audio/recipes';
import type { PresetSound } from '../../web/src/host/audio/presets';
import { Returns } from '../../web/src/host/audio/returns';
import { Strip } from '../../web/src/host/audio/strip';
import { RATE, render } from './buses';
import { dbOf, peakOf } from './measures';
import { bank, generators, heard } from './userBank';

/** The sound of a built-in preset. */
const sound = (id: string): PresetSound => ({ kind: 'recipe', recipe: RECIPES[id], effects: [] });
const BPM = 120;

/** The second difference: what a click has and a tone has little of. */
const roughness = (samples: Float32Array, fromS: number, toS: number): number => {
  let most = 0;
  for (let i = Math.floor(fromS * RATE) + 2; i < toS * RATE; i++)
    most = Math.max(most, Math.abs(samples[i] - 2 * samples[i - 1] + samples[i - 2]));
  return most;
};
/** The quietest stretch of 5 ms, as root mean square. */
const quietest = (samples: Float32Array, fromS: number, toS: number): number => {
  const length = Math.round(RATE * 0.005);
  let least = Infinity;
  for (let start = Math.floor(fromS * RATE); start + length < toS * RATE; start += length) {
    let sum = 0;
    for (let i = start; i < start + length; i++) sum += samples[i] ** 2;
    least = Math.min(least, Math.sqrt(sum / length));
  }
  return least;
};

/**
 * For each preset: how loud a soft and a hard note are, what is left a while after it has been let go, and a print of
 * its sound.
 */
async function presets(): Promise<{ id: string; soft: number; hard: number; after: number; print: string }[]> {
  const found = [];
  for (const id of Object.keys(RECIPES)) {
    // Kits have another hit on each key.
    const keys = RECIPES[id].kit ? [38, 42, 45] : [60, 61];
    const note = (velocity: number) =>
      render(1.2, (buses) => {
        const strip = new Strip(sound(id), buses, id, BPM);
        return [
          [0.01, () => keys.forEach((key) => strip.noteOn(0, key, velocity))],
          [0.9, () => keys.forEach((key) => strip.noteOff(0, key))],
        ];
      });
    const [soft, hard] = [await note(30), await note(110)];
    found.push({
      id,
      soft: peakOf(soft),
      hard: peakOf(hard),
      after: peakOf(hard.subarray(RATE * 1.15)),
      print: [...hard.subarray(900, 1100), ...hard.subarray(9000, 9200)].map((sample) => sample.toFixed(3)).join(' '),
    });
  }
  return found;
}

/** A chord held in one patch, a recall, a chord in the next, the first let go: as the engine has the strips play it. */
async function recall(): Promise<{
  peak: number;
  steadyRoughness: number;
  recallRoughness: number;
  quietestAcross: number;
  quietestBefore: number;
}> {
  const samples = await render(3, (buses) => {
    const old = new Strip(sound('drawbar-house/small-stop'), buses, 'old', BPM);
    const next = new Strip(sound('fogbank/low-cloud'), buses, 'next', BPM);
    old.balance(-6, 0, 0, 0, 0);
    return [
      [0.05, () => [60, 64, 67].forEach((key) => old.noteOn(0, key, 80))],
      [1, () => next.balance(-9, 20, 30, 0, 12)],
      [1.02, () => [55, 62].forEach((key) => next.noteOn(0, key, 80))],
      [1.6, () => [60, 64, 67].forEach((key) => old.noteOff(0, key))],
      // A blend of the second patch, and its fade.
      [2, () => next.balance(-20, -20, 0, 0, 300)],
      [2.4, () => next.fade(200)],
    ];
  });
  return {
    peak: peakOf(samples),
    steadyRoughness: roughness(samples, 0.4, 0.95),
    recallRoughness: roughness(samples, 0.98, 2.95),
    quietestBefore: quietest(samples, 0.4, 0.95),
    quietestAcross: quietest(samples, 0.95, 1.6),
  };
}

/**
 * Presets of one layer swapped again and again while another layer holds a chord, as hearing through a list of sounds
 * does. What the
 * swapping itself does to the sound is the difference to the same chord held without it.
 */
async function swap(): Promise<{ loudest: number; clickDb: number; longestGapMs: number }> {
  const ids = [
    'causeway/late-boat',
    'fogbank/harbour',
    'quayside/stabs',
    'bellrope/music-box',
    'parlour/front-room',
    'wicklight/flame',
  ];
  const held = (swaps: boolean) =>
    render(4, (buses) => {
      const chord = new Strip(sound('drawbar-house/small-stop'), buses, 'chord', BPM);
      chord.balance(-6, 0, 0, 0, 0);
      const layer = new LayerSound(sound(ids[0]), buses, 'swapped', BPM);
      layer.route(buses.master);
      layer.balance(-6, 0, 0, 0, 0);
      return [
        [0.05, () => [55, 60, 64, 67].forEach((key) => chord.noteOn(0, key, 80))],
        ...(swaps
          ? Array.from({ length: 24 }, (_, i): [number, () => void] => [
              1 + i * 0.1,
              () => layer.change(sound(ids[(i + 1) % ids.length])),
            ])
          : []),
      ];
    });
  const [plain, swapped] = [await held(false), await held(true)];
  const difference = swapped.map((sample, i) => sample - plain[i]);
  // A gap: a stretch in which the chord, which is steady, falls to a tenth of its usual level.
  const length = Math.round(RATE * 0.001);
  const usual = quietest(plain, 0.5, 3.9);
  let longest = 0;
  let run = 0;
  for (let start = RATE; start + length < RATE * 3.9; start += length) {
    let most = 0;
    for (let i = start; i < start + length * 4; i++) most = Math.max(most, Math.abs(swapped[i]));
    run = most < usual / 10 ? run + 1 : 0;
    longest = Math.max(longest, run);
  }
  return { loudest: peakOf(plain), clickDb: dbOf(peakOf(difference)), longestGapMs: longest };
}

/**
 * The same under a held note of the swapped layer itself: it goes on in the old sound, and the new one joins without a
 * click.
 */
async function swapHeld(): Promise<{
  steadyRoughness: number;
  swapRoughness: number;
  quietestBefore: number;
  quietestAcross: number;
}> {
  const samples = await render(3, (buses) => {
    const layer = new LayerSound(sound('drawbar-house/small-stop'), buses, 'layer', BPM);
    layer.route(buses.master);
    layer.balance(-6, 0, 0, 0, 0);
    return [
      [0.05, () => [60, 64, 67].forEach((key) => layer.noteOn(0, key, 80))],
      [1, () => layer.change(sound('fogbank/low-cloud'))],
      [1.4, () => layer.noteOn(0, 55, 80)],
      [2.2, () => [60, 64, 67].forEach((key) => layer.noteOff(0, key))],
    ];
  });
  return {
    steadyRoughness: roughness(samples, 0.4, 0.95),
    swapRoughness: roughness(samples, 0.98, 2.95),
    quietestBefore: quietest(samples, 0.4, 0.95),
    quietestAcross: quietest(samples, 0.95, 2.1),
  };
}

/** 32 layers over eight instruments with 64 voices that sound all the time: how long 20 seconds of it take to make. */
async function load(): Promise<{ seconds: number; tookMs: number; peak: number; silentMs: number }> {
  const seconds = 20;
  const ids = [
    'causeway/late-boat',
    'parlour/front-room',
    'drawbar-house/full-house',
    'bellows/musette',
    'bowline/ensemble',
    'quayside/stabs',
    'fogbank/harbour',
    'keelson/round',
  ];
  const strips: Strip[] = [];
  const started = performance.now();
  const samples = await render(seconds, (buses) => {
    for (let i = 0; i < 32; i++) {
      const strip = new Strip(sound(ids[i % ids.length]), buses, String(i), BPM);
      strip.balance(-24, (i % 9) * 20 - 80, 0, 0, 0);
      strips.push(strip);
    }
    // Two keys a layer, held all the time; struck anew before any of them has died away.
    return Array.from({ length: Math.floor(seconds / 3.5) }, (_, s): [number, () => void] => [
      s * 3.5 + 0.05,
      () =>
        strips.forEach((strip, i) =>
          [0, 7].forEach((interval) => {
            if (s > 0) strip.noteOff(0, 40 + i + interval);
            strip.noteOn(0, 40 + i + interval, 90);
          }),
        ),
    ]);
  });
  const tookMs = performance.now() - started;
  const length = Math.round(RATE * 0.005);
  let silent = 0;
  for (let start = RATE; start + length < RATE * (seconds - 1); start += length)
    if (peakOf(samples.subarray(start, start + length)) < 1e-5) silent += 5;
  return { seconds, tookMs, peak: peakOf(samples), silentMs: silent };
}

/**
 * What each effect does to a steady tone: how far its sound is from the tone without it, and whether switching it on
 * clicks.
 */
async function effects(): Promise<{ kind: string; differs: number; peak: number }[]> {
  const found = [];
  for (const kind of EFFECT_KINDS) {
    const tone = (chain: Effect[]) =>
      render(1.5, (buses) => {
        const strip = new Strip(sound('wicklight/two-lamps'), buses, kind, BPM);
        strip.effects(chain, BPM, 0);
        return [
          [0.05, () => strip.noteOn(0, 57, 100)],
          [0.8, () => strip.noteOff(0, 57)],
        ];
      });
    const strong = {
      equaliser: { lowDb: 12, highDb: -12 },
      drive: { amount: 80 },
      compressor: { thresholdDb: -50, ratio: 10 },
      filter: { hz: 500 },
      limiter: { ceilingDb: -24 },
      reverb: { mix: 60 },
      delay: { mix: 60, note: '1/8' },
    } as Record<string, object>;
    const [dry, wet] = [await tone([]), await tone([Effect.parse({ id: 'e', kind, ...strong[kind] })])];
    let sum = 0;
    for (let i = 0; i < dry.length; i++) sum += (dry[i] - wet[i]) ** 2;
    found.push({ kind, differs: Math.sqrt(sum / dry.length), peak: peakOf(wet) });
  }
  return found;
}

/** Each parameter of each effect at both its ends, glided to while a tone sounds: what is heard there, or what it threw. */
async function effectEnds(): Promise<{ of: string; low: number; high: number; threw: string | null }[]> {
  const found = [];
  for (const kind of EFFECT_KINDS)
    for (const parameter of EFFECT_PARAMETERS[kind]) {
      let threw: string | null = null;
      const samples = await render(1.2, (buses) => {
        const strip = new Strip(sound('wicklight/two-lamps'), buses, kind, BPM);
        const at = (value: number) => (): void => {
          try {
            strip.effects([withEffectValue(Effect.parse({ id: 'e', kind }), parameter.name, value)], BPM, 0.05);
          } catch (cause) {
            threw = String(cause);
          }
        };
        at(parameter.low)();
        return [
          [0.05, () => strip.noteOn(0, 57, 100)],
          [0.4, at(parameter.high)],
          [0.8, at(parameter.low)],
        ];
      });
      const within = (fromS: number, toS: number): number => peakOf(samples.slice(fromS * RATE, toS * RATE));
      found.push({ of: `${kind} ${parameter.name}`, low: within(0.2, 0.4), high: within(0.6, 0.8), threw });
    }
  return found;
}

/** What a flat equaliser adds to a chord, in dB below the chord. */
async function flatEqualiser(): Promise<number> {
  const chord = (chain: Effect[]) =>
    render(1.5, (buses) => {
      const strip = new Strip(sound('drawbar-house/small-stop'), buses, 'flat', BPM);
      strip.effects(chain, BPM, 0);
      return [[0.05, () => [40, 52, 64, 76, 88].forEach((key) => strip.noteOn(0, key, 90))]];
    });
  const [plain, flat] = [await chord([]), await chord([Effect.parse({ id: 'e', kind: 'equaliser' })])];
  const from = Math.round(RATE * 0.7);
  const difference = plain.slice(from).map((sample, i) => sample - flat[from + i]);
  return dbOf(peakOf(difference)) - dbOf(peakOf(plain.slice(from)));
}

/** A layer that is cut: what is left 30 ms later, in dB below what sounded, and how rough the cut is beside the tone. */
async function cut(): Promise<{ id: string; leftDb: number; rougher: number }[]> {
  const found = [];
  for (const id of ['fogbank/harbour', 'bellrope/music-box', 'parlour/front-room', 'drawbar-house/chapel-row']) {
    const samples = await render(1.2, (buses) => {
      const strip = new Strip(sound(id), buses, 'cut', BPM);
      return [
        [0.05, () => [48, 60, 67].forEach((key) => strip.noteOn(0, key, 100))],
        // One key is up already and rings on.
        [0.45, () => strip.noteOff(0, 60)],
        [0.6, () => strip.fade(18)],
        [0.6, () => [48, 67].forEach((key) => strip.noteOff(0, key))],
      ];
    });
    const before = peakOf(samples.slice(RATE * 0.5, RATE * 0.6));
    const leftDb = dbOf(peakOf(samples.slice(RATE * 0.63))) - dbOf(before);
    found.push({ id, leftDb, rougher: roughness(samples, 0.595, 0.63) / roughness(samples, 0.4, 0.59) });
  }
  return found;
}

/**
 * All sound off while effects, room and echo ring with many repeats: what is left, in dB below what rang, how rough it
 * is beside the tone, and how loud the next note is beside the first.
 */
async function allSoundOff(): Promise<{ leftDb: number; rougher: number; nextDb: number }> {
  const effects = [
    Effect.parse({ id: 'd', kind: 'delay', repeats: 90, mix: 50 }),
    Effect.parse({ id: 'r', kind: 'reverb', mix: 50 }),
  ];
  const samples = await render(3, (buses) => {
    const returns = new Returns(buses);
    returns.leadTo(buses.master);
    returns.setEchoRepeats(95);
    const strip = new Strip(
      sound('causeway/late-boat'),
      { ...buses, room: returns.room, echo: returns.echo },
      'off',
      BPM,
    );
    strip.effects(effects, BPM, 0);
    strip.balance(0, 0, 100, 100, 0);
    const chord = [48, 60, 67];
    const play = (): void => {
      returns.wake();
      for (const key of chord) strip.noteOn(0, key, 100);
    };
    return [
      [0.05, play],
      [0.5, () => chord.forEach((key) => strip.noteOff(0, key))],
      [
        1,
        () => {
          strip.controller(0, 120, 0);
          returns.cut();
        },
      ],
      [2, play],
    ];
  });
  const partDb = (fromS: number, toS: number): number => dbOf(peakOf(samples.slice(RATE * fromS, RATE * toS)));
  return {
    leftDb: partDb(1.06, 2) - partDb(0.8, 1),
    rougher: roughness(samples, 0.995, 1.06) / roughness(samples, 0.1, 0.99),
    nextDb: partDb(2, 2.4) - partDb(0.05, 0.45),
  };
}

Object.assign(globalThis, {
  offline: {
    presets,
    recall,
    swap,
    swapHeld,
    load,
    effects,
    effectEnds,
    flatEqualiser,
    cut,
    allSoundOff,
    bank,
    heard,
    generators,
  },
});
