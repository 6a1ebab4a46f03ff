import { Registry, Engine, ShowCompiler } from '@rackle/core/engine';
import { GearList, type Show } from '@rackle/core/show';
import { Simulation } from '@rackle/core/simulate';
import { UsageError, readArguments } from './arguments';
import { editMs, type EditMs } from './editFigures';
import { RingSink, showOf, unevenShowOf } from './figureShows';
import { loadingFigures, type LoadingFigures } from './loadingFigures';
import { soundcheckFigures, type SoundcheckFigures } from './soundcheckFigures';
import { timelineFigures, type TimelineFigures } from './timelineFigures';

/** What `rackle figures` measures; `--json` prints it so. */
export interface Figures {
  nsPerMessage: { floor: Record<string, number>; engine: Record<string, number> };
  recallsPerSecond: Record<string, number>;
  bytesPerMillionMessages: number;
  /** From another gear list to the engine playing by it, on a setlist of 1,000 songs. */
  gearChangeMs: number;
  /** From an edit to the engine playing by it, by the number of songs. */
  editMs: EditMs;
  /** Positions of a song with many tempos. */
  timeline: TimelineFigures;
  loading: LoadingFigures;
  soundcheck: SoundcheckFigures;
}

const MESSAGES = 4096;
const LAYERS = [1, 4, 16];
const SONGS = [10, 100, 1000];

const engineFor = (show: Show): Engine =>
  new Simulation(show, show.setlists[0], show.gearLists[0], { sink: () => new RingSink(), records: false }).engine;

/** Chords that overlap: presses and releases, four bytes each. */
function playing(): Uint8Array {
  const bytes = new Uint8Array(MESSAGES * 4);
  for (let i = 0; i < MESSAGES; i++) {
    const press = i % 8 < 4;
    bytes.set([press ? 0x90 : 0x80, 40 + (((i % 4) * 7 + (i >> 3)) % 48), press ? 20 + (i % 100) : 64, 0], i * 4);
  }
  // Each group of four presses is followed by the releases of the same keys.
  for (let i = 0; i < MESSAGES; i++) if (i % 8 >= 4) bytes[i * 4 + 1] = bytes[(i - 4) * 4 + 1];
  return bytes;
}

/**
 * Times of messages as a host has them: numbers that exist already (a message event carries its time), so that what is
 * measured
 * is the engine's own allocation. The text keeps the engine of the language from storing them unboxed.
 */
const TIMES = (['boxed', ...Array.from({ length: MESSAGES }, (_, i) => i * 0.25 + 0.1)] as unknown[]).slice(
  1,
) as number[];

const elapsedNs = (work: () => void): number => {
  const start = process.hrtime.bigint();
  work();
  return Number(process.hrtime.bigint() - start);
};

/** The least that routing could cost: the same tables looked up, the same bytes copied. */
function floorRun(layers: number, bytes: Uint8Array): () => void {
  const starts = Uint16Array.from({ length: 129 }, (_, key) => key * layers);
  const targets = Uint8Array.from({ length: 128 * layers }, (_, i) => i % layers);
  const lanes = Int32Array.from({ length: layers }, (_, i) => i);
  const shift = Int16Array.from({ length: layers }, (_, i) => i % 3);
  const ring = new Uint8Array(1 << 16);
  let at = 0;
  return () => {
    for (let i = 0; i < bytes.length; i += 4) {
      const key = bytes[i + 1];
      for (let t = starts[key]; t < starts[key + 1]; t++) {
        at = (at + 4) & 0xffff;
        ring[at] = lanes[targets[t]];
        ring[at + 1] = bytes[i];
        ring[at + 2] = key + shift[targets[t]];
        ring[at + 3] = bytes[i + 2];
      }
    }
  };
}

function engineRun(layers: number, bytes: Uint8Array): () => void {
  const engine = engineFor(showOf(1, 1, layers));
  return () => {
    for (let i = 0; i < bytes.length; i += 4) engine.receive(0, bytes[i], bytes[i + 1], bytes[i + 2], TIMES[i >> 2]);
  };
}

/** Both in turn, many short times, and the best of each: what else the machine does then touches both alike. */
function nsPerMessage(layers: number, bytes: Uint8Array): { floor: number; engine: number } {
  const runs = { floor: floorRun(layers, bytes), engine: engineRun(layers, bytes) };
  const best = { floor: Infinity, engine: Infinity };
  for (let i = 0; i < 500; i++) {
    for (const which of ['floor', 'engine'] as const)
      best[which] = Math.min(best[which], elapsedNs(runs[which]) / MESSAGES);
  }
  return best;
}

const RECALLS = 8_000;

/** Recalls by program change: the next patch of the set most of the time, as on stage, and a jump now and then. */
function recallRun(songs: number): () => void {
  const patches = 4;
  const engine = engineFor(showOf(songs, patches, 4));
  const count = songs * patches;
  let atMs = 1;
  let target = 0;
  return () => {
    for (let i = 0; i < RECALLS; i++) {
      target = (target + (i % 16 === 0 ? 977 : 1)) % count;
      engine.receive(0, 0xb0, 0, target >> 14, (atMs += 0.25));
      engine.receive(0, 0xb0, 32, (target >> 7) & 127, atMs);
      engine.receive(0, 0xc0, target & 127, 0, atMs);
    }
  };
}

/**
 * All sizes in turn, the best of each, as above; each for a stretch at a time, since a set that is played is at hand in
 * memory.
 */
function recallsPerSecond(): Record<string, number> {
  const runs = SONGS.map((songs) => ({ songs, run: recallRun(songs), bestNs: Infinity }));
  for (let stretch = 0; stretch < 8; stretch++) {
    for (const entry of runs) for (let i = 0; i < 30; i++) entry.bestNs = Math.min(entry.bestNs, elapsedNs(entry.run));
  }
  return Object.fromEntries(runs.map(({ songs, bestNs }) => [songs, Math.round(RECALLS / (bestNs / 1e9))]));
}

/** Heap growth over a million messages, collected before and after. */
function bytesPerMillion(bytes: Uint8Array): number {
  const engine = engineFor(showOf(10, 4, 4));
  const run = (messages: number): void => {
    for (let n = 0; n < messages; n++) {
      const i = (n % MESSAGES) * 4;
      engine.receive(0, bytes[i], bytes[i + 1], bytes[i + 2], TIMES[n % MESSAGES]);
    }
  };
  run(500_000);
  globalThis.gc?.();
  const before = process.memoryUsage().heapUsed;
  run(1_000_000);
  return Math.max(0, process.memoryUsage().heapUsed - before);
}

const GEAR_CHANGES = 12;

/**
 * Median of changes to and fro between two gear lists; the first few, before the language has warmed up, do not count.
 */
function gearChangeMs(): number {
  const show = unevenShowOf(1000, 4, 4);
  const roles = [{ role: 'Bright', source: { port: 'Keys', kind: 'controller', number: 20 } }];
  const list = (id: string, ...devices: string[]) =>
    GearList.parse({
      id: id.replaceAll(' ', '-'),
      name: id,
      roles,
      ports: devices.map((device, i) => ({
        direction: 'in',
        alias: i === 0 ? 'Keys' : device,
        device,
        programs: i === 1 ? { kind: 'direct' } : { kind: 'off' },
      })),
    });
  const lists = [
    list('Rehearsal loft', 'Aster 73', 'Treadle 6', 'Clack 2', 'Heel 1', 'Cobble 25'),
    list('Ferry bag', 'Cobble 25', 'Clack 2'),
  ];
  const registry = new Registry();
  const compiler = new ShowCompiler(registry);
  const engine = new Engine(registry, new RingSink());
  const times = Array.from(
    { length: GEAR_CHANGES },
    (_, i) => elapsedNs(() => engine.load(compiler.compile(show, show.setlists[0], lists[i % 2]), i + 1)) / 1e6,
  ).slice(4);
  return Math.round(times.sort((a, b) => a - b)[times.length >> 1] * 10) / 10;
}

/** Measures them; takes some seconds. */
export function measureFigures(): Figures {
  // In the application it has a worker of its own: it is measured before anything else fills the memory.
  const soundcheck = soundcheckFigures();
  const bytes = playing();
  const floor: Record<string, number> = {};
  const engine: Record<string, number> = {};
  for (const layers of LAYERS) {
    const best = nsPerMessage(layers, bytes);
    floor[layers] = rounded(best.floor);
    engine[layers] = rounded(best.engine);
  }
  const recalls = recallsPerSecond();
  return {
    nsPerMessage: { floor, engine },
    recallsPerSecond: recalls,
    bytesPerMillionMessages: bytesPerMillion(bytes),
    gearChangeMs: gearChangeMs(),
    editMs: editMs(),
    timeline: timelineFigures(),
    loading: loadingFigures(),
    soundcheck,
  };
}

const rounded = (ns: number): number => Math.round(ns * 10) / 10;

/** `rackle figures [--json] [--only allocation]` */
export function figuresCommand(words: readonly string[]): number {
  const found = readArguments(words, ['only'], ['json']);
  const only = found.options.get('only');
  if (only !== undefined && only !== 'allocation') throw new UsageError(`--only takes "allocation", not "${only}"`);
  if (only === 'allocation') {
    process.stdout.write(`${JSON.stringify({ bytesPerMillionMessages: bytesPerMillion(playing()) })}\n`);
    return 0;
  }
  const figures = measureFigures();
  if (found.options.has('json')) process.stdout.write(`${JSON.stringify(figures)}\n`);
  else {
    const { floor, engine } = figures.nsPerMessage;
    for (const layers of LAYERS)
      process.stdout.write(
        `${layers} layers: ${engine[layers]} ns a message; bare loop ${floor[layers]} ns; ${(engine[layers] / floor[layers]).toFixed(2)} times\n`,
      );
    for (const songs of SONGS)
      process.stdout.write(`${songs} songs: ${figures.recallsPerSecond[songs]} recalls a second\n`);
    process.stdout.write(`${figures.bytesPerMillionMessages} bytes allocated per million messages\n`);
    process.stdout.write(`${figures.gearChangeMs} ms to change the gear list on 1,000 songs\n`);
    for (const [what, bySongs] of Object.entries(figures.editMs))
      process.stdout.write(
        `edit, ${what}: ${Object.entries(bySongs)
          .map(([songs, ms]) => `${songs} songs ${ms} ms`)
          .join(', ')}\n`,
      );
    const { worstPositionUs, ticksLost, mapMs, cuesMs, fileEvents, fileReadMs, fileSongMs } = figures.timeline;
    process.stdout.write(
      `an hour of 500 tempos: ${ticksLost} ticks lost, time off by at most ${worstPositionUs.toExponential(1)} µs; map made in ${mapMs.toFixed(3)} ms\na song of 2,000 cues compiled again after an edit: ${cuesMs.toFixed(2)} ms of CPU\na MIDI file of a megabyte, ${fileEvents} events: read in ${fileReadMs.toFixed(0)} ms of CPU, made a song in ${fileSongMs.toFixed(0)}\n`,
    );
    const { planMs, jumpsMs, loads, worstWaitMs } = figures.loading;
    process.stdout.write(
      `an evening of 200 songs and 400 presets: loading planned in ${planMs.toFixed(0)} ms of CPU (${loads} loads, worst wait ${worstWaitMs.toFixed(0)} ms), all its jumps in ${jumpsMs.toFixed(0)}\n`,
    );
    const { allMs, editMs: againMs, playedS, cases, struckS, takes } = figures.soundcheck;
    process.stdout.write(
      `soundcheck of 200 songs of eight patches: ${allMs.toFixed(0)} ms of CPU, ${againMs.toFixed(1)} after an edit of one\nevery change of 100 songs of eight patches played through: ${cases} cases in ${playedS.toFixed(1)} s of CPU\ntheir levels: ${takes} takes recorded in ${struckS.toFixed(1)} s of CPU\n`,
    );
  }
  return 0;
}
