import { CLOCK, SONG_POSITION } from '../midi/status';
import type { WriteMessage } from '../formats/smf';
import {
  songEntry,
  type EntryId,
  type GearList,
  type Instrument,
  type Setlist,
  type SetlistEntry,
  type Song,
} from '../show';
import { Simulation } from '../simulate';
import { tempoMapOfSong } from '../timeline';
import type { OwnTrack } from './ownTracks';

/** Long enough for all that the first recall brings. */
const SETTLED_MS = 60_000;

/**
 * What Rackle sends because of the recalls of a song: the engine itself plays its timeline, with nothing but recalls in it.
 * What the first patch needs stands at the start.
 */
export function derivedTracks(
  song: Song,
  entry: SetlistEntry | null,
  around: { instruments: readonly Instrument[]; setlist: Setlist; gear: GearList | null },
): OwnTrack[] {
  const map = tempoMapOfSong(song);
  const cues = song.cues.filter(({ kind }) => kind === 'recall');
  // At its own tempo, as the file has it: tonight's would come at other ticks.
  const entries = [entry?.kind === 'song' ? { ...entry, bpm: null } : songEntry('only' as EntryId, song.id)];
  const simulation = new Simulation(
    { songs: [{ ...song, cues, backing: [], countInBars: 0 }], instruments: [...around.instruments] },
    { ...around.setlist, entries, standing: [] },
    around.gear && { ...around.gear, click: { ...around.gear.click, on: false } },
    { records: false },
  );
  const { engine } = simulation;
  engine.advance(SETTLED_MS);
  const before = simulation.take();
  simulation.feed({ type: 'perform', action: 'play' }, SETTLED_MS);
  const endMs = SETTLED_MS + map.msAt(map.endTick) - 0.01;
  for (let dueMs = engine.advance(SETTLED_MS); dueMs <= endMs; dueMs = engine.advance(dueMs));
  const tracks = new Map<string, OwnTrack>();
  const sent = [
    ...before.map((message) => ({ message, atTick: 0 })),
    ...simulation.take().map((message) => ({ message, atTick: Math.round(map.tickAt(message.atMs - SETTLED_MS)) })),
  ];
  for (const { message, atTick } of sent) {
    const { destination, to, status, data1, data2, bytes } = message;
    if (status >= CLOCK || status === SONG_POSITION) continue;
    if (simulation.registry.destinations[destination].kind !== 'port') continue;
    const channel = bytes ? 1 : (status & 15) + 1;
    const name = `${to} ${channel}`;
    const track = tracks.get(name) ?? { name, port: to, messages: [] as WriteMessage[] };
    tracks.set(name, track);
    track.messages.push(bytes ? { kind: 'sysex', atTick, bytes } : { kind: 'message', atTick, status, data1, data2 });
  }
  return [...tracks.values()];
}
