import { TestEnvironment } from 'jest-environment-jsdom';

/** jsdom with the few globals of browsers that it lacks. */
export default class BrowserEnvironment extends TestEnvironment {
  async setup() {
    await super.setup();
    for (const name of ['TextEncoder', 'TextDecoder', 'structuredClone']) this.global[name] ??= globalThis[name];
    this.global.ResizeObserver ??= class {
      observe() {}
      unobserve() {}
      disconnect() {}
    };
    this.global.Element.prototype.scrollIntoView ??= () => {};
  }
}
