import type { NoteValue } from '../show';
import type { Rig } from './rig';

/** Tells the sound which note the present song's echo is timed by, once for each that it is. */
export class EchoTeller {
  /** What was told last; null before the first song. */
  told: NoteValue | null = null;

  constructor(private readonly rig: Rig) {}

  tell(): void {
    const note = this.rig.show?.entryEchoes[this.rig.entry] ?? this.told;
    if (note === null || note === this.told) return;
    this.told = note;
    this.rig.lanes.echo(note);
  }
}
