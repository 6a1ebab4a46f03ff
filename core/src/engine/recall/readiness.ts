import type { Recaller } from './recaller';
import type { EngineState } from '../state/engineState';

/**
 * Whether the sounds of built-in layers stand. Where no sound is made (a dry run) all of them do; where it is, each does
 * once it has been said to.
 */
export class Readiness {
  private soundIsOn = false;
  /** How many destinations are known to have to be said to be ready. */
  private unreadyFrom = 0;

  constructor(
    private readonly state: EngineState,
    private readonly recaller: Recaller,
  ) {}

  /** The host says whether a built-in layer's sound stands and is loaded. */
  set(destination: number, ready: boolean): void {
    const entry = this.state.registry.destinations[destination];
    if (entry?.kind !== 'layer') return;
    for (let lane = entry.lane; lane < entry.lane + entry.lanes; lane++) {
      if (ready) this.recaller.ready(lane);
      else this.state.lanes.setReadyAt(lane, Infinity);
    }
  }

  /** Sound is made here from now on, or not any more. */
  soundOn(on: boolean): void {
    this.soundIsOn = on;
    this.unreadyFrom = 0;
    if (on) this.grow();
    else this.state.registry.destinations.forEach((_, destination) => this.set(destination, true));
  }

  /** There may be further layers. */
  grow(): void {
    if (!this.soundIsOn) return;
    const { destinations } = this.state.registry;
    for (; this.unreadyFrom < destinations.length; this.unreadyFrom++) {
      const entry = destinations[this.unreadyFrom];
      if (entry.kind !== 'layer') continue;
      for (let lane = entry.lane; lane < entry.lane + entry.lanes; lane++) this.state.lanes.setReadyAt(lane, Infinity);
    }
  }
}
