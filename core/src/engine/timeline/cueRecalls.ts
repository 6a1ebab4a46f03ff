import type { CompiledEntry, CompiledStep } from '../compile/compiled';
import type { EngineState } from '../state/engineState';
import { Calls } from './calls';

/** Recalls that cues make, and when the last was and which way along the setlist it led. */
export class CueRecalls {
  atMs = -Infinity;
  direction = 0;
  readonly calls: Calls;

  constructor(
    private readonly state: EngineState,
    clock: ConstructorParameters<typeof Calls>[1],
    private readonly recallAt: (position: number, cause: 'cue') => void,
  ) {
    this.calls = new Calls(state, clock);
  }

  /** Recalls a place of an entry, unless it is current. */
  recall(entry: CompiledEntry, place: number): void {
    const { state } = this;
    const position = entry.first + place;
    const from = state.step?.position ?? -1;
    this.calls.cued(position);
    if (from === position) return;
    this.atMs = state.nowMs;
    this.direction = Math.sign(position - from);
    this.recallAt(position, 'cue');
  }

  /** What was current before, where the entry still has it. */
  again(entry: CompiledEntry, { patch, balance }: CompiledStep): void {
    const { steps } = this.state.show!;
    for (let position = entry.first; position < entry.end; position++)
      if (steps[position].patch.patchId === patch.patchId && steps[position].balance.blendId === balance.blendId)
        return this.recall(entry, position - entry.first);
  }
}
