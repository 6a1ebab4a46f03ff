import type { Song } from '../../../show';
import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';

const patchesSend = ({ patches }: Song): boolean =>
  patches.some(({ entering, leaving }) => [...entering, ...leaving].some(({ kind }) => kind === 'sysex'));

const SYSTEM_EXCLUSIVE = 0xf0;
const cuesSend = ({ cues }: Song): boolean =>
  cues.some(
    (cue) => (cue.kind === 'message' || cue.kind === 'lights') && !cue.off && cue.bytes[0] === SYSTEM_EXCLUSIVE,
  );

/** The browser lets ports be used as the show needs them. */
export const permission: EveningRule = {
  id: 'permission',
  group: 'reach',
  sure: 'the browser lets ports be used, and system exclusive be sent where it is needed',
  per: 'evening',
  counts: counts.ports,
  find({ songs, around: { here, gear, outputs } }) {
    const found: Found[] = [];
    const place = onPage(gear.name, 'gear');
    if (here.midi === 'refused' && gear.ports.some(({ on }) => on))
      found.push({
        severity: 'willFail',
        cause: 'midi',
        place,
        message: 'this browser does not let Rackle use MIDI ports',
        why: 'Nothing is heard from gear, and nothing sent to it. Allow it for this page, and reload.',
      });
    const sending = songs.find(({ song }) => patchesSend(song) || cuesSend(song));
    if (here.sysex === 'refused' && sending !== undefined && outputs.some(({ allowsSysex }) => allowsSysex))
      found.push({
        severity: 'willFail',
        cause: 'sysex',
        place,
        message: 'this browser does not let Rackle send system exclusive',
        why: `${sending.song.name} sends some: it is left out. Allow it for this page, and reload.`,
      });
    return found;
  },
};
