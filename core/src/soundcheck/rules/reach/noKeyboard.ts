import type { Found, Mend } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { playedByTimeline, rowsIn } from '../../sounding';
import { onPage, type Around, type SongTonight } from '../../tonight';
import { switchedOn } from './switchedOn';

/** Whether a zone of a song names a keyboard of the list: that it does not play is told there. */
const namesOne = ({ song }: SongTonight, { gear }: Around): boolean =>
  [...song.standing, ...song.patches.flatMap(({ parts }) => parts)].some(({ zone }) =>
    gear.ports.some(({ direction, alias }) => direction === 'in' && alias === zone.input),
  );

/** Whether a song has a layer that is there for keys. */
function wantsKeys({ song }: SongTonight, around: Around): boolean {
  const byTimeline = playedByTimeline(song);
  return song.patches.some((patch) =>
    rowsIn(song, patch, around).some(
      ({ part, layer }) => layer.source.kind === 'midi' && part.keys !== 'none' && !byTimeline.has(layer.id),
    ),
  );
}

/** The first keyboard that is switched off, on again. */
function firstOn({ gear }: Around): Mend | undefined {
  const off = gear.ports.find((port) => port.direction === 'in' && !port.on && port.plays && port.doubleOf === null);
  return off && switchedOn(gear, 'in', off.alias);
}

/** Layers that are there for keys have a keyboard. */
export const noKeyboard: EveningRule = {
  id: 'no-keyboard',
  group: 'reach',
  sure: 'a keyboard of tonight’s gear plays layers',
  per: 'evening',
  counts: counts.ports,
  find({ songs, around }): Found[] {
    if (around.keyboards.length > 0) return [];
    if (songs.some((song) => namesOne(song, around))) return [];
    const silent = songs.filter((song) => wantsKeys(song, around)).length;
    if (silent === 0) return [];
    return [
      {
        severity: 'willFail',
        cause: around.gear.id,
        place: onPage(around.gear.name, 'gear'),
        message: `no keyboard of ${around.gear.name} plays, and ${silent === 1 ? 'a song wants' : `${silent} songs want`} one`,
        why: 'Every keyboard of the list is switched off, plays nothing, or is the second port of one that does not.',
        mend: firstOn(around),
      },
    ];
  },
};
