import { describe, expect, it, jest } from '@jest/globals';
import { fireEvent, render, screen } from '@testing-library/react';
import { Effect, Song } from '@rackle/core/show';
import { EffectSeries } from '../src/features/effects';
import { channelsText, readChannels } from '../src/features/song-sheet/LayerTools';
import { useSheetKeys, type Column, type SheetActions } from '../src/features/song-sheet/useSheetKeys';
import { hzText, noteText } from '../src/ui/format';

const sound = { instrumentId: 'causeway', presetId: 'causeway/late-boat' };
const song = Song.parse({
  id: 's',
  name: 'S',
  layers: [
    { id: 'a', name: 'A', tape: 'straw', sound },
    { id: 'b', name: 'B', tape: 'moss', sound },
  ],
  patches: [
    { id: 'p', name: 'P', parts: [{ layerId: 'a' }], blends: [{ id: 'x', name: 'X' }] },
    { id: 'q', name: 'Q', parts: [] },
  ],
});
const columns: Column[] = song.patches.flatMap((patch): Column[] => [
  { patch, blend: null },
  ...patch.blends.map((blend) => ({ patch, blend })),
]);

function Keys({ did }: { did: (what: string, ...more: unknown[]) => void }) {
  const names = [
    'choose',
    'setPlays',
    'movePatch',
    'moveLayer',
    'addPatch',
    'addLayer',
    'duplicatePatch',
    'duplicateLayer',
    'captureBlend',
    'removePatch',
    'removeLayer',
    'runOn',
  ] as const;
  const actions = Object.fromEntries(
    names.map((name) => [name, (...more: unknown[]) => did(name, ...more)]),
  ) as unknown as SheetActions;
  return (
    <div data-testid="score" tabIndex={0} onKeyDown={useSheetKeys(song, columns, 0, 0, actions)}>
      <input aria-label="a name" />
    </div>
  );
}

describe('the keys of the score', () => {
  const press = (key: string, over: object = {}, at: 'score' | 'name' = 'score'): unknown[][] => {
    const did = jest.fn();
    const { unmount } = render(<Keys did={did} />);
    fireEvent.keyDown(at === 'score' ? screen.getByTestId('score') : screen.getByLabelText('a name'), { key, ...over });
    unmount();
    return did.mock.calls;
  };

  it('go from cell to cell, through blends too, and stop at the ends', () => {
    expect(press('ArrowRight')).toEqual([['choose', { patchId: 'p', blendId: 'x' }]]);
    expect(press('ArrowLeft')).toEqual([['choose', { patchId: 'p', blendId: null }]]);
    expect(press('End')).toEqual([['choose', { patchId: 'q', blendId: null }]]);
    expect(press('ArrowDown')).toEqual([['choose', { layerId: 'b' }]]);
    expect(press('ArrowUp')).toEqual([['choose', { layerId: 'a' }]]);
  });

  it.each([
    ['Enter', {}, ['setPlays', true]],
    ['Delete', {}, ['setPlays', false]],
    ['n', {}, ['addPatch']],
    ['a', {}, ['addLayer']],
    ['d', {}, ['duplicatePatch']],
    ['c', {}, ['captureBlend']],
    ['r', {}, ['runOn']],
    ['D', { shiftKey: true }, ['duplicateLayer']],
    ['Delete', { shiftKey: true }, ['removePatch']],
    ['Backspace', { shiftKey: true }, ['removeLayer']],
    ['ArrowRight', { altKey: true }, ['movePatch', 1]],
    ['ArrowUp', { altKey: true }, ['moveLayer', -1]],
  ])('%s %o does %o', (key, over, wanted) => {
    expect(press(key, over)).toEqual([wanted]);
  });

  it('leave typing alone, and what is not theirs', () => {
    expect(press('d', {}, 'name')).toEqual([]);
    expect(press('z', { ctrlKey: true })).toEqual([]);
    expect(press(' ')).toEqual([]);
  });
});

describe('a series of effects', () => {
  const effects = [Effect.parse({ id: '1', kind: 'chorus' }), Effect.parse({ id: '2', kind: 'delay' })];

  it('is read as words; each is switched, moved and taken away', () => {
    const onChange = jest.fn<(effects: Effect[], label: string) => void>();
    render(<EffectSeries effects={effects} onChange={onChange} />);
    expect(screen.getByRole('list', { name: 'effects in their order' }).textContent).toContain(
      'dotted eighth, repeats',
    );
    fireEvent.click(screen.getByRole('button', { name: 'chorus 1' }));
    expect(onChange.mock.calls[0][0][0]).toMatchObject({ kind: 'chorus', on: false });
    fireEvent.keyDown(screen.getByRole('button', { name: 'delay 2' }), { key: 'ArrowUp', altKey: true });
    expect(onChange.mock.calls[1][0].map(({ kind }) => kind)).toEqual(['delay', 'chorus']);
    fireEvent.click(screen.getByRole('button', { name: 'take the delay away' }));
    expect(onChange.mock.calls[2][0].map(({ kind }) => kind)).toEqual(['chorus']);
  });
});

describe('words and numbers', () => {
  it('channels are typed as players write them', () => {
    expect(readChannels('1, 3–6')).toEqual([1, 3, 4, 5, 6]);
    expect(readChannels('every channel')).toBeNull();
    expect(readChannels('channels 2 2 16')).toEqual([2, 16]);
    expect(readChannels('seventeen')).toBeUndefined();
    expect(readChannels('17')).toBeUndefined();
    expect([channelsText(null), channelsText([4]), channelsText([1, 2])]).toEqual([
      'every channel',
      'channel 4',
      'channels 1, 2',
    ]);
  });

  it('note values and frequencies read as they are said', () => {
    expect([noteText('1/8.'), noteText('1/4t'), noteText('1/1')]).toEqual([
      'dotted eighth',
      'quarter triplet',
      'whole note',
    ]);
    expect([hzText(440), hzText(2500), hzText(0.8)]).toEqual(['440 Hz', '2.5 kHz', '0.8 Hz']);
  });
});
