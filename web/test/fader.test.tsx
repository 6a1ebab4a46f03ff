import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { Fader } from '../src/ui/Fader';
import { HOLD_MS, useHeldPress } from '../src/ui/useHeldPress';

const LENGTH_PX = 100;

/** jsdom has none: a mouse event that knows its pointer. */
class PointerLike extends MouseEvent {
  readonly pointerId: number;
  readonly pointerType: string;

  constructor(type: string, init: PointerEventInit = {}) {
    super(type, init);
    this.pointerId = init.pointerId ?? 0;
    this.pointerType = init.pointerType ?? '';
  }
}

beforeEach(() => {
  Object.assign(globalThis, { PointerEvent: PointerLike });
  jest.useFakeTimers();
  Object.assign(HTMLElement.prototype, {
    setPointerCapture: () => undefined,
    getBoundingClientRect: () => ({ width: LENGTH_PX, height: 20 }) as DOMRect,
  });
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

/** A fader at its middle, and where it was moved to. */
function fader(mustHold: boolean): { bar: HTMLElement; moved: number[] } {
  const moved: number[] = [];
  render(<Fader label="Swell" share={0.5} text="" mustHold={mustHold} onMove={(share) => moved.push(share)} />);
  return { bar: screen.getByRole('slider'), moved };
}
const at = (clientX: number, pointerId = 1): object => ({ clientX, pointerId, pointerType: 'touch' });
const passes = (): void => act(() => void jest.advanceTimersByTime(HOLD_MS));

describe('a fader that must be held', () => {
  it('goes as far as the finger does, once it has stayed', () => {
    const { bar, moved } = fader(true);
    fireEvent.pointerDown(bar, at(50));
    fireEvent.pointerMove(bar, at(53));
    passes();
    fireEvent.pointerMove(bar, at(70));
    expect(moved).toEqual([0.7]);
  });

  it('is not moved by a finger that goes on before it has stayed, however long it is there', () => {
    const { bar, moved } = fader(true);
    fireEvent.pointerDown(bar, at(50));
    fireEvent.pointerMove(bar, at(80));
    passes();
    fireEvent.pointerMove(bar, at(90));
    expect(moved).toEqual([]);
  });
});

it('a second finger neither takes a fader over nor lets it go', () => {
  const { bar, moved } = fader(false);
  fireEvent.pointerDown(bar, at(50));
  fireEvent.pointerDown(bar, at(10, 2));
  fireEvent.pointerUp(bar, at(10, 2));
  fireEvent.pointerMove(bar, at(60));
  expect(moved).toEqual([0.6]);
});

it('a button of the stage is pressed once by a pointer, a key, and what presses without either', () => {
  let presses = 0;
  function Button() {
    const { handlers } = useHeldPress(
      () => void presses++,
      () => false,
    );
    return <button {...handlers}>next</button>;
  }
  render(<Button />);
  const button = screen.getByRole('button');
  fireEvent.pointerDown(button, at(0));
  fireEvent.click(button, { detail: 1 });
  expect(presses).toBe(1);
  fireEvent.keyDown(button, { key: 'Enter' });
  expect(presses).toBe(2);
  fireEvent.click(button, { detail: 0 });
  expect(presses).toBe(3);
});
