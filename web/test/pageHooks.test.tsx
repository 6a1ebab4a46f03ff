import { describe, expect, it } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import { BUILT_INS, type Setlist, type Song } from '@rackle/core/show';
import { useProgramMap } from '../src/features/numbers/useProgramMap';
import { useRunningOrder } from '../src/features/setlist/useRunningOrder';
import { useSignal } from '../src/features/song-sheet/signal/useSignal';
import { useSongSheet } from '../src/features/song-sheet/useSongSheet';
import { useOwnPresets } from '../src/features/sounds/useOwnPresets';
import { useShelf } from '../src/features/sounds/useShelf';
import { EVERY, useSoundSearch } from '../src/features/sounds/useSoundSearch';
import { heard } from '../src/live/liveSlice';
import { useSetlist, useSong } from '../src/state/hooks';
import { toggled } from '../src/state/uiSlice';
import { demo, demoPage, type DemoPage } from './demoPage';

const [setlist] = demo.setlists;
const song = demo.songs.find(({ patches }) => patches.length > 1)!;

/** A hook of a page over the demo, drawn anew with every change of the show. */
function onPage<Result>(use: () => Result): { page: DemoPage; now: () => Result } {
  const page = demoPage();
  const { result } = renderHook(use, { wrapper: page.Around });
  return { page, now: () => result.current };
}
const lastLabel = ({ store }: DemoPage): string | undefined => store.getState().show.past.at(-1)?.edit.label;
/** The host says which patch plays. */
const plays = ({ store }: DemoPage, of: Song, patch: number): void =>
  act(() => {
    const entry = setlist.entries.find((one) => one.kind === 'song' && one.songId === of.id)!;
    store.dispatch(
      heard({
        type: 'topics',
        topics: {
          place: {
            position: 0,
            entryId: entry.id,
            songId: of.id,
            patchId: of.patches[patch].id,
            blendId: null,
            cursor: -1,
            nextPosition: 1,
          },
        },
      }),
    );
  });

describe('the running order', () => {
  const use = () => onPage(() => useRunningOrder(useSetlist() as Setlist));

  it('numbers songs, not breaks, and says when each begins', () => {
    const { rows, songCount } = use().now();
    expect(songCount).toBe(setlist.entries.filter(({ kind }) => kind === 'song').length);
    expect(rows.at(-1)!.number).toBe(songCount);
    expect(rows.map(({ startsAt }) => startsAt)).toEqual(rows.map(({ startsAt }) => startsAt).sort((a, b) => a - b));
  });

  it('moves, adds and takes out, each as one step that says what it was', () => {
    const { page, now } = use();
    const [first, second] = now().rows;
    act(() => now().drop(second.entry.id, first.entry.id));
    expect(now().rows[0].entry.id).toBe(second.entry.id);
    expect(lastLabel(page)).toBe('move a song');
    act(() => now().addNewSong('Lantern Walk'));
    expect(now().rows.at(-1)!.song!.name).toBe('Lantern Walk');
    expect(lastLabel(page)).toBe('add Lantern Walk');
    act(() => now().entryActions.remove(now().rows[0].entry));
    expect(now().rows[0].entry.id).toBe(first.entry.id);
  });
});

describe('the song sheet', () => {
  const use = () => onPage(() => useSongSheet(useSong(song.id)!));

  it('looks at what plays; looking at another patch recalls nothing, its number does', () => {
    const { page, now } = use();
    plays(page, song, 1);
    expect(now().patch!.id).toBe(song.patches[1].id);
    act(() => now().choose({ patchId: song.patches[0].id, blendId: null }));
    expect(now().patch!.id).toBe(song.patches[0].id);
    expect(page.posted.map(({ type }) => type)).not.toContain('recall');
    act(() => now().recall(song.patches[0].id, null));
    expect(page.posted.map(({ type }) => type)).toContain('recall');
  });

  it('plays what is looked at where that is wished, but only moves the cursor on a locked stage', () => {
    const { page, now } = use();
    plays(page, song, 1);
    act(() => void page.store.dispatch(toggled('playLooked')));
    act(() => now().choose({ patchId: song.patches[0].id, blendId: null }));
    expect(page.posted.at(-1)).toMatchObject({ type: 'recall' });
    page.posted.length = 0;
    act(() => void page.store.dispatch(toggled('locked')));
    act(() => now().choose({ patchId: song.patches[1].id, blendId: null }));
    expect(page.posted).toEqual([]);
    act(() => now().recall(song.patches[1].id, null));
    expect(page.posted.at(-1)).toMatchObject({ type: 'cursor' });
  });

  it('goes on with the foot who looks at what plays, and stays with who looks at something else', () => {
    const { page, now } = use();
    plays(page, song, 0);
    plays(page, song, 1);
    expect(now().patch!.id).toBe(song.patches[1].id);
    act(() => now().choose({ patchId: song.patches[0].id, blendId: null }));
    plays(page, song, song.patches.length - 1);
    expect(now().patch!.id).toBe(song.patches[0].id);
  });

  it('from another song a column is only looked at', () => {
    const { page, now } = use();
    plays(
      page,
      demo.songs.find(({ id }) => id !== song.id)!,
      0,
    );
    act(() => now().choose({ patchId: song.patches[1].id, blendId: null }));
    expect(now().patch!.id).toBe(song.patches[1].id);
    expect(page.posted.filter(({ type }) => type === 'recall')).toEqual([]);
  });

  it('a new patch stands behind the one that is looked at, and is looked at', () => {
    const { now } = use();
    act(() => now().look({ patchId: song.patches[0].id, blendId: null }));
    act(() => now().actions.addPatch());
    expect(
      now()
        .columns.filter(({ blend }) => blend === null)
        .map(({ patch }) => patch.id)[1],
    ).toBe(now().patch!.id);
  });

  it('a captured blend holds what hands have moved where the song plays', () => {
    const { page, now } = use();
    plays(page, song, 0);
    const { layerId, room, echo, pan } = now().parts[0];
    act(() => {
      page.store.dispatch(
        heard({
          type: 'topics',
          topics: {
            balance: {
              layers: [
                { layerId, levelDb: -17, pan, room, echo, mute: false, steppedTo: null, effects: [], parameters: [] },
              ],
            },
          },
        }),
      );
    });
    act(() => now().actions.captureBlend());
    expect(now().blend!.values.find((value) => value.layerId === layerId)!.levelDb).toBe(-17);
    // Taken back, it is as it was.
    expect(lastLabel(page)).toBe('capture a blend');
  });

  it('a value that is changed while a blend is looked at is the blend’s, not the patch’s', () => {
    const { now } = use();
    act(() => now().actions.captureBlend());
    const { layerId, levelDb } = now().parts[0];
    act(() => now().setBalance(layerId, 'change level', { levelDb: -30 }, 'level'));
    expect(now().parts[0].levelDb).toBe(levelDb);
    expect(now().blend!.values.find((value) => value.layerId === layerId)!.levelDb).toBe(-30);
  });
});

describe('the signal line', () => {
  it('shows the patch’s values, and of a blend what it changes', () => {
    const [patch] = song.patches;
    const part = patch.parts[0];
    const layer = song.layers.find(({ id }) => id === part.layerId)!;
    const blend = { ...patch.blends[0], id: 'b', name: 'B', values: [{ layerId: layer.id, levelDb: -40 }] };
    const nothing = (): void => undefined;
    const { now } = onPage(() =>
      useSignal({
        song,
        layer,
        part,
        blend: blend as never,
        patchId: patch.id,
        stands: false,
        middleC: 'C4',
        setSong: nothing,
        setPart: nothing,
        setBalance: nothing,
      }),
    );
    expect(now().balance).toEqual({
      levelDb: -40,
      pan: part.pan,
      mute: part.mute,
      room: part.room,
      echo: part.echo,
      sends: part.sends,
    });
  });
});

describe('the program map', () => {
  const use = () => onPage(() => useProgramMap(useSetlist() as Setlist));

  it('has every patch and blend once, in playing order, each with its number', () => {
    const { rows } = use().now();
    expect(new Set(rows.map(({ key }) => key)).size).toBe(rows.length);
    expect(rows.filter(({ line }) => line !== null).length).toBeGreaterThan(0);
    expect(rows.filter(({ startsSong }) => startsSong).map(({ place }) => place.song.id)).toEqual(
      setlist.entries.flatMap((entry) => (entry.kind === 'song' ? [entry.songId] : [])),
    );
  });

  it('a number that is given twice is said to be, on both lines', () => {
    const { now } = use();
    const [first, second] = now().rows.filter(({ line }) => line !== null);
    expect(now().rows.some(({ isTwice }) => isTwice)).toBe(false);
    act(() => now().setLine('change a number', second.line!, { ...first.line!, target: second.target }));
    expect(now().rows.filter(({ isTwice }) => isTwice)).toHaveLength(2);
  });

  it('what has no number gets the next free one behind its neighbour', () => {
    const { now } = use();
    const second = now().rows.filter(({ line }) => line !== null)[1];
    act(() =>
      now().change(
        'take a number away',
        setlist.programs.filter(({ target }) => target.patchId !== second.target.patchId),
      ),
    );
    expect(now().firstWithout).toBe(second.key);
    expect(now().freeFor(second.key)).toBe(second.line!.program);
  });
});

describe('own presets of a built-in instrument', () => {
  it('the first move of a control makes one, and the original stays', () => {
    const [instrument] = BUILT_INS;
    const { page, now } = onPage(() => useOwnPresets(instrument));
    expect(now().mine).toBeNull();
    act(() => now().change({ shape: { ...now().shape, bright: 40 } }, 'change the brightness'));
    expect(now().mine!.shape.bright).toBe(40);
    expect(now().mine!.from).toBe(instrument.presets[0].id);
    act(() => now().remove());
    expect(now().presets).toEqual([]);
    expect(now().chosen).toBe(instrument.presets[0].id);
    expect(lastLabel(page)).toBe('remove a preset');
  });
});

describe('the search for sounds', () => {
  it('narrows by words, kind and instrument, and back', () => {
    const { now } = onPage(() => useSoundSearch(useShelf()));
    const all = now().total;
    act(() => now().setKind('outboard'));
    expect(now().total).toBeLessThan(all);
    expect(new Set(now().hits.map(({ kind }) => kind))).toEqual(new Set(['outboard']));
    act(() => now().setKind(EVERY));
    act(() => now().setQuery(now().sounds[0].name));
    expect(now().hits[0].name).toBe(now().sounds[0].name);
    act(() => now().setQuery('no sound is called that'));
    expect(now().total).toBe(0);
    act(() => now().setQuery(''));
    expect(now().total).toBe(all);
  });
});
