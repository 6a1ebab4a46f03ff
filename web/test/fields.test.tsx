import '@testing-library/jest-dom/jest-globals';
import { describe, expect, it, jest } from '@jest/globals';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { BUILT_INS, OF_EVERY_KIND } from '@rackle/core/show';
import { RECIPES } from '../src/host/audio/recipes';
import { EditableText } from '../src/ui/EditableText';
import { NumberField } from '../src/ui/NumberField';
import { clockText, dbText, minutesText, panText, readMinutes, shiftText } from '../src/ui/format';

describe('a number in its place', () => {
  const set = () => {
    const onChange = jest.fn<(value: number) => void>();
    render(<NumberField label="level" value={-4} min={-60} max={6} step={0.5} show={dbText} onChange={onChange} />);
    return { onChange, field: screen.getByRole('textbox', { name: 'level' }) };
  };

  it('is typed with comma or point, and kept by Enter', async () => {
    const { onChange, field } = set();
    await userEvent.clear(field);
    await userEvent.type(field, '-7,5{Enter}');
    expect(onChange).toHaveBeenCalledWith(-7.5);
  });

  it('out of range says the range and is not taken', async () => {
    const { onChange, field } = set();
    await userEvent.clear(field);
    await userEvent.type(field, '99');
    expect(screen.getByRole('alert')).toHaveTextContent('−60 dB to 6 dB');
    await userEvent.type(field, '{Enter}');
    expect(onChange).not.toHaveBeenCalled();
    // It stays with its reason, also when the focus is elsewhere, until Escape brings back what holds.
    await userEvent.tab();
    expect(field).toHaveValue('99');
    expect(screen.getByRole('alert')).toHaveTextContent('still −4 dB');
    await userEvent.type(field, '{Escape}');
    expect(field).toHaveValue('−4 dB');
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('that cannot be read says the form in which it is expected', async () => {
    render(
      <NumberField
        label="at"
        value={0}
        min={0}
        max={9}
        read={() => null}
        form="bar : beat + ticks"
        onChange={jest.fn()}
      />,
    );
    await userEvent.type(screen.getByRole('textbox', { name: 'at' }), 'x{Enter}');
    expect(screen.getByRole('alert')).toHaveTextContent('bar : beat + ticks is expected, 0 to 9; still 0');
  });

  it('moves by the arrow keys, with Shift ten times as far, and stops at its ends', async () => {
    const { onChange, field } = set();
    await userEvent.type(field, '{ArrowUp}{Shift>}{ArrowUp}{/Shift}');
    expect(onChange.mock.calls.map(([value]) => value)).toEqual([-3.5, 1]);
  });
});

describe('a name in its place', () => {
  it('comes back on Escape, and cannot be empty', async () => {
    const onChange = jest.fn<(value: string) => void>();
    render(<EditableText label="name" value="Slow Bell" onChange={onChange} />);
    const field = screen.getByRole('textbox', { name: 'name' });
    await userEvent.clear(field);
    expect(screen.getByRole('alert')).toHaveTextContent('a name is needed');
    await userEvent.type(field, 'x{Escape}');
    expect(field).toHaveValue('Slow Bell');
    expect(onChange).not.toHaveBeenCalled();
  });
});

describe('values in words', () => {
  it('carry their unit', () => {
    expect([
      minutesText(246),
      clockText(1450),
      dbText(-4.5),
      panText(-10),
      panText(0),
      shiftText(-13),
      shiftText(24),
      shiftText(0),
    ]).toEqual([
      '4:06',
      '00:10',
      '−4.5 dB',
      'left 10',
      'middle',
      'down an octave and 1 semitone',
      'up 2 octaves',
      'as played',
    ]);
    expect([readMinutes('4:06'), readMinutes('90'), readMinutes('4:6')]).toEqual([246, 90, null]);
  });
});

it('every preset of the catalogue that is not one of General MIDI has a recipe of its own', () => {
  const ids = BUILT_INS.filter(({ id }) => id !== OF_EVERY_KIND).flatMap((instrument) =>
    instrument.presets.map((preset) => preset.id as string),
  );
  expect(Object.keys(RECIPES).sort()).toEqual([...ids].sort());
  expect(new Set(Object.values(RECIPES).map((recipe) => JSON.stringify(recipe))).size).toBe(ids.length);
  expect(BUILT_INS.every((instrument) => instrument.presets.length >= 12)).toBe(true);
});
