import type { CompiledShow } from '../compile/compiled';
import { StepFinder } from './stepFinder';

/** Remembers, for each entry of the set, the position where it was left. */
export class WhereLeft {
  /** By entry; −1 when it was never there. */
  private positions = new Int32Array(0);

  /** Position where an entry was left; −1 when it was never there. */
  of(entry: number): number {
    return this.positions[entry] ?? -1;
  }

  note(entry: number, position: number): void {
    this.positions[entry] = position;
  }

  forget(entries: number): void {
    this.positions = new Int32Array(entries).fill(-1);
  }

  /** Takes what it knows over into another layout of the set. */
  move(next: CompiledShow, old: CompiledShow | null): void {
    const left = this.positions;
    this.forget(next.entries.length);
    if (old === null) return;
    const finder = new StepFinder(next);
    left.forEach((position, entry) => {
      if (position < 0) return;
      const found = finder.find(old.entries[entry].entryId, old.steps[position]);
      if (found >= 0) this.positions[next.steps[found].entry] = found;
    });
  }
}
