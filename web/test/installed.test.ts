import { describe, expect, it } from '@jest/globals';
import { makeRoom } from '../src/files/keptFiles';
import { isInstalled, install, takeNewest } from '../src/installed/versions';
import { Busy } from '../src/live/busy';

/** A service worker as the browser has it: states that go forth. */
class Worker extends EventTarget {
  readonly said: unknown[] = [];
  constructor(public state: ServiceWorkerState) {
    super();
  }
  postMessage(message: unknown): void {
    this.said.push(message);
    this.become('activating');
    this.become('activated');
  }
  become(state: ServiceWorkerState): void {
    this.state = state;
    this.dispatchEvent(new Event('statechange'));
  }
}

class Registration extends EventTarget {
  active: Worker | null = null;
  waiting: Worker | null = null;
  installing: Worker | null = null;
  onUpdate: () => void = () => undefined;
  update(): Promise<void> {
    this.onUpdate();
    return Promise.resolve();
  }
}

const containerOf = (registration: Registration | undefined) =>
  ({
    register: () => Promise.resolve(registration),
    getRegistration: () => Promise.resolve(registration),
  }) as unknown as ServiceWorkerContainer;

describe('a newer version', () => {
  it('is offered when it has come, also when it came before this page', async () => {
    const registration = new Registration();
    registration.active = new Worker('activated');
    let offered = 0;
    await install('/page.sw.js', () => offered++, containerOf(registration));
    expect(offered).toBe(0);
    const newer = new Worker('installing');
    registration.installing = newer;
    registration.dispatchEvent(new Event('updatefound'));
    registration.waiting = newer;
    newer.become('installed');
    expect(offered).toBe(1);
    expect(newer.said).toEqual([]);
    await install('/page.sw.js', () => offered++, containerOf(registration));
    expect(offered).toBe(2);
  });

  it('is not the first one of all, which passes through the same states', async () => {
    const registration = new Registration();
    let offered = 0;
    await install('/page.sw.js', () => offered++, containerOf(registration));
    const first = new Worker('installing');
    registration.installing = first;
    registration.dispatchEvent(new Event('updatefound'));
    registration.waiting = first;
    first.become('installed');
    registration.active = first;
    registration.waiting = null;
    first.become('activating');
    first.become('activated');
    expect(offered).toBe(0);
  });

  it('is fetched and taken when the player says so', async () => {
    const registration = new Registration();
    registration.active = new Worker('activated');
    const newer = new Worker('installing');
    registration.onUpdate = () => {
      registration.installing = newer;
      queueMicrotask(() => newer.become('installed'));
    };
    expect(await takeNewest(containerOf(registration))).toBe(true);
    expect(newer.state).toBe('activated');
  });

  it('that cannot be fetched leaves everything as it was', async () => {
    const registration = new Registration();
    registration.active = new Worker('activated');
    const broken = new Worker('installing');
    registration.onUpdate = () => {
      registration.installing = broken;
      queueMicrotask(() => broken.become('redundant'));
    };
    expect(await takeNewest(containerOf(registration))).toBe(false);
    registration.onUpdate = () => {
      throw new Error('no server');
    };
    registration.installing = null;
    await expect(takeNewest(containerOf(registration))).rejects.toThrow('no server');
    expect(await takeNewest(containerOf(undefined))).toBe(false);
    expect(await isInstalled(containerOf(registration))).toBe(true);
    expect(await isInstalled(containerOf(new Registration()))).toBe(false);
  });
});

/** Locks of a browser as far as they are needed here: shared ones, and one alone if there is none. */
function locksOf(): LockManager {
  let held = 0;
  return {
    request: async (_name: string, options: { ifAvailable?: boolean }, act: (lock: unknown) => unknown) => {
      if (options.ifAvailable) return act(held === 0 ? {} : null);
      held++;
      await act({});
      held--;
      return undefined;
    },
  } as unknown as LockManager;
}

describe('what waits until all is quiet', () => {
  it('is done by nobody while any window is locked, plays or sounds', async () => {
    const locks = locksOf();
    const [here, there] = [new Busy(locks), new Busy(locks)];
    let done = 0;
    const work = (): Promise<void> => Promise.resolve(void done++);
    there.set(true);
    expect([await here.whileIdle(work), await there.whileIdle(work), done]).toEqual([false, false, 0]);
    there.set(false);
    await Promise.resolve().then(() => undefined);
    expect([await here.whileIdle(work), done]).toEqual([true, 1]);
  });
});

describe('files that are kept', () => {
  it('make room for newer ones, oldest first, and the newest stays whatever its size', async () => {
    const kept = new Map([
      ['old', 400],
      ['middle', 300],
      ['new', 500],
    ]);
    const cache = {
      keys: () => Promise.resolve([...kept.keys()]),
      match: (name: string) => Promise.resolve({ headers: new Map([['content-length', String(kept.get(name))]]) }),
      delete: (name: string) => Promise.resolve(kept.delete(name)),
    } as unknown as Cache;
    await makeRoom(cache, 800);
    expect([...kept.keys()]).toEqual(['middle', 'new']);
    await makeRoom(cache, 100);
    expect([...kept.keys()]).toEqual(['new']);
  });
});
