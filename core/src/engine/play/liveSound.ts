import type { CompiledLayer } from '../compile/compiled';
import type { EngineState } from '../state/engineState';

/** Live sound is heard in the layers of the present patch that are open (neither muted nor shut out), and nowhere else. */
export class LiveSound {
  /** What has been told: of each layer where live sound goes, whether it is open. */
  private readonly told: { layer: CompiledLayer; open: boolean }[] = [];

  constructor(private readonly state: EngineState) {}

  /** Tells what has changed by a recall, an edit or a mute. */
  settle(): void {
    const { patch, lanes, mutes, mutesAt, hasLiveSound } = this.state;
    if (!hasLiveSound && this.told.length === 0) return;
    const lives = patch?.lives ?? NONE;
    for (let i = this.told.length - 1; i >= 0; i--) {
      const { layer } = this.told[i];
      if (lives.some((part) => patch!.layers[part].destination === layer.destination)) continue;
      lanes.live(layer.destination, null, true, false);
      this.told.splice(i, 1);
    }
    for (const part of lives) {
      const layer = patch!.layers[part];
      const open = mutes[mutesAt + part] === 0;
      const known = this.told.find((candidate) => candidate.layer.destination === layer.destination);
      if (known?.open === open && isSameInput(known.layer, layer)) continue;
      if (known) Object.assign(known, { layer, open });
      else this.told.push({ layer, open });
      lanes.live(layer.destination, layer.live!.input, layer.live!.mono, open);
    }
  }

  /** Whether live sound goes through a layer now. */
  isOpen(destination: number): boolean {
    return this.told.some(({ layer, open }) => layer.destination === destination && open);
  }
}

const NONE: readonly number[] = [];
const isSameInput = (a: CompiledLayer, b: CompiledLayer): boolean =>
  a.live?.input === b.live?.input && a.live?.mono === b.live?.mono;
