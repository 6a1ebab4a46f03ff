import type { CompiledEntry, CompiledShow, CompiledStep } from '../compile/compiled';

/** Finds steps of another compiled show by what they are, not by where they stood. */
export class StepFinder {
  private readonly entries: ReadonlyMap<string, CompiledEntry>;

  constructor(private readonly show: CompiledShow) {
    this.entries = new Map(show.entries.map((entry) => [entry.entryId, entry]));
  }

  /** Position, −1 when it is gone. */
  find(entryId: string, { patch, balance }: CompiledStep): number {
    const entry = this.entries.get(entryId);
    if (entry === undefined || entry.songId !== patch.songId) return -1;
    for (let i = entry.first; i < entry.end; i++) {
      const step = this.show.steps[i];
      if (step.patch.patchId === patch.patchId && step.balance.blendId === balance.blendId) return i;
    }
    return -1;
  }
}

/** Position, in the new show, of the nearest step before a deleted one that still exists; −1 when none does. */
export function positionBefore(next: CompiledShow, old: CompiledShow, deleted: CompiledStep): number {
  const finder = new StepFinder(next);
  for (let i = Math.ceil(deleted.position) - 1; i >= 0; i--) {
    const found = finder.find(old.steps[i].entryId, old.steps[i]);
    if (found >= 0) return found;
  }
  return -1;
}
