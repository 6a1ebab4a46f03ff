import type { InputPort, Place } from '../../show';
import {
  edgesIn,
  hears,
  isMutedIn,
  isPlayedByKeys,
  keysOf,
  playedChannels,
  rowsIn,
  type Keys,
  type Row,
} from '../sounding';
import type { Around } from '../tonight';

/** Keys of a keyboard beside each other on which the same layers sound in a patch, as zones see them. */
export interface Stretch extends Keys {
  input: InputPort;
  /** From 0. */
  channel: number;
  /** Whether all of what sounds there is made in this machine, and by keys. */
  isMeasured: boolean;
  /** Whether more sounds there than layers that stand beneath everything. */
  hasOwn: boolean;
}

/** As hard as a reference chord is struck. */
export const CHORD_VELOCITY = 80;

const isUpright = ({ part: { zone } }: Row): boolean =>
  zone.lowKey <= zone.highKey && zone.lowVelocity <= CHORD_VELOCITY && zone.highVelocity >= CHORD_VELOCITY;

const isOn = ({ part: { zone } }: Row, key: number): boolean => zone.lowKey <= key && zone.highKey >= key;

/** Stretches of a patch on tonight's keyboards on which anything sounds, from the lowest key of the first one on. */
export function stretchesOf({ song, patch, blend }: Place, around: Around): Stretch[] {
  const rows = rowsIn(song, patch, around).filter((row) => row.part.keys !== 'none' && !isMutedIn(row, blend));
  return around.keyboards.flatMap((input): Stretch[] => {
    const keys = keysOf(input);
    const channel = (playedChannels(input) ?? [1]).at(0);
    if (keys === null || channel === undefined) return [];
    const here = rows.filter((row) => hears(row.part, input) && isUpright(row));
    const edges = edgesIn(keys, here);
    return edges.slice(0, -1).flatMap((low, i): Stretch[] => {
      const at = here.filter((row) => isOn(row, low));
      if (at.length === 0) return [];
      const isMade = (row: Row): boolean =>
        isPlayedByKeys(row) && around.instruments.get(row.layer.sound.instrumentId)?.kind !== 'outboard';
      return [
        {
          input,
          channel: channel - 1,
          low,
          high: edges[i + 1] - 1,
          isMeasured: at.every(isMade),
          hasOwn: at.some(({ standsIn }) => standsIn === null),
        },
      ];
    });
  });
}

/** A chord of four, from its lowest key: root position, an octave and a third wide in all. */
const CHORD = [0, 4, 7, 12];

/** Four keys around a share of the way up a stretch, or as many as it has. */
export function chordIn({ low, high }: Keys, share = 0.5): number[] {
  const width = high - low;
  const wide = CHORD[CHORD.length - 1];
  if (width < wide) {
    const count = Math.min(CHORD.length, width + 1);
    return Array.from({ length: count }, (_, i) => low + Math.round((i * width) / Math.max(1, count - 1)));
  }
  const root = Math.min(high - wide, Math.max(low, Math.round(low + width * share - wide / 2)));
  return CHORD.map((interval) => root + interval);
}
