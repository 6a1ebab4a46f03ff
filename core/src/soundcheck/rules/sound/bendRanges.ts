import type { OutMessage, Patch } from '../../../show';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { isPlayedByKeys, meet, rowsIn, zoneKeys, type Row } from '../../sounding';
import { inSong, type Around } from '../../tonight';

/** Built-in sounds bend by a whole tone, as General MIDI has it. */
const OWN_SEMITONES = 2;

const [RPN_MSB, RPN_LSB, DATA] = [101, 100, 6];

/** Bend ranges that messages set (MIDI 1.0, registered parameter 0), in semitones, by port and channel. */
function rangesIn(messages: readonly OutMessage[]): ReadonlyMap<string, number> {
  const ranges = new Map<string, number>();
  const chosen = new Map<string, { msb: number; lsb: number }>();
  for (const message of messages) {
    if (message.kind !== 'controller') continue;
    const at = `${message.port} ${message.channel}`;
    const parameter = chosen.get(at) ?? { msb: 127, lsb: 127 };
    if (message.controller === RPN_MSB) parameter.msb = message.value;
    if (message.controller === RPN_LSB) parameter.lsb = message.value;
    chosen.set(at, parameter);
    if (message.controller === DATA && parameter.msb === 0 && parameter.lsb === 0) ranges.set(at, message.value);
  }
  return ranges;
}

/** How far the wheel bends a layer; null: not known. */
function rangeOf({ layer }: Row, patch: Patch, { instruments }: Around): number | null {
  if (layer.ignoresWheel) return null;
  const instrument = instruments.get(layer.sound.instrumentId);
  if (instrument?.kind !== 'outboard') return OWN_SEMITONES;
  return rangesIn(patch.entering).get(`${instrument.port} ${layer.sound.channel ?? instrument.channel}`) ?? null;
}

/** Layers that are played together bend together. */
export const bendRanges: SongRule = {
  id: 'bend-ranges',
  group: 'sound',
  sure: 'layers that are played together bend as far as each other, as far as it is known',
  per: 'song',
  counts: counts.patches,
  find: ({ song }, around) =>
    song.patches.flatMap((patch): Found[] => {
      const rows = rowsIn(song, patch, around)
        .filter(isPlayedByKeys)
        .map((row) => ({ row, range: rangeOf(row, patch, around) }))
        .filter(({ range }) => range !== null);
      for (const [i, one] of rows.entries()) {
        const other = rows
          .slice(i + 1)
          .find(({ row, range }) => range !== one.range && meet(zoneKeys(row.part), zoneKeys(one.row.part)));
        if (other === undefined) continue;
        return [
          {
            severity: 'mayFail',
            cause: `${one.row.layer.id} ${one.range} ${other.row.layer.id} ${other.range}`,
            place: inSong(song, patch),
            message: `the wheel bends ${one.row.layer.name} by ${one.range} semitones, and ${other.row.layer.name} by ${other.range}`,
            why: 'Played together and bent, they are out of tune with each other.',
          },
        ];
      }
      return [];
    }),
};
