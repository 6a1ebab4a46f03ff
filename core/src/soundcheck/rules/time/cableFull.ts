import { ownTracks, type OwnTrack } from '../../../midiFile';
import { BYTE_MS, formatPosition, tempoMapOfSong } from '../../../timeline';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { inSong } from '../../tonight';

/** More than this of bytes at one moment is heard: a chord becomes a spread. */
const MOST_AT_ONCE_MS = 10;
/** The moment at which a port gets most at once, in bytes as MIDI 1.0 sends them, with running status. */
function fullest(tracks: readonly OwnTrack[]): { atTick: number; bytes: number; places: number } {
  const messages = tracks.flatMap((track) => track.messages).sort((a, b) => a.atTick - b.atTick);
  let [atTick, bytes, status] = [-1, 0, 0];
  const found = { atTick: 0, bytes: 0, places: 0 };
  const close = (): void => {
    if (bytes * BYTE_MS > MOST_AT_ONCE_MS) found.places++;
    if (bytes > found.bytes) Object.assign(found, { atTick, bytes });
  };
  for (const message of messages) {
    if (message.atTick !== atTick) {
      close();
      [atTick, bytes] = [message.atTick, 0];
    }
    if (message.kind === 'sysex') {
      bytes += message.bytes.length + 2;
      status = 0;
      continue;
    }
    const kind = message.status & 0xf0;
    bytes += (message.status === status ? 0 : 1) + (kind === 0xc0 || kind === 0xd0 ? 1 : 2);
    status = message.status;
  }
  close();
  return found;
}

/** No port gets more at one moment than a MIDI cable carries at once. */
export const cableFull: SongRule = {
  id: 'cable-full',
  group: 'time',
  sure: 'no timeline sends more at one moment than a MIDI cable carries',
  per: 'song',
  counts: counts.cues,
  find({ song }, { instruments }) {
    if (song.backing.length === 0 && song.cues.length === 0) return [];
    const byPort = new Map<string, OwnTrack[]>();
    for (const track of ownTracks(song, [...instruments.values()], 0, true, () => undefined))
      if (track.port !== null) byPort.set(track.port, [...(byPort.get(track.port) ?? []), track]);
    const map = tempoMapOfSong(song);
    return [...byPort].flatMap(([port, tracks]): Found[] => {
      const { atTick, bytes, places } = fullest(tracks);
      if (places === 0) return [];
      const more = places > 1 ? `, and so at ${places} places` : '';
      return [
        {
          severity: 'mayFail',
          cause: `${port} ${atTick} ${bytes}`,
          place: {
            ...inSong(song, null, 'timeline'),
            words: `${song.name}, ${formatPosition(map.positionAt(atTick))}`,
          },
          message: `${port} gets ${bytes} bytes at one moment${more}`,
          why: `On a MIDI cable that takes ${Math.round(bytes * BYTE_MS)} ms: what comes last is heard late. Over USB it is no matter.`,
        },
      ];
    });
  },
};
