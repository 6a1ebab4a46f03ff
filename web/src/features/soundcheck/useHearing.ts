import { useEffect, useRef } from 'react';
import { midi } from '@rackle/core/midi';
import type { CaseRoll } from '@rackle/core/soundcheck';
import type { BenchGesture, HostConnection } from '../../protocol';
import { useApp, useHost } from '../../state/hooks';

type Done = CaseRoll['done'][number];
type Message = Extract<Done['input'], { type: 'message' }>;

const CENTRE = 8192;
const { NOTE_OFF, NOTE_ON, CONTROLLER, WHEEL } = midi;

/**
 * Plays a case with the bench's own keyboards, as hands would, at home: null while the stage is locked or the sound is
 * off.
 */
export function useHearing(): ((from: number, done: readonly Done[]) => void) | null {
  const host = useHost();
  const locked = useApp(({ ui }) => ui.locked);
  const sounds = useApp(({ live }) => live.sound.sound === 'on');
  const heard = useRef<Hearing | null>(null);
  useEffect(() => () => heard.current?.end(), []);
  if (locked || !sounds) return null;
  return (from, done) => {
    heard.current?.end();
    heard.current = new Hearing(host, from, done);
  };
}

/** A case on its way. Ended before its time it lets go of everything that it holds. */
export class Hearing {
  private next = 0;
  private timer: number | undefined;
  private readonly beganMs = performance.now();

  constructor(
    private readonly host: Pick<HostConnection, 'post'>,
    from: number,
    private readonly done: readonly Done[],
  ) {
    host.post({ type: 'recall', position: from });
    this.goOn();
  }

  /** What is still to come of it is let go of at once: keys and pedals up, the wheel at rest; nothing is recalled. */
  end(): void {
    clearTimeout(this.timer);
    for (const { input } of this.done.slice(this.next)) if (input.type === 'message' && letsGo(input)) this.play(input);
    this.next = this.done.length;
  }

  private goOn(): void {
    const { done, next } = this;
    if (next >= done.length) return;
    this.timer = window.setTimeout(
      () => {
        this.next++;
        this.play(done[next].input);
        this.goOn();
      },
      Math.max(0, this.beganMs + done[next].atMs - performance.now()),
    );
  }

  private play(input: Done['input']): void {
    if (input.type === 'recall') this.host.post(input);
    const gesture = input.type === 'message' ? gestureOf(input) : null;
    if (gesture) this.host.post({ type: 'bench', gesture });
  }
}

/** Whether a message ends something: a key up, a pedal up, the wheel at its centre. */
function letsGo({ status, data1, data2 }: Message): boolean {
  const kind = status & 0xf0;
  return (
    kind === NOTE_OFF || (kind === CONTROLLER && data2 === 0) || (kind === WHEEL && (data1 | (data2 << 7)) === CENTRE)
  );
}

/** What the bench's keyboards have to do for a message; null: they cannot. */
function gestureOf({ device, status, data1, data2 }: Message): BenchGesture | null {
  if (device !== 'Aster 73' && device !== 'Cobble 25') return null;
  switch (status & 0xf0) {
    case NOTE_ON:
      return { device, kind: 'key', key: data1, velocity: data2 };
    case NOTE_OFF:
      return { device, kind: 'key', key: data1, velocity: 0 };
    case CONTROLLER:
      return device === 'Aster 73' ? { device, kind: 'controller', controller: data1, value: data2 } : null;
    case WHEEL:
      return device === 'Aster 73'
        ? { device, kind: 'wheel', value: ((data1 | (data2 << 7)) - CENTRE) / CENTRE }
        : null;
    default:
      return null;
  }
}
