import { useCallback, useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { BenchGesture } from '../../protocol';

const BLACK = new Set([1, 3, 6, 8, 10]);
/** Two rows of the computer's keyboard, from C3 and from C4 (48 and 60). */
const COMPUTER_KEYS: Record<string, number> = Object.fromEntries([
  ...['KeyZ', 'KeyS', 'KeyX', 'KeyD', 'KeyC', 'KeyV', 'KeyG', 'KeyB', 'KeyH', 'KeyN', 'KeyJ', 'KeyM'].map((code, i) => [
    code,
    48 + i,
  ]),
  ...[
    'KeyQ',
    'Digit2',
    'KeyW',
    'Digit3',
    'KeyE',
    'KeyR',
    'Digit5',
    'KeyT',
    'Digit6',
    'KeyY',
    'Digit7',
    'KeyU',
    'KeyI',
    'Digit9',
    'KeyO',
    'Digit0',
    'KeyP',
  ].map((code, i) => [code, 60 + i]),
]);

interface Props {
  device: 'Aster 73' | 'Cobble 25';
  lowest: number;
  highest: number;
  send: (gesture: BenchGesture) => void;
}

/** Keys by pointer, touch (several at once) and computer keys; the lower on a key, the harder it is struck. */
export function PianoKeys({ device, lowest, highest, send }: Props) {
  const [down, setDown] = useState<ReadonlySet<number>>(new Set());
  const pointers = useRef(new Map<number, number>());
  const typed = useRef(new Map<string, number>());
  const key = useCallback(
    (number: number, velocity: number): void => {
      send({ device, kind: 'key', key: number, velocity });
      setDown((before) => {
        const after = new Set(before);
        if (velocity > 0) after.add(number);
        else after.delete(number);
        return after;
      });
    },
    [send, device],
  );
  // A key goes up wherever the focus is by then; a page that loses the keyboard hears no key-up at all: let everything
  // typed go.
  useEffect(() => {
    const held = typed.current;
    const lift = (code: string): void => {
      const number = held.get(code);
      held.delete(code);
      if (number !== undefined) key(number, 0);
    };
    const onUp = (event: globalThis.KeyboardEvent): void => lift(event.code);
    const release = (): void => {
      for (const code of [...held.keys()]) lift(code);
    };
    window.addEventListener('keyup', onUp, true);
    window.addEventListener('blur', release);
    return () => {
      release();
      window.removeEventListener('keyup', onUp, true);
      window.removeEventListener('blur', release);
    };
  }, [key]);
  const onKeyDown = (event: KeyboardEvent): void => {
    const number = COMPUTER_KEYS[event.code];
    if (number === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    if (event.repeat || typed.current.has(event.code)) return;
    typed.current.set(event.code, number);
    key(number, 92);
  };
  const start =
    (number: number) =>
    (event: PointerEvent<HTMLElement>): void => {
      const { top, height } = event.currentTarget.getBoundingClientRect();
      pointers.current.set(event.pointerId, number);
      key(number, Math.round(40 + 80 * Math.min(1, Math.max(0, (event.clientY - top) / height))));
    };
  const end = (event: PointerEvent): void => {
    const number = pointers.current.get(event.pointerId);
    pointers.current.delete(event.pointerId);
    if (number !== undefined) key(number, 0);
  };
  const glide =
    (number: number) =>
    (event: PointerEvent<HTMLElement>): void => {
      const held = pointers.current.get(event.pointerId);
      if (held === undefined || held === number) return;
      key(held, 0);
      pointers.current.set(event.pointerId, number);
      key(number, 88);
    };
  const whites = Array.from({ length: highest - lowest + 1 }, (_, i) => lowest + i).filter(
    (number) => !BLACK.has(number % 12),
  );
  const isDown = (number: number): boolean => down.has(number);
  return (
    <div
      role="group"
      aria-label={`keys of ${device}`}
      tabIndex={0}
      data-keys="own"
      onKeyDown={onKeyDown}
      onPointerUp={end}
      onPointerCancel={end}
      onPointerLeave={end}
      className="relative flex h-full min-h-16 min-w-40 flex-1 touch-none border-t-2 border-ink select-none"
    >
      {whites.map((number) => (
        <span
          key={number}
          data-key={number}
          onPointerDown={start(number)}
          onPointerEnter={glide(number)}
          className={`relative flex-1 border-r border-[#cdc4b1] ${isDown(number) ? 'bg-live' : 'bg-[#ebe4d4]'}`}
        >
          {BLACK.has((number + 1) % 12) && number < highest && (
            <span
              data-key={number + 1}
              onPointerDown={(event) => {
                event.stopPropagation();
                start(number + 1)(event);
              }}
              onPointerEnter={glide(number + 1)}
              className={`absolute right-[-32%] top-0 z-10 h-[58%] w-[64%] ${isDown(number + 1) ? 'bg-live' : 'bg-[#1b1917]'}`}
            />
          )}
          {number % 12 === 0 && (
            <span className="mono pointer-events-none absolute bottom-0 left-0.5 text-[9px] text-[#5d574d]">
              C{number / 12 - 1}
            </span>
          )}
        </span>
      ))}
    </div>
  );
}
