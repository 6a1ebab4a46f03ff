import { noBodies, setlistFaults, songFaults, type Fault } from '../../../show';
import type { Found, Place } from '../../finding';
import { counts, type EveningRule, type SongRule } from '../../rule';
import { inSong, onPage } from '../../tonight';

const UPSIDE_DOWN: readonly Fault['code'][] = ['zone-upside-down', 'velocities-upside-down'];

const SOUND: readonly Fault['code'][] = ['no-such-instrument', 'no-such-preset'];

/** A fault of the show as a finding. */
export const faultFound = (fault: Fault, place: Place): Found => ({
  severity: 'willFail',
  cause: `${fault.code} ${fault.about} ${fault.path.join('.')}`,
  place,
  message: fault.message,
  why: UPSIDE_DOWN.includes(fault.code) ? 'No key would sound there.' : 'What it points at cannot be played.',
});

/** What a song points at within itself is there. */
export const pointsNowhere: SongRule = {
  id: 'points-nowhere',
  group: 'reach',
  sure: 'everything that a song points at is there, and no zone stands upside down',
  per: 'song',
  counts: counts.songs,
  find: ({ song }) => songFaults(song).map((fault) => faultFound(fault, inSong(song))),
};

/** What the setlist points at is there. */
export const setlistPointsNowhere: EveningRule = {
  id: 'setlist-points-nowhere',
  group: 'reach',
  sure: 'everything that the setlist points at is there',
  per: 'evening',
  counts: (tonight) => [tonight.setlist.entries.length, 'entry', 'entries'],
  find: ({ setlist, byId, around }) =>
    setlistFaults(
      {
        ...noBodies(),
        songs: byId,
        instruments: Object.fromEntries(around.instruments),
        gearLists: { [around.gear.id]: around.gear },
      },
      setlist,
    )
      // Sounds of its layers have a rule of their own.
      .filter(({ code }) => !SOUND.includes(code))
      .map((fault) => faultFound(fault, onPage(setlist.name, 'setlist'))),
};
