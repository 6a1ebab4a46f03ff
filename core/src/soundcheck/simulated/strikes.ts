import type { Patch, Place, Song } from '../../show';
import {
  hears,
  playedChannels,
  reached,
  rowsIn,
  silenceOf,
  actionsIn,
  isMutedIn,
  isPlayedByKeys,
  type Row,
} from '../sounding';
import { recordingOf } from '../rules/sound/loopOverKeys';
import type { Around } from '../tonight';
import type { Strike } from './stimuli';

const USUAL_VELOCITY = 80;
const LAST_KEY = 127;

/** A layer of a patch that a key in the middle of its zone is to sound, with that key. */
export interface Promised {
  row: Row;
  strike: Strike;
  /** The key that it sounds, in tonight's key. */
  sounds: number;
}

/** Layers that keys play by themselves: no loops, which go on, and nothing that is silent as the patch is entered. */
const isPlain = (row: Row, rows: readonly Row[], patch: Patch, song: Song, around: Around): boolean =>
  isPlayedByKeys(row) &&
  row.part.arpeggio === null &&
  rows.every(({ part }) => !part.solo) &&
  silenceOf(row, rows, patch, actionsIn(song, patch, around)) === null &&
  recordingOf(around.instruments.get(row.layer.sound.instrumentId), row.layer.sound.presetId) === undefined;

/** Whether other layers take the keys of a zone. */
const isTaken = (row: Row, rows: readonly Row[]): boolean =>
  row.part.keys !== 'taken' && rows.some(({ part }) => part.keys === 'taken');

/** A key for each layer of a patch that has one: in the middle of its zone, at a velocity that it plays. */
export function promisedIn({ song, patch, blend, entry }: Place, around: Around): Promised[] {
  const rows = rowsIn(song, patch, around);
  return rows.flatMap((row): Promised[] => {
    const { zone } = row.part;
    if (isMutedIn(row, blend)) return [];
    if (!isPlain(row, rows, patch, song, around) || isTaken(row, rows)) return [];
    if (zone.lowKey > zone.highKey || zone.lowVelocity > zone.highVelocity) return [];
    for (const input of around.keyboards) {
      const keys = hears(row.part, input) ? reached(row.part, input) : null;
      if (keys === null) continue;
      const channels = zone.channels ?? playedChannels(input) ?? [1];
      const heard = channels.find((channel) => playedChannels(input)?.includes(channel) ?? true);
      if (heard === undefined) continue;
      const velocity = Math.min(zone.highVelocity, Math.max(zone.lowVelocity, USUAL_VELOCITY));
      const key = Math.round((keys.low + keys.high) / 2) - input.keyShift;
      const tonight = row.layer.followsTranspose ? song.transpose + entry.keyShift : 0;
      const sounds = key + input.keyShift + row.part.shift + tonight;
      if (sounds < 0 || sounds > LAST_KEY) continue;
      return [{ row, sounds, strike: { device: input.device, channel: heard - 1, key, velocity } }];
    }
    return [];
  });
}

/** Keys of some layers, each once. */
export const strikesOf = (promised: readonly Promised[]): Strike[] => [
  ...new Map(promised.map(({ strike }) => [`${strike.device} ${strike.channel} ${strike.key}`, strike])).values(),
];
