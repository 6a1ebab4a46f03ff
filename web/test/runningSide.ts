import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { jest } from '@jest/globals';
import type { LastPlace } from '@rackle/core/engine';
import { Show, playingOrder, type Effect, type GearList, type Setlist, type Song } from '@rackle/core/show';
import type { LoadOrder } from '../src/host/audio/loadOrder';
import type { LayerAbout, SoundOut, SoundTold } from '../src/host/audio/soundOut';
import { HostCore } from '../src/host/hostCore';
import type { BenchGesture, HostCommand, HostEvent, Topics } from '../src/protocol';

export const demo = Show.parse(JSON.parse(readFileSync(join(__dirname, '../../demo/tern-ledge.json'), 'utf8')));
export const [setlist] = demo.setlists;
/** What is played tonight, place by place. */
export const order = playingOrder(setlist, Object.fromEntries(demo.songs.map((song) => [song.id, song])));

/** The sound as the running side sees it: writes down what it is told. */
export class Listener implements SoundOut {
  readonly heard: [number, number, number][] = [];
  /** Presets that are loading until the test says that they are loaded. */
  loads: (presetId: string) => boolean = () => false;
  onLoaded: SoundTold['onLoaded'] = () => undefined;
  /** What stands, and its layer. */
  readonly standing = new Map<number, string>();
  *build(destination: number, { layerId, presetId, effects }: LayerAbout): Generator<void> {
    this.standing.set(destination, layerId);
    if (this.loads(presetId)) this.onLoaded(destination, false);
    yield;
    this.effects(destination, effects, 0);
  }
  drop(destination: number): boolean {
    return this.standing.delete(destination) || true;
  }
  rest(): void {}
  effectValue(destination: number, effectId: string, parameter: string, value: number): void {
    this.told.push(`${destination} ${effectId} ${parameter} ${Math.round(value)}`);
  }
  send(destination: number, status: number, data1: number): void {
    this.heard.push([destination, status, data1]);
  }
  balance(): void {}
  fade(): void {}
  readonly told: string[] = [];
  know(): void {}
  /** By destination: depth of its chorus, and the time in which it went there, one after the other. */
  readonly depths = new Map<number, [number, number][]>();
  effects(destination: number, effects: readonly Effect[], rampMs: number): void {
    for (const effect of effects)
      if (effect.kind === 'chorus')
        this.depths.set(destination, [...(this.depths.get(destination) ?? []), [effect.depth, rampMs]]);
    if (effects.length > 0) this.told.push(`effects of ${destination}: ${effects.map(({ kind }) => kind).join(', ')}`);
  }
  sends(_destination: number, sends: readonly { to: string; percent: number }[]): void {
    for (const { to, percent } of sends) this.told.push(`send ${to} ${percent}`);
  }
  live(_destination: number, input: string | null, _mono: boolean, open: boolean): void {
    this.told.push(`live ${input} ${open}`);
  }
  setEchoNote(note: string): void {
    this.told.push(`echo ${note}`);
  }
  setlistEffects(shared: readonly { name: string }[], whole: readonly { kind: string }[]): void {
    this.told.push(`shared ${shared.map(({ name }) => name).join()} whole ${whole.map(({ kind }) => kind).join()}`);
  }
  setBenchLoop(on: boolean): void {
    this.told.push(`loop ${on}`);
  }
  hurry(): void {}
  loaded: string[] = [];
  resident(): string[] {
    return this.loaded;
  }
  loadsAhead = 0;
  loadAhead(): void {
    this.loadsAhead++;
  }
  order: LoadOrder | null = null;
  follow(order: LoadOrder): void {
    this.order = order;
  }

  changePreset(_destination: number, instrumentId: string, presetId: string): void {
    this.told.push(`${instrumentId} ${presetId}`);
  }
  route(): void {}
  whole(which: number, value: number): void {
    this.told.push(`whole ${which} ${Math.round(value)}`);
  }
  setTempo(): void {}
  setOutputs(): void {}
  testTone(output: string | null): void {
    this.told.push(`tone ${output}`);
  }
  click(output: string, isAccent: boolean): void {
    this.told.push(`click ${output} ${isAccent}`);
  }
  delayMs(): number {
    return 8;
  }
  levels() {
    return { output: { peakDb: -100, clipped: false }, outputs: [], layers: [], loadedMb: 0, voicesPossible: null };
  }
  isRunning = true;
  onRunning: (isRunning: boolean) => void = () => undefined;
  resume(): void {
    this.told.push('resume');
  }
  seconds(): number {
    return 0;
  }
  outputPeak(): number {
    return 0;
  }
}

/** A show command as a page makes it. */
export const showOf = (
  over: { songs?: Song[]; setlist?: Setlist; gear?: GearList; place?: LastPlace | null } = {},
  number = 1,
): HostCommand =>
  structuredClone({
    type: 'show' as const,
    number,
    show: {
      songs: over.songs ?? demo.songs,
      instruments: demo.instruments,
      setlists: [{ ...(over.setlist ?? setlist), gearListId: (over.gear ?? demo.gearLists[0]).id }],
      gearLists: [over.gear ?? demo.gearLists[0]],
      everySetlist: demo.everySetlist,
    },
    setlistId: setlist.id,
    place: over.place ?? null,
    afterCrash: false,
  });

export type Told = { [K in keyof Topics]: Topics[K] };

/** The running side with the demo show, and time in the test's hands. */
export function setUp(place: LastPlace | null = null) {
  const events: HostEvent[] = [];
  const sound = new Listener();
  const slices: (() => void)[] = [];
  const host = new HostCore({
    nowMs: () => Date.now(),
    startSound: (told) => {
      sound.onRunning = told.onRunning;
      sound.onLoaded = told.onLoaded;
      return Promise.resolve(sound);
    },
    send: (event) => events.push(structuredClone(event)),
    after: (delayMs, act) => {
      const id = setTimeout(act, Math.max(0, delayMs));
      return () => clearTimeout(id);
    },
    nextSlice: (act) => void slices.push(act),
  });
  host.command(showOf({ place }));
  let number = 1;
  const bench = (gesture: BenchGesture): void => host.command({ type: 'bench', gesture });
  const last = <T extends HostEvent['type']>(type: T): Extract<HostEvent, { type: T }> | undefined =>
    events.filter((event): event is Extract<HostEvent, { type: T }> => event.type === type).at(-1);
  /** Everything that has been told, once it has come to rest. */
  const topics = async (): Promise<Told> => {
    for (const slice of slices.splice(0)) slice();
    await jest.advanceTimersByTimeAsync(50);
    while (slices.length > 0) slices.shift()!();
    await jest.advanceTimersByTimeAsync(50);
    return Object.assign({}, ...events.flatMap((event) => (event.type === 'topics' ? [event.topics] : []))) as Told;
  };
  /** A song as an edit has it. */
  const edit = (song: Song): void =>
    host.command(
      structuredClone({
        type: 'changed' as const,
        number: ++number,
        put: { songs: { [song.id]: song } },
        gone: [],
        setlistId: setlist.id,
      }),
    );
  /** Another show in the place of this one. */
  const become = (over: Parameters<typeof showOf>[0]): void => host.command(showOf(over, ++number));
  return { host, events, sound, bench, last, topics, edit, become, slices };
}
