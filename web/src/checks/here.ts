import type { EngineRecord } from '@rackle/core/engine';
import type { HeardProgram, Here, SilentStrike } from '@rackle/core/soundcheck';
import { midi } from '@rackle/core/midi';
import { filesOf } from '@rackle/core/show';
import { storedFiles } from '../show/api';
import { gearIn, isAmong } from '../state/gearIn';
import type { RootState } from '../state/store';

/** So many calls that recalled nothing are remembered. */
const MOST_UNANSWERED = 64;
/** And so many keys for which nothing sounded. */
const MOST_SILENT = 64;

/** What only this machine knows, for the soundcheck. The same object while nothing of it changes. */
export class HereKeeper {
  private here: Here = { files: null, voices: null, midi: null, sysex: null, unanswered: [], silentStrikes: [] };
  private unanswered: readonly HeardProgram[] = [];
  private silentStrikes: readonly SilentStrike[] = [];
  /** What is played. */
  private at: Pick<SilentStrike, 'songId' | 'patchId'> | null = null;

  /** @returns whether it is worth another look. */
  note(records: readonly { record: EngineRecord }[]): boolean {
    const before = [this.unanswered, this.silentStrikes];
    for (const { record } of records) {
      if (record.type === 'recall') this.at = { songId: record.songId, patchId: record.patchId };
      if (record.type !== 'ignored') continue;
      const kind = record.status & 0xf0;
      if (record.reason === 'no-such-program' && kind === midi.PROGRAM) this.noteProgram(record.port, record.data1);
      if (record.reason === 'no-layer-here' && kind === midi.NOTE_ON) this.noteStrike(record.port, record.data1);
    }
    return this.unanswered !== before[0] || this.silentStrikes !== before[1];
  }

  private noteProgram(port: string, program: number): void {
    if (this.unanswered.some((heard) => heard.port === port && heard.program === program)) return;
    this.unanswered = [...this.unanswered, { port, msb: 0, lsb: 0, program }].slice(-MOST_UNANSWERED);
  }

  private noteStrike(port: string, key: number): void {
    const { at } = this;
    if (at === null) return;
    const isKnown = (strike: SilentStrike): boolean =>
      strike.songId === at.songId && strike.patchId === at.patchId && strike.port === port && strike.key === key;
    if (!this.silentStrikes.some(isKnown))
      this.silentStrikes = [...this.silentStrikes, { ...at, port, key }].slice(-MOST_SILENT);
  }

  /** What is known now. Files are asked for only where the show plays some. */
  async read(state: RootState): Promise<Here> {
    const { live, show } = state;
    const needed = Object.values(show.working.instruments).flatMap(filesOf);
    const { files } = this.here;
    const isKnown = needed.every((hash) => files?.has(hash) === true);
    const stored = needed.length === 0 || isKnown ? files : asSet(await storedFiles());
    const now: Here = {
      files: stored,
      voices: live.levels?.voicesPossible ?? this.here.voices,
      midi: midiOf(state),
      sysex: live.sound.midi !== 'on' ? null : live.sound.sysex ? 'allowed' : 'refused',
      unanswered: this.unanswered,
      silentStrikes: this.silentStrikes,
    };
    const isSame = (Object.keys(now) as (keyof Here)[]).every((field) => now[field] === this.here[field]);
    if (!isSame) this.here = now;
    return this.here;
  }
}

/** Whether the browser stands in the way: only where something of tonight's gear is missing, which the bench may have. */
function midiOf({ show, live: { sound, ports } }: RootState): Here['midi'] {
  if (sound.midi === 'on') return 'allowed';
  if (sound.midi !== 'refused' && sound.midi !== 'absent') return null;
  return gearIn({ show })?.ports.some((port) => port.on && !isAmong(ports, port)) === true ? 'refused' : null;
}

const asSet = (hashes: readonly string[] | null): ReadonlySet<string> | null =>
  hashes === null ? null : new Set(hashes);
