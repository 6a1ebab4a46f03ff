import { describe, expect, it } from '@jest/globals';
import { act, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { z } from 'zod';
import type { GearPort } from '@rackle/core/show';
import { PortSheet } from '../src/features/gear/PortSheet';
import { undone } from '../src/show/edits';
import { useGear } from '../src/state/hooks';
import { CheckField, Field, NumberFormField } from '../src/ui/form/fields';
import { useSavedForm } from '../src/ui/form/useSavedForm';
import { demoPage } from './demoPage';

const Lamp = z.object({
  on: z.boolean(),
  watts: z.number().int('whole watts only').max(60, 'at most 60 watts'),
});
type Lamp = z.infer<typeof Lamp>;

/** A form over a lamp that keeps what is saved. */
function LampForm({ onSaved }: { onSaved: (lamp: Lamp, changed: string) => void }) {
  const [lamp, setLamp] = useState<Lamp>({ on: false, watts: 40 });
  const { control } = useSavedForm(Lamp, lamp, (next, changed) => {
    setLamp(next);
    onSaved(next, changed);
  });
  return (
    <>
      <CheckField control={control} name="on" words="lit" />
      <NumberFormField control={control} name="watts" label="watts" min={0} max={1000} />
      <Field control={control} name="watts">
        {(watts, onChange) => <button onClick={() => onChange(watts + 15)}>more</button>}
      </Field>
      <button onClick={() => setLamp({ on: true, watts: 10 })}>from elsewhere</button>
      <output>{JSON.stringify(lamp)}</output>
    </>
  );
}

describe('a form that saves by itself', () => {
  it('saves what is right at once, and says which field it was', async () => {
    const saved: [Lamp, string][] = [];
    render(<LampForm onSaved={(...what) => saved.push(what)} />);
    await act(async () => fireEvent.click(screen.getByRole('checkbox', { name: 'lit' })));
    expect(saved).toEqual([[{ on: true, watts: 40 }, 'on']]);
  });

  it('keeps back what its schema refuses, and says why; the next right value is saved', async () => {
    const saved: [Lamp, string][] = [];
    render(<LampForm onSaved={(...what) => saved.push(what)} />);
    await act(async () => fireEvent.click(screen.getByRole('button', { name: 'more' })));
    await act(async () => fireEvent.click(screen.getByRole('button', { name: 'more' })));
    expect(saved.map(([{ watts }]) => watts)).toEqual([55]);
    expect(screen.getAllByRole('alert')[0].textContent).toBe('at most 60 watts');
    const field = screen.getByRole('textbox', { name: 'watts' });
    await act(async () => {
      fireEvent.focus(field);
      fireEvent.change(field, { target: { value: '20' } });
      fireEvent.blur(field);
    });
    expect(saved.at(-1)![0].watts).toBe(20);
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('a field that its schema refuses keeps back no other', async () => {
    const saved: [Lamp, string][] = [];
    render(<LampForm onSaved={(...what) => saved.push(what)} />);
    await act(async () => fireEvent.click(screen.getByRole('button', { name: 'more' })));
    await act(async () => fireEvent.click(screen.getByRole('button', { name: 'more' })));
    await act(async () => fireEvent.click(screen.getByRole('checkbox', { name: 'lit' })));
    expect(saved.at(-1)).toEqual([{ on: true, watts: 55 }, 'on']);
    // It stays in its field, with the reason, although another field was saved.
    expect((screen.getByRole('textbox', { name: 'watts' }) as HTMLInputElement).value).toBe('70');
    expect(screen.getAllByRole('alert')[0].textContent).toBe('at most 60 watts');
  });

  it('shows what changes elsewhere, and saves nothing for it', async () => {
    const saved: [Lamp, string][] = [];
    render(<LampForm onSaved={(...what) => saved.push(what)} />);
    await act(async () => fireEvent.click(screen.getByRole('button', { name: 'from elsewhere' })));
    expect((screen.getByRole('checkbox', { name: 'lit' }) as HTMLInputElement).checked).toBe(true);
    expect(saved).toEqual([]);
  });
});

/** The sheet of the first input of the demo, as the gear page shows it. */
function FirstInput() {
  const gear = useGear()!;
  const port = gear.ports.find(({ direction }) => direction === 'in') as GearPort;
  return <PortSheet gear={gear} port={port} onClose={() => undefined} onRenamed={() => undefined} />;
}

describe('the sheet of a port', () => {
  const input = (page: ReturnType<typeof demoPage>) => {
    const [gear] = Object.values(page.store.getState().show.working.gearLists);
    const port = gear.ports.find(({ direction }) => direction === 'in')!;
    if (port.direction !== 'in') throw new Error('the demo has an input');
    return port;
  };

  it('saves each change as one step with its words; undo shows in the sheet', async () => {
    const page = demoPage();
    render(<FirstInput />, { wrapper: page.Around });
    const before = input(page);
    await act(async () => fireEvent.click(screen.getByRole('checkbox', { name: 'on a channel of its own' })));
    expect(input(page).perNote).toBe(!before.perNote);
    expect(page.store.getState().show.past.at(-1)!.edit.label).toBe(`change the channels of notes of ${before.alias}`);
    await act(async () => {
      page.store.dispatch(undone());
    });
    expect(input(page).perNote).toBe(before.perNote);
    const box = screen.getByRole('checkbox', { name: 'on a channel of its own' }) as HTMLInputElement;
    expect(box.checked).toBe(before.perNote);
  });

  it('two changes one after the other are both kept', async () => {
    const page = demoPage();
    render(<FirstInput />, { wrapper: page.Around });
    const before = input(page);
    const shift = screen.getByRole('textbox', { name: 'shift of the keyboard' });
    await act(async () => fireEvent.keyDown(shift, { key: 'ArrowUp' }));
    await act(async () => fireEvent.click(screen.getByRole('checkbox', { name: 'play layers' })));
    expect([input(page).keyShift, input(page).plays]).toEqual([before.keyShift + 1, !before.plays]);
  });

  it('a name that another input has is not taken', async () => {
    const page = demoPage();
    render(<FirstInput />, { wrapper: page.Around });
    const [gear] = Object.values(page.store.getState().show.working.gearLists);
    const other = gear.ports.filter(({ direction }) => direction === 'in')[1].alias;
    const name = screen.getByRole('textbox', { name: 'name of the port' });
    fireEvent.focus(name);
    fireEvent.change(name, { target: { value: other } });
    expect(screen.getByRole('alert').textContent).toBe('another port has this name; still “Keys” (Esc)');
    fireEvent.blur(name);
    expect(input(page).alias).not.toBe(other);
  });
});
