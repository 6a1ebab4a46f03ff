import { expect, it } from '@jest/globals';
import { dryRun } from '../src/dryRun';
import { readSmf, writeSmf } from '../src/formats';
import { GearList, SHOW_VERSION, Setlist, Show } from '../src/show';
import { GEAR, layer, part, song } from './build';

it('a dry run whose file leaves an arpeggio held comes to its end, and says what still sounds', () => {
  const arpeggio = { order: 'up', note: '1/8', octaves: 1, gate: 50 };
  const songs = [
    song('Tin', { layers: [layer('A')], patches: [{ id: 'p', name: 'P', parts: [part('A', { arpeggio })] }] }),
  ];
  const setlist = Setlist.parse({ id: 'n', name: 'N', entries: [{ kind: 'song', id: 'e', songId: 'Tin' }] });
  const show = Show.parse({ format: 'rackle-show', version: SHOW_VERSION, songs, setlists: [setlist] });
  const press = { kind: 'message', atTick: 0, status: 0x90, data1: 60, data2: 100 } as const;
  const played = readSmf(writeSmf([{ name: 'Keys', messages: [press] }], 1000, 1_000_000));
  if (!played.ok) throw new Error(played.error.message);
  const run = dryRun(show, setlist, GearList.parse(GEAR), played.value);
  if (!run.ok) throw new Error(run.error.message);
  expect(run.value.log.at(-1)).toMatchObject({ type: 'end' });
  expect(readSmf(run.value.midi).ok).toBe(true);
});
