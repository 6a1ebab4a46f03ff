import type { HeardProgram, Here, SilentStrike } from '@rackle/core/soundcheck';
import { addressNumber } from '@rackle/core/programs';
import { filesOf } from '@rackle/core/show';
import type { Strike } from '../protocol';
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

  /** A program change that recalled nothing. @returns whether it is worth another look. */
  noteProgram(heard: HeardProgram): boolean {
    const isSame = (one: HeardProgram): boolean =>
      one.port === heard.port && addressNumber(one) === addressNumber(heard);
    if (this.unanswered.some(isSame)) return false;
    this.unanswered = [...this.unanswered, heard].slice(-MOST_UNANSWERED);
    return true;
  }

  /** Keys that were struck. @returns whether it is worth another look. */
  noteStrikes(strikes: readonly Strike[]): boolean {
    const before = this.silentStrikes;
    for (const { key, silent } of strikes) {
      if (silent === null) continue;
      const isKnown = (one: SilentStrike): boolean =>
        one.key === key &&
        one.device === silent.device &&
        one.songId === silent.songId &&
        one.patchId === silent.patchId;
      if (!this.silentStrikes.some(isKnown))
        this.silentStrikes = [...this.silentStrikes, { ...silent, key }].slice(-MOST_SILENT);
    }
    return this.silentStrikes !== before;
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
