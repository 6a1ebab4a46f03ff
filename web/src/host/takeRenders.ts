import type { Stereo } from '@rackle/core/loudness';
import type { LevelTake } from '@rackle/core/soundcheck';
import type { HostEvent } from '../protocol';
import type { After } from './timer';

/** Renders a take as fast as it goes; null: a sound of it is not to be had. */
export type RenderTake = (take: LevelTake) => Promise<Stereo | null>;

interface Parts {
  after: After;
  send: (event: HostEvent) => void;
  renderTake?: RenderTake;
}

const ASKS_AGAIN_MS = 500;

/** Renders what pages want measured, one after the other; never while something sounds, which would have to share the machine. */
export class TakeRenders {
  private last: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly parts: Parts,
    private readonly isQuiet: () => boolean,
  ) {}

  render({ number, take }: { number: number; take: LevelTake }): void {
    this.last = this.last.then(async () => {
      await this.quiet();
      // One that cannot be rendered is answered all the same: whoever waits goes on with the next.
      const sound = (await this.parts.renderTake?.(take).catch(() => null)) ?? null;
      this.parts.send({ type: 'takeRendered', number, sound });
    });
  }

  private async quiet(): Promise<void> {
    while (!this.isQuiet()) await new Promise<void>((resolve) => this.parts.after(ASKS_AGAIN_MS, resolve));
  }
}
