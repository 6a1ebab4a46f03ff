import { describe, expect, it } from '@jest/globals';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { changeLayer, patchesWith, type Song } from '@rackle/core/show';
import { AlsoIn, useChangeLayer } from '../src/features/shared-layers';
import { useSong } from '../src/state/hooks';
import { demo, demoPage } from './demoPage';

const ferry = demo.songs.find(({ name }) => name === 'Third Ferry Home')!;
const quay = ferry.patches[0];
const layer = ferry.layers.find(({ name }) => name === 'Late Boat')!;

/** A page that renames the layer, seen from the first patch. */
function Page({ to }: { to: string }) {
  const song = useSong(ferry.id)!;
  const change = useChangeLayer();
  const rename = (): void =>
    change({
      song,
      patchId: quay.id,
      layerId: layer.id,
      label: 'rename the layer',
      apply: (of, id) => changeLayer(of, id, (current) => ({ ...current, name: to as typeof current.name })),
    });
  return (
    <>
      <AlsoIn song={song} layerId={layer.id} patchId={quay.id} />
      <button onClick={rename}>rename to {to}</button>
    </>
  );
}

function opened() {
  const page = demoPage();
  const { Around } = page;
  render(
    <Around>
      <Page to="Ferry keys" />
      <Page to="Boat keys" />
    </Around>,
  );
  return {
    song: (): Song => page.store.getState().show.working.songs[ferry.id],
    steps: (): number => page.store.getState().show.past.length,
    press: (name: RegExp) => userEvent.click(screen.getByRole('button', { name })),
  };
}
const names = (song: Song, patch: number): string[] =>
  song.patches[patch].parts.map(({ layerId }) => song.layers.find(({ id }) => id === layerId)!.name);

describe('a layer that plays in other patches too', () => {
  it('says where, and is changed by nothing before it is known which patches are meant', async () => {
    const { song, press } = opened();
    expect(screen.getAllByText(/also in/)[0].textContent).toBe('also in Gangway, Bell buoy, Home lights');
    await press(/rename to Ferry keys/);
    expect(screen.getByRole('dialog').textContent).toContain('also in Gangway, Bell buoy, Home lights');
    expect(song()).toBe(demo.songs.find(({ id }) => id === ferry.id));
    await press(/leave it/);
    expect(song().layers).toHaveLength(ferry.layers.length);
  });

  it('here only: this patch gets its own, in one step, and the others stay', async () => {
    const { song, steps, press } = opened();
    await press(/rename to Ferry keys/);
    await press(/Here only/);
    expect(names(song(), 0)).toContain('Ferry keys');
    expect(names(song(), 1)).toContain('Late Boat');
    expect(patchesWith(song(), layer.id)).toHaveLength(3);
    expect(steps()).toBe(1);
  });

  it('in all: the answer holds for this visit', async () => {
    const { song, press } = opened();
    await press(/rename to Ferry keys/);
    await press(/In all four patches/);
    await press(/rename to Boat keys/);
    expect(screen.queryByRole('dialog')).toBeNull();
    for (const patch of [0, 1, 3, 4]) expect(names(song(), patch)).toContain('Boat keys');
  });
});
