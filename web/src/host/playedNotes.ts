import type { HandNote } from '@rackle/core/timeline';
import type { HostEvent } from '../protocol';

/** More notes of one run are not kept. */
const MOST = 1000;

/** What hands play while a timeline runs, told when it has stopped. */
export class PlayedNotes {
  private songId: string | null = null;
  private notes: HandNote[] = [];

  constructor(private readonly send: (event: HostEvent) => void) {}

  /** A key is struck; a key beside a timeline that stands counts nothing. */
  add(atTick: number, key: number): void {
    if (this.songId !== null && this.notes.length < MOST) this.notes.push({ atTick, key });
  }

  /** The timeline of this song runs; null: none does. @hotpath */
  runs(songId: string | null): void {
    if (songId === this.songId) return;
    if (this.songId !== null && this.notes.length > 0)
      this.send({ type: 'played', songId: this.songId, notes: this.notes });
    this.songId = songId;
    this.notes = [];
  }
}
