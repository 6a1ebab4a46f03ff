import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Effect, Recording, SoundShape } from '@rackle/core/show';
import { mixOf } from '../src/host/audio/effects/effectUnit';
import { FeedbackGuard } from '../src/host/audio/feedbackGuard';
import { Presets } from '../src/host/audio/presets';
import { recordingAsPreset } from '../src/host/audio/sampled/recordingPreset';
import { RECIPES } from '../src/host/audio/recipes';
import { shapeRecipe } from '../src/host/audio/shapeRecipe';

const FILE = 'c'.repeat(64);
const shape = (over: object) => SoundShape.parse(over);

describe('a preset of the player’s own', () => {
  const base = RECIPES['bowline/slow-tide'];

  it('is the same as its base when nothing is moved', () => {
    const same = shapeRecipe(base, shape({}));
    expect(same.envelope).toEqual(base.envelope);
    expect(same.filter).toEqual(base.filter);
    expect(same.oscillators).toEqual(base.oscillators);
    expect(same.touch).toBe(base.touch);
  });

  it('is brighter, slower, wider, by as much as was asked for, and by no more than can sound', () => {
    expect(shapeRecipe(base, shape({ bright: 40 })).filter!.hz).toBeCloseTo(base.filter!.hz * 2, 3);
    expect(shapeRecipe(base, shape({ attack: 100, release: -100 })).envelope).toMatchObject({
      attackS: base.envelope.attackS * 8,
      releaseS: base.envelope.releaseS / 8,
    });
    const spread = (recipe: typeof base): number =>
      Math.max(...recipe.oscillators.map((one) => Math.abs(one.detuneCents ?? 0)));
    expect(spread(shapeRecipe(base, shape({ width: 50 })))).toBeCloseTo(spread(base) * 2, 3);
    expect(shapeRecipe(base, shape({ touch: 100 })).touch).toBe(1);
    expect(shapeRecipe(base, shape({ touch: -100 })).touch).toBe(0);
    expect(shapeRecipe(RECIPES['causeway/late-boat'], shape({ bright: -80 })).filter).toBeDefined();
  });

  it('of a kit shapes every hit in it', () => {
    const kit = RECIPES['deckhand/boots-and-boxes'];
    const shaped = shapeRecipe(kit, shape({ decay: 50 }));
    expect(shaped.kit).toHaveLength(kit.kit!.length);
    expect(shaped.kit![0].envelope.decayS).toBeGreaterThan(kit.kit![0].envelope.decayS);
  });
});

describe('the mix of an effect', () => {
  const effect = (over: object): Effect => Effect.parse({ id: 'e', ...over });

  it('leaves the sound as it is up to the middle where echoes are added to it, and shares it out where it is changed', () => {
    expect(mixOf(effect({ kind: 'delay', mix: 25 }))).toEqual({ wet: 0.5, dry: 1 });
    expect(mixOf(effect({ kind: 'reverb', mix: 100 }))).toEqual({ wet: 1, dry: 0 });
    expect(mixOf(effect({ kind: 'chorus', mix: 30 }))).toEqual({ wet: 0.3, dry: 0.7 });
    expect(mixOf(effect({ kind: 'compressor' }))).toEqual({ wet: 1, dry: 0 });
  });

  it('is the sound alone while the effect is off', () => {
    for (const kind of ['delay', 'filter', 'drive'] as const)
      expect(mixOf(effect({ kind, on: false }))).toEqual({ wet: 0, dry: 1 });
  });
});

describe('a recording', () => {
  const recording = (over: object): Recording =>
    Recording.parse({ id: 'r', name: 'R', file: FILE, lengthSeconds: 1, ...over });
  const ones = (length: number): Float32Array => new Float32Array(length).fill(1);

  it('is trimmed, and what is cut off is rounded so that it does not click; its own ends stay', () => {
    const {
      samples: [
        {
          channels: [part],
        },
      ],
    } = recordingAsPreset(recording({ startSeconds: 0.25, endSeconds: 0.75 }), [ones(8000)], 8000);
    expect(part).toHaveLength(4000);
    expect([part[0], part[3999]]).toEqual([0, 0]);
    expect(part[2000]).toBe(1);
    const {
      samples: [
        {
          channels: [whole],
        },
      ],
    } = recordingAsPreset(recording({}), [ones(8000)], 8000);
    expect([whole[0], whole[7999], whole.length]).toEqual([1, 1, 8000]);
  });

  it('that loops goes round as a whole; one that does not follow keys is the same on each', () => {
    const {
      zones: [zone],
    } = recordingAsPreset(recording({ plays: 'loop', followsKeys: false, rootKey: 48 }), [ones(500), ones(500)], 8000);
    expect(zone).toMatchObject({ loop: { start: 0, end: 500 }, centsPerKey: 0, rootKey: 48, lowKey: 0, highKey: 127 });
  });

  it('trimmed to less than nothing still is a sound', () => {
    const {
      samples: [
        {
          channels: [part],
        },
      ],
    } = recordingAsPreset(recording({ startSeconds: 0.9, endSeconds: 0.1 }), [ones(800)], 800);
    expect(part.length).toBeGreaterThan(0);
  });
});

describe('presets that have to be loaded', () => {
  const present = (): never[] => [];
  beforeAll(() => {
    Object.assign(globalThis, {
      AudioBuffer: class {
        readonly length: number;
        readonly numberOfChannels: number;

        constructor(about: { length: number; numberOfChannels: number }) {
          this.length = about.length;
          this.numberOfChannels = about.numberOfChannels;
        }

        copyToChannel(): void {}
      },
    });
  });
  afterAll(() => {
    delete (globalThis as { AudioBuffer?: unknown }).AudioBuffer;
  });
  const bank = {
    kind: 'bank',
    id: 'lanterns',
    name: 'Lanterns',
    file: FILE,
    fileName: '',
    bytes: 9,
    presets: [{ id: 'lamp', name: 'Lamp', bank: 0, program: 3 }],
  };
  const preset = () => ({
    zones: [],
    samples: [{ id: 'a', frames: 100, sides: 1 as const, channels: [new Float32Array(100)], sampleRate: 22_050 }],
  });
  const bankOf = (names: readonly string[]) => ({
    ...bank,
    presets: names.map((id, program) => ({ id, name: id, bank: 0, program })),
  });
  /** One with samples of its own. */
  const presetOf = (program: number) => {
    const made = preset();
    return { ...made, samples: made.samples.map((one) => ({ ...one, id: `s${program}` })) };
  };
  const pause = () => Promise.resolve();
  const at = (): string | null => null;

  it('are asked for once, are there at once afterwards, and count what they take', async () => {
    const asked: unknown[][] = [];
    const presets = new Presets({
      bankPreset: (...what) => {
        asked.push(what);
        return Promise.resolve(preset());
      },
      file: () => Promise.reject(new Error('none')),
      pause,
    });
    presets.know([bank] as never);
    const [first, second] = [presets.find('lanterns', 'lamp'), presets.find('lanterns', 'lamp')];
    expect(first).toBe(second);
    await first;
    expect(asked).toMatchObject([[FILE, { bank: 0, program: 3, mostS: Infinity }]]);
    expect(presets.find('lanterns', 'lamp')).toMatchObject({ kind: 'sampled' });
    expect(presets.loadedBytes).toBe(400);
    expect(presets.find('lanterns', 'other')).toBeNull();
    expect(presets.find('nowhere', 'nothing')).toBeNull();
  });

  it('go, when there is no more room, by when the evening needs them again; what is pinned stays', async () => {
    const names = ['one', 'two', 'three', 'four', 'five'];
    const many = bankOf(names);
    const presets = new Presets({
      bankPreset: (_file, { program }) => Promise.resolve(presetOf(program)),
      file: () => Promise.reject(new Error('none')),
      pause,
    });
    presets.know([many] as never);
    const sound = (presetId: string) => ({ instrumentId: 'lanterns', presetId });
    const isHere = (id: string): boolean => !(presets.find('lanterns', id) instanceof Promise);
    const held = () => null;
    for (const id of names) await presets.find('lanterns', id);
    expect(presets.loadedBytes).toBe(2000);
    // Five takes no part any more, three comes last.
    presets.follow({
      budgetBytes: 1200,
      pins: [],
      sounds: () => ['four', 'two', 'one', 'three'].map(sound),
      present,
      held,
      at,
    });
    expect(presets.loadedBytes).toBe(1200);
    expect(['one', 'two', 'four'].map(isHere)).toEqual([true, true, true]);
    presets.follow({
      budgetBytes: 800,
      present,
      pins: [sound('one')],
      sounds: () => ['four', 'two', 'one'].map(sound),
      held,
      at,
    });
    expect(['one', 'four'].map(isHere)).toEqual([true, true]);
    expect(presets.loadedBytes).toBe(800);
    // What is pinned is loaded, though nothing asks for it.
    presets.follow({ budgetBytes: 2000, pins: [sound('five')], sounds: () => [], present, held, at });
    await presets.find('lanterns', 'five');
    expect(presets.loadedBytes).toBe(1200);
  });

  it('tell how long they took, the first of a file apart; what was partly here already tells nothing', async () => {
    const heard: unknown[] = [];
    const presets = new Presets({
      bankPreset: (_file, { program }) => Promise.resolve(presetOf(program)),
      file: () => Promise.reject(new Error('none')),
      pause,
      onLoaded: (loads) => heard.push(...loads.map(({ key, bytes, isCold, ms }) => [key, bytes, isCold, ms >= 0])),
    });
    const lamp = (id: string, program: number) => ({ id, name: id, bank: 0, program });
    presets.know([{ ...bank, presets: [lamp('one', 1), lamp('two', 2), lamp('same', 1)] }] as never);
    for (const id of ['one', 'two', 'same']) await presets.find('lanterns', id);
    expect(heard).toEqual([
      [`${FILE} 0/1`, 400, true, true],
      [`${FILE} 0/2`, 400, false, true],
    ]);
  });

  it('of later on are loaded ahead one by one while there is room; what is not to be had is not asked for all the time', async () => {
    const names = ['one', 'two', 'three', 'four', 'five'];
    // By what the file says 400 bytes each.
    const many = { ...bankOf(names), bytes: 2000 };
    const asked: number[] = [];
    const presets = new Presets({
      bankPreset: (_file, { program }) => {
        asked.push(program);
        return program === 1 ? Promise.reject(new Error('damaged')) : Promise.resolve(presetOf(program));
      },
      file: () => Promise.reject(new Error('none')),
      pause,
    });
    presets.know([many] as never);
    let entry = 'first';
    const order = ['three', 'two', 'one', 'five', 'four'].map((presetId) => ({ instrumentId: 'lanterns', presetId }));
    presets.follow({ budgetBytes: 1200, pins: [], present, sounds: () => order, held: () => null, at: () => entry });
    const turn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));
    const goAhead = async (times: number): Promise<void> => {
      for (let i = 0; i < times; i++) {
        presets.loadAhead();
        // Asked again while it still loads, it does nothing.
        presets.loadAhead();
        await turn();
      }
    };
    await goAhead(1);
    expect(asked).toEqual([2]);
    await goAhead(6);
    // Two cannot be had; five fills the budget; four has no room.
    expect(asked).toEqual([2, 1, 0, 4]);
    expect(presets.loadedBytes).toBe(1200);
    // With another song what could not be had is tried once more.
    entry = 'second';
    await goAhead(3);
    expect(asked).toEqual([2, 1, 0, 4]);
    presets.follow({ budgetBytes: 2400, pins: [], present, sounds: () => order, held: () => null, at: () => entry });
    await goAhead(4);
    expect(asked).toEqual([2, 1, 0, 4, 1, 3]);
  });

  it('are loaded and let go of as the plan has it, where there is one for the patch that is played', async () => {
    const names = ['one', 'two', 'three', 'four'];
    const many = { ...bankOf(names), bytes: 1600 };
    const presets = new Presets({
      bankPreset: (_file, { program }) => Promise.resolve(presetOf(program)),
      file: () => Promise.reject(new Error('none')),
      pause,
    });
    presets.know([many] as never);
    let at = 'none';
    let playing: string[] = [];
    const plan: Record<string, number[]> = { verse: [0, 1], chorus: [0, 3] };
    const held = () => (at in plan ? new Set(plan[at].map((program) => `${FILE} 0/${program}`)) : null);
    const sounds = () => names.map((presetId) => ({ instrumentId: 'lanterns', presetId }));
    const goAhead = async (): Promise<void> => {
      presets.loadAhead();
      await new Promise((resolve) => setTimeout(resolve));
    };
    // There is room for two: whatever is asked for then is there at once.
    const areHere = (...ids: string[]): void => {
      expect(presets.loadedBytes).toBe(800);
      for (const id of ids) expect(presets.find('lanterns', id)).toMatchObject({ kind: 'sampled' });
    };
    presets.follow({
      budgetBytes: 800,
      pins: [],
      present: () => playing.map((presetId) => ({ instrumentId: 'lanterns', presetId })),
      sounds,
      held,
      at: () => at,
    });
    at = 'verse';
    for (let i = 0; i < 4; i++) await goAhead();
    areHere('one', 'two');
    // Two is needed before four; but the plan has four here, and not two.
    at = 'chorus';
    for (let i = 0; i < 4; i++) await goAhead();
    areHere('one', 'four');
    // Three has no place in the plan, and goes first when something else comes.
    await presets.find('lanterns', 'three');
    areHere('one', 'four');
    // But what is played now stays, also where an edit has put it there that the plan does not know yet.
    playing = ['three'];
    await presets.find('lanterns', 'three');
    expect(presets.loadedBytes).toBe(800);
    expect(presets.find('lanterns', 'three')).toMatchObject({ kind: 'sampled' });
    playing = [];
    // Where the plan knows nothing, what is needed last goes first.
    at = 'elsewhere';
    await presets.find('lanterns', 'two');
    areHere('one', 'two');
  });

  it('are asked for again after they could not be loaded', async () => {
    let fails = true;
    const presets = new Presets({
      bankPreset: () => (fails ? Promise.reject(new Error('away')) : Promise.resolve(preset())),
      file: () => Promise.reject(new Error('none')),
      pause,
    });
    presets.know([bank] as never);
    await expect(presets.find('lanterns', 'lamp')).rejects.toThrow('away');
    fails = false;
    await expect(presets.find('lanterns', 'lamp')).resolves.toMatchObject({ kind: 'sampled' });
  });
});

describe('the guard against howling', () => {
  const RATE = 48_000;
  const SIZE = 2048;
  /** A spectrum with lines at frequencies (Hz) and their loudness (dB). */
  const frame = (...lines: [number, number][]): Float32Array => {
    const spectrum = new Float32Array(SIZE / 2).fill(-90);
    for (const [hz, db] of lines) spectrum[Math.round((hz * SIZE) / RATE)] = db;
    return spectrum;
  };
  const heard = (frames: Float32Array[]): boolean => {
    const guard = new FeedbackGuard(RATE, SIZE);
    return frames.some((one) => guard.hear(one));
  };

  it('shuts an input in which one loud pure tone stays and grows', () => {
    expect(heard(Array.from({ length: 12 }, (_, i) => frame([1800, -20 + i])))).toBe(true);
  });

  it('lets music be: tones with others beside them, notes that die away, soft ones, and moving ones', () => {
    expect(heard(Array.from({ length: 40 }, () => frame([440, -15], [880, -22], [1320, -30])))).toBe(false);
    expect(heard(Array.from({ length: 40 }, (_, i) => frame([440, -10 - i])))).toBe(false);
    expect(heard(Array.from({ length: 40 }, () => frame([900, -50])))).toBe(false);
    expect(heard(Array.from({ length: 40 }, (_, i) => frame([400 + i * 60, -12])))).toBe(false);
  });

  it('is shut until it is opened again', () => {
    const guard = new FeedbackGuard(RATE, SIZE);
    const howl = Array.from({ length: 12 }, () => frame([1800, -12]));
    expect(howl.filter((one) => guard.hear(one))).toHaveLength(1);
    expect(guard.isShut).toBe(true);
    guard.reset();
    expect(howl.filter((one) => guard.hear(one))).toHaveLength(1);
  });
});
