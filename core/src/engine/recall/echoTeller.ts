import type { NoteValue } from '../../show';
import type { EngineState } from '../state/engineState';

/** Tells the sound which note the present song's echo is timed by, once for each that it is. */
export class EchoTeller {
  /** What was told last; null before the first song. */
  told: NoteValue | null = null;

  constructor(private readonly state: EngineState) {}

  tell(): void {
    const note = this.state.show?.entryEchoes[this.state.entry] ?? this.told;
    if (note === null || note === this.told) return;
    this.told = note;
    this.state.lanes.echo(note);
  }
}
