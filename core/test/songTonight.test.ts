import { describe, expect, it } from '@jest/globals';
import {
  finishingTimes,
  playingOrder,
  secondsOf,
  songIn,
  songTonight,
  type Setlist,
  type SetlistEntry,
} from '../src/show';
import { Simulation } from '../src/simulate';
import { demo } from './pageEdits';

const show = demo();
const songs = Object.fromEntries(show.songs.map((song) => [song.id as string, song]));
const entryOf = (setlist: Setlist, songId: string) =>
  setlist.entries.find((entry) => entry.kind === 'song' && entry.songId === songId) as Extract<
    SetlistEntry,
    { kind: 'song' }
  >;
const [setlist] = show.setlists;
const at = (bpm: number | null): Setlist => ({
  ...setlist,
  entries: setlist.entries.map((entry) =>
    entry.kind === 'song' && entry.songId === 'third-ferry-home' ? { ...entry, bpm } : entry,
  ),
});

describe('tonight’s tempo of an entry', () => {
  const song = songs['third-ferry-home'];
  const [{ bpm }] = song.map.tempos;

  it('makes the whole map faster, and the song as much shorter; the same song gives the same object', () => {
    const entry = { ...entryOf(setlist, song.id), bpm: bpm * 1.25 };
    const played = songTonight(song, entry);
    expect(played.map.tempos.map((tempo) => tempo.bpm)).toEqual(song.map.tempos.map((tempo) => tempo.bpm * 1.25));
    expect(played.durationSeconds).toBe(Math.round(song.durationSeconds / 1.25));
    expect(songTonight(song, { ...entry })).toBe(played);
    expect(songTonight(song, { ...entry, bpm: null })).toBe(song);
    expect(songTonight(song, { ...entry, bpm })).toBe(song);
  });

  it('counts in the evening’s times', () => {
    const slower = at(bpm / 2);
    const later = finishingTimes(slower, songs).overAt - finishingTimes(setlist, songs).overAt;
    expect(later * 60).toBeCloseTo(song.durationSeconds, 0);
    expect(secondsOf(entryOf(slower, song.id), songs)).toBe(song.durationSeconds * 2);
  });

  it('is that of the entry that is played, where a song comes twice; else of the first one', () => {
    const entry = entryOf(setlist, song.id);
    const entries = [
      { ...entry, bpm: bpm * 2 },
      { ...entry, id: 'again' as typeof entry.id, bpm: bpm * 3 },
    ];
    const tempo = (entryId: string | null): number => songIn({ entries }, song, entryId).map.tempos[0].bpm;
    expect([tempo(entry.id), tempo('again'), tempo(null)]).toEqual([bpm * 2, bpm * 3, bpm * 2]);
    expect(songIn({ entries: [] }, song, null)).toBe(song);
  });

  it('is what the song is recalled at and what its timeline plays by', () => {
    const bpms = [null, bpm * 1.5].map((tonight) => {
      const simulation = new Simulation(show, at(tonight), show.gearLists[0]);
      const position = playingOrder(setlist, songs).findIndex((place) => place.song.id === song.id);
      simulation.feed({ type: 'recall', position }, 10);
      return simulation.engine.tempoBpm;
    });
    expect(bpms[1]).toBeCloseTo(bpms[0] * 1.5, 6);
  });
});
