import { openRoles, sourceConflicts } from '@rackle/core/controls';
import { Registry, PlayedShow, ShowCompiler, type PlayedShowParts } from '@rackle/core/engine';
import { type ShowNews } from '@rackle/core/show';
import { programConflicts } from '@rackle/core/programs';
import { emptyShow } from '@rackle/core/show';
import { checkedIn, soundcheck } from '@rackle/core/soundcheck';
import { NO_CHECKS, type Checks } from './checks';

/** Keeps the show as it is, by what edits change, and looks it over when it is asked. */
export class ShowChecker {
  private readonly show = new PlayedShow();
  private readonly compiler = new ShowCompiler(new Registry());

  start(show: PlayedShowParts, setlistId: string | null): void {
    this.show.start(show, setlistId);
  }

  take(news: ShowNews, setlistId: string | null): void {
    this.show.take(news);
    this.show.choose(setlistId);
  }

  check(): Checks {
    const { setlist, gear, songs, instruments } = this.show;
    if (setlist === null) return NO_CHECKS;
    const whole = {
      ...emptyShow(),
      songs,
      setlists: [setlist],
      instruments: [...instruments],
      gearLists: gear === null ? [] : [gear],
    };
    const byId = Object.fromEntries(songs.map((song) => [song.id, song]));
    return {
      findings: soundcheck(whole, setlist.id, this.compiler),
      ...checkedIn(whole, setlist),
      openRoles: gear === null ? 0 : openRoles(setlist, byId, gear).length + sourceConflicts(gear.roles).length,
      numbersTwice: programConflicts(setlist.programs).length,
    };
  }
}
