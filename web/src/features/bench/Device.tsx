import type { KeyboardEvent, ReactNode } from 'react';
import type { BenchDevice, BenchGesture } from '../../protocol';

/** Sends a gesture to a simulated device. */
export type Send = (gesture: BenchGesture) => void;

interface Props {
  device: BenchDevice;
  about: string;
  gone: boolean;
  send: Send;
  className?: string;
  children: ReactNode;
}

/** One device of the bench, with its cable. */
export function Device({ device, about, gone, send, className = '', children }: Props) {
  return (
    <section
      aria-label={device}
      className={`flex min-w-0 flex-col gap-1 border-b border-r border-rule px-3 py-1.5 ${className}`}
    >
      <h3 className="flex items-baseline gap-2 whitespace-nowrap">
        <span className="named text-base">{device}</span>
        <span className="min-w-0 truncate text-xs text-ink2">{about}</span>
        <button
          type="button"
          className="ml-auto text-xs underline decoration-dotted"
          onClick={() => send({ device, kind: 'plug', plugged: gone })}
        >
          {gone ? 'plug in' : 'pull out'}
        </button>
      </h3>
      <div className={`flex min-h-0 flex-1 flex-col ${gone ? 'pointer-events-none opacity-30' : ''}`}>{children}</div>
    </section>
  );
}

/** How a pad of the bench looks. */
export const PAD =
  'grid h-11 place-items-center border border-ink font-bold active:bg-ink active:text-ground select-none touch-none';

/** Handlers of something that is down while it is pressed, by pointer or key. */
export function whilePressed(press: () => void, release: () => void) {
  const isPress = (event: KeyboardEvent): boolean => event.key === 'Enter' || event.key === ' ';
  return {
    onPointerDown: press,
    onPointerUp: release,
    onPointerLeave: (event: { buttons: number }) => {
      if (event.buttons > 0) release();
    },
    onKeyDown: (event: KeyboardEvent) => {
      if (isPress(event) && !event.repeat) press();
    },
    onKeyUp: (event: KeyboardEvent) => {
      if (isPress(event)) release();
    },
  };
}
