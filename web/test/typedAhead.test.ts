import { describe, expect, it, jest } from '@jest/globals';
import { TypedAhead } from '../src/app/typedAhead';

const press = (key: string): boolean =>
  window.dispatchEvent(new KeyboardEvent('keydown', { key, cancelable: true, bubbles: true }));

describe('what is typed before its field stands', () => {
  it('goes into the field, and to no shortcut on the way', () => {
    const ahead = new TypedAhead(window);
    const shortcut = jest.fn();
    window.addEventListener('keydown', shortcut);
    const put = jest.fn();
    ahead.begin(() => undefined);
    for (const key of ['k', 'e', 'o', 'Backspace', 'l']) press(key);
    ahead.into(put);
    press('p');
    expect(put.mock.calls).toEqual([['kel'], ['kelp']]);
    ahead.end();
    press('l');
    expect(shortcut).toHaveBeenCalledTimes(1);
    window.removeEventListener('keydown', shortcut);
  });

  it('is not wanted any more at Escape, and belongs to the page again where the field never comes', () => {
    jest.useFakeTimers();
    const ahead = new TypedAhead(window);
    const escaped = jest.fn();
    ahead.begin(escaped);
    press('Escape');
    expect(escaped).toHaveBeenCalledTimes(1);
    ahead.begin(escaped);
    jest.advanceTimersByTime(20_000);
    expect(press('l')).toBe(true);
    jest.useRealTimers();
  });
});
