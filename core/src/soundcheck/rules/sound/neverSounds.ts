import type { Patch, Song } from '../../../show';
import type { Found, Mend } from '../../finding';
import { counts, type SongRule } from '../../rule';
import {
  actionsIn,
  hears,
  isAbout,
  keysOf,
  meet,
  playedByTimeline,
  reached,
  rowsIn,
  shiftsOf,
  silenceOf,
  zoneKeys,
  type Row,
} from '../../sounding';
import { inSong, type Around, type SongTonight } from '../../tonight';

interface Reason {
  cause: string;
  words: string;
  mend?: Mend;
}

const LAST_KEY = 127;

/** A change of a part, as a way out; parts of the setlist are mended on their own page. */
function mendPart(
  song: Song,
  patch: Patch,
  { part, standsIn }: Row,
  label: string,
  field: string,
  was: unknown,
  now: unknown,
): Mend | undefined {
  if (standsIn === 'setlist') return undefined;
  const lists = standsIn === 'song' ? ['standing'] : ['patches', { id: patch.id }, 'parts'];
  const at = [...lists, { layerId: part.layerId }, ...field.split('.')];
  return { label, steps: [{ kind: 'songs', id: song.id, at, was, now }] };
}

/** Why no key and no channel gets to a zone. */
function unheard(row: Row, song: Song, patch: Patch, { keyboards, gear }: Around): Reason | null {
  const { part } = row;
  const { zone } = part;
  const named = keyboards.filter(({ alias }) => zone.input === null || zone.input === alias);
  // A keyboard that is not there is told by itself.
  if (named.length === 0) return null;
  const hearing = named.filter((input) => hears(part, input));
  if (hearing.length === 0)
    return {
      cause: 'channel',
      words: `its zone hears channel ${(zone.channels ?? []).join(', ')} only, on which no keyboard plays`,
      mend: mendPart(song, patch, row, 'let it hear every channel', 'zone.channels', zone.channels, null),
    };
  if (hearing.some((input) => reached(part, input) !== null)) return null;
  const there = hearing.flatMap((input) => keysOf(input) ?? []);
  return {
    cause: `off ${zone.lowKey} ${zone.highKey}`,
    words: `its zone lies outside the keys of ${zone.input ?? gear.name}`,
    mend:
      there.length === 0
        ? undefined
        : mendPart(song, patch, row, 'give it all keys', 'zone', zone, { ...zone, lowKey: 0, highKey: LAST_KEY }),
  };
}

/** Another part that takes all its keys. */
function coveredBy(row: Row, rows: readonly Row[]): Row | undefined {
  if (row.part.keys === 'taken') return undefined;
  return rows.find(
    ({ part, layer }) =>
      layer !== row.layer &&
      part.keys === 'taken' &&
      part.zone.lowKey <= row.part.zone.lowKey &&
      part.zone.highKey >= row.part.zone.highKey &&
      (part.zone.input === null || part.zone.input === row.part.zone.input) &&
      part.zone.channels === null,
  );
}

function reasonOf(
  row: Row,
  rows: readonly Row[],
  of: SongTonight & { byTimeline: ReadonlySet<string> },
  patch: Patch,
  around: Around,
): Reason | null {
  const { song } = of;
  const { part, layer } = row;
  const actions = actionsIn(song, patch, around);
  const silence = silenceOf(row, rows, patch, actions);
  if (silence === 'muted')
    return {
      cause: 'muted',
      words: 'it is muted, and no blend and no control of tonight’s gear lets it sound',
      mend: mendPart(song, patch, row, 'let it sound', 'mute', true, false),
    };
  if (silence === 'alone') {
    const alone = rows.find((other) => other.part.solo)!;
    return {
      cause: `alone ${alone.layer.id}`,
      words: `${alone.layer.name} is heard alone`,
      mend: mendPart(song, patch, alone, `let the others be heard beside ${alone.layer.name}`, 'solo', true, false),
    };
  }
  if (layer.source.kind === 'live' || of.byTimeline.has(layer.id)) return null;
  if (actions.some(({ action }) => action.kind === 'trigger' && isAbout(action, layer.id))) return null;
  if (part.keys === 'none')
    return {
      cause: 'no key',
      words: 'no key plays it, and no control of tonight’s gear starts it',
      mend: mendPart(song, patch, row, 'let keys play it', 'keys', 'none', 'shared'),
    };
  const cover = coveredBy(row, rows);
  // What stands over everything is told by itself.
  if (cover !== undefined && cover.standsIn === null)
    return {
      cause: `covered ${cover.layer.id}`,
      words: `${cover.layer.name} takes all its keys`,
      mend: mendPart(song, patch, cover, `let ${cover.layer.name} share its keys`, 'keys', 'taken', 'shared'),
    };
  const keys = zoneKeys(part);
  const shifts = shiftsOf(row, of);
  const sounding = shifts.some((by) => meet({ low: keys.low + by, high: keys.high + by }, { low: 0, high: LAST_KEY }));
  if (!sounding)
    return {
      cause: `shift ${shifts.join(' ')}`,
      words: 'its shift leads every key off the keyboard',
      mend: mendPart(song, patch, row, 'shift it by nothing', 'shift', part.shift, 0),
    };
  return unheard(row, song, patch, around);
}

/** Every layer of a patch can be heard in it. */
export const neverSounds: SongRule = {
  id: 'never-sounds',
  group: 'sound',
  sure: 'every layer can sound where a patch has it: zone, channel, mute, shift, tonight’s keyboard',
  per: 'song',
  counts: counts.parts,
  find(tonight, around) {
    const of = { ...tonight, byTimeline: playedByTimeline(tonight.song) };
    return of.song.patches.flatMap((patch) => {
      const rows = rowsIn(of.song, patch, around);
      return rows.flatMap((row): Found[] => {
        if (row.part.zone.lowKey > row.part.zone.highKey) return [];
        if (row.part.zone.lowVelocity > row.part.zone.highVelocity) return [];
        const reason = reasonOf(row, rows, of, patch, around);
        if (reason === null) return [];
        return [
          {
            severity: 'willFail',
            cause: `${row.layer.id} ${reason.cause}`,
            place: inSong(of.song, patch),
            message: `${row.layer.name} can never sound: ${reason.words}`,
            why: 'It is in the patch, and nobody hears it.',
            mend: reason.mend,
          },
        ];
      });
    });
  },
};
