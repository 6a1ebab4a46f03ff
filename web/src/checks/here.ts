import type { EngineRecord } from '@rackle/core/engine';
import type { HeardProgram, Here } from '@rackle/core/soundcheck';
import { midi } from '@rackle/core/midi';
import { filesOf } from '@rackle/core/show';
import { storedFiles } from '../show/api';
import { gearIn, isAmong } from '../state/gearIn';
import type { RootState } from '../state/store';

/** So many calls that recalled nothing are remembered. */
const MOST_UNANSWERED = 64;

/** What only this machine knows, for the soundcheck. The same object while nothing of it changes. */
export class HereKeeper {
  private here: Here = { files: null, voices: null, midi: null, sysex: null, unanswered: [] };
  private unanswered: readonly HeardProgram[] = [];

  /** @returns whether it is worth another look. */
  note(records: readonly { record: EngineRecord }[]): boolean {
    const before = this.unanswered;
    for (const { record } of records) {
      if (record.type !== 'ignored' || record.reason !== 'no-such-program') continue;
      if ((record.status & 0xf0) !== midi.PROGRAM) continue;
      const heard = { port: record.port, msb: 0, lsb: 0, program: record.data1 };
      if (this.unanswered.some(({ port, program }) => port === heard.port && program === heard.program)) continue;
      this.unanswered = [...this.unanswered, heard].slice(-MOST_UNANSWERED);
    }
    return this.unanswered !== before;
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
