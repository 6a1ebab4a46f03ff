import { SHIPPED_BANK } from '@rackle/core/show';
import { fileAddress } from '../files/fileAddress';
import { fetchKept, keptFiles } from '../files/keptFiles';
import { isInstalled } from '../installed/versions';
import type { HandOver, HostEvent } from '../protocol';
import { browserMemory } from './bench/memory';
import { SimulatedInput } from './bench/simulatedInput';
import ClockWorker from './clock.worker?worker';
import type { Presets } from './audio/presets';
import { HostCore } from './hostCore';
import { workerTimer, type After } from './timer';

const FETCHES_AFTER_MS = 1500;
const FETCHES_AGAIN_MS = 5000;
/** The bank may be missing for good, so it is not asked for as often. */
const BANK_AGAIN_MS = 30_000;

/** What is reached by tests, in the window in which the host runs. */
export interface HostGlobals {
  /** The peak of what leaves now. */
  rackleOutputPeak?: () => number;
  /** The clock of the sound. */
  rackleSoundSeconds?: () => number;
  /** How many layers that are near do not stand yet as they will sound. */
  rackleUnfinished: () => number;
  /** How long messages took from arrival to hand-over. */
  rackleHandOver: () => HandOver;
  /** How late timelines were. */
  rackleLateness: () => ReturnType<HostCore['timelineLateness']>;
  /** A further simulated input, for tests that play more gear than the bench has. */
  rackleInput: (name: string) => SimulatedInput;
}

/** The running side in this window, whether it is a frame of its own or the page. Sound is fetched when it is wanted. */
export function runHost(send: (event: HostEvent) => void): { host: HostCore; after: After } {
  const after = workerTimer(new ClockWorker());
  const globals = globalThis as unknown as HostGlobals;
  const presets = presetsHere(after, send);
  const host = new HostCore({
    nowMs: () => performance.now(),
    after,
    nextSlice: betweenMessages(),
    startSound: async (told) => {
      const { startRack } = await import('./audio/rack');
      const here = await presets();
      here.makeReady(host.underHands());
      const rack = await startRack(here, told, after);
      globals.rackleOutputPeak = () => rack.outputPeak();
      globals.rackleSoundSeconds = () => rack.seconds();
      return rack;
    },
    send,
    renderTake: async (take) => {
      const { renderTake } = await import('./audio/takeRender');
      const here = await presets();
      here.know(host.underHands().instruments);
      return renderTake(take, here, after);
    },
    benchMemory: browserMemory,
    kept: async () => ({ isInstalled: await isInstalled(), ...(await keptFiles()) }),
  });
  globals.rackleUnfinished = () => host.unfinished;
  globals.rackleHandOver = () => host.handOverTimes();
  globals.rackleLateness = () => host.timelineLateness();
  globals.rackleInput = (name) => {
    const input = new SimulatedInput(name, host, () => performance.now());
    input.plug(true);
    return input;
  };
  after(FETCHES_AFTER_MS, () =>
    fetchAhead(after, () => {
      send({ type: 'fetched' });
      void presets().then((here) => here.makeReady(host.underHands()));
    }),
  );
  // What sounds ends with the window.
  globalThis.addEventListener('pagehide', () => host.leave());
  return { host, after };
}

/** The presets of this window, made when they are first asked for: they may be loaded before the sound is started. */
function presetsHere(after: After, send: (event: HostEvent) => void): () => Promise<Presets> {
  let made: Promise<Presets> | null = null;
  return () =>
    (made ??= import('./audio/presets').then(
      ({ Presets }) =>
        new Presets({
          bankPreset: async (hash, asked) =>
            (await import('./audio/sampled/bankWorker')).bankWorker().preset(fileAddress(hash), asked),
          file: (hash) => fetchKept(fileAddress(hash)),
          pause: () => new Promise((resolve) => after(0, resolve)),
          onLoaded: (loads) => send({ type: 'loads', loads: [...loads] }),
        }),
    ));
}

/** Whatever sound will be made of is fetched ahead: on stage the server may be gone. What fails is tried again. */
function fetchAhead(after: After, onFetched: () => void): void {
  Promise.all([
    import('./audio/rack'),
    import('./audio/takeRender'),
    import('./audio/presets'),
    import('./audio/sampled/bankWorker').then(({ bankWorker }) => openShipped(after, bankWorker())),
    import('./audio/effects/worklet').then(({ fetchWorklet }) => fetchWorklet()),
  ]).then(onFetched, () => after(FETCHES_AGAIN_MS, () => fetchAhead(after, onFetched)));
}

/** Without it made sounds stand in, which a layer says once it is to sound; all else goes on. It is tried again. */
const openShipped = (after: After, banks: { open(address: string): Promise<void> }): Promise<void> =>
  banks
    .open(fileAddress(SHIPPED_BANK.file))
    .catch(() => void after(BANK_AGAIN_MS, () => void openShipped(after, banks)));

/** Work that waits until the messages that are here already have been heard: no timer, which browsers would slow down. */
function betweenMessages(): (act: () => void) => void {
  const { port1, port2 } = new MessageChannel();
  const waiting: (() => void)[] = [];
  port1.onmessage = () => waiting.shift()?.();
  return (act) => {
    waiting.push(act);
    port2.postMessage(null);
  };
}
