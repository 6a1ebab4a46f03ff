import type { InputPort, Patch } from '../../../show';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { hears, isPlayedByKeys, rowsIn, type Row } from '../../sounding';
import { inSong, type Around, type SongTonight } from '../../tonight';

const SUSTAIN = 64;

/** Whether a keyboard's own sustain pedal works. */
const hasPedal = ({ ignoredPedals }: InputPort): boolean => !ignoredPedals.includes(SUSTAIN);

/** Keyboards whose keys a row alone hears, and which ones hold it by their pedals. */
function heldBy({ part }: Row, { keyboards, inputs }: Around): { plays: InputPort[]; holds: InputPort[] } {
  const plays = keyboards.filter((input) => hears(part, input));
  const holds = inputs.filter(
    (input) =>
      hasPedal(input) &&
      (plays.includes(input) || input.pedalsFor.some((alias) => plays.some((one) => one.alias === alias))),
  );
  return { plays, holds };
}

/** Sustain reaches both halves of a split, or neither. */
export const sustainHalf: SongRule = {
  id: 'sustain-half',
  group: 'sound',
  sure: 'the sustain pedal is heard in both halves of a split',
  per: 'song',
  counts: counts.patches,
  find: (of, around) =>
    of.song.patches.flatMap((patch) => [...byKeyboard(of, patch, around), ...byLayer(of, patch, around)]),
};

/** Of two keyboards, one's pedals are ignored and nobody else's hold it. */
function byKeyboard({ song }: SongTonight, patch: Patch, around: Around): Found[] {
  // Where every keyboard has its pedal, each half is held.
  if (around.keyboards.every(hasPedal)) return [];
  const rows = rowsIn(song, patch, around).filter(isPlayedByKeys);
  const unheld = rows.filter((row) => {
    const { plays, holds } = heldBy(row, around);
    return plays.length > 0 && holds.length === 0;
  });
  if (unheld.length === 0 || unheld.length === rows.length) return [];
  const { plays } = heldBy(unheld[0], around);
  const held = rows.find((row) => heldBy(row, around).holds.length > 0)!;
  const [pedal] = heldBy(held, around).holds;
  return [
    {
      severity: 'mayFail',
      cause: `${plays[0].alias} ${unheld.map(({ layer }) => layer.id).join(' ')}`,
      place: inSong(song, patch),
      message: `no pedal holds ${unheld.map(({ layer }) => layer.name).join(', ')}, which ${plays[0].alias} plays`,
      why: `The pedal holds only ${held.layer.name}: one half of the split rings on, the other does not.`,
      mend: {
        label: `let the pedal of ${pedal.alias} hold both`,
        steps: [
          {
            kind: 'gearLists',
            id: around.gear.id,
            at: ['ports', { direction: 'in', alias: pedal.alias }, 'pedalsFor'],
            was: pedal.pedalsFor,
            now: [...new Set([...pedal.pedalsFor, plays[0].alias])],
          },
        ],
      },
    },
  ];
}

/** One layer of the split does not listen to it: basses are often meant so. */
function byLayer({ song }: SongTonight, patch: Patch, around: Around): Found[] {
  const rows = rowsIn(song, patch, around).filter(isPlayedByKeys);
  const deaf = rows.filter(({ layer }) => layer.ignoredControllers.includes(SUSTAIN));
  if (deaf.length === 0 || deaf.length === rows.length) return [];
  return deaf.map(({ layer }) => ({
    severity: 'toKnow',
    cause: layer.id,
    place: inSong(song, patch),
    message: `${layer.name} does not listen to the sustain pedal`,
    why: 'The other layers of the patch do.',
  }));
}
