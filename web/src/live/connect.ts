import { SimulatedInput } from '../host/bench/simulatedInput';
import ClockWorker from '../host/clock.worker?worker';
import { HostCore } from '../host/hostCore';
import { workerTimer } from '../host/timer';
import { doorOn, hostEndOn, type HandOver, type HostDoor } from '../protocol';
import { fileAddress } from './files';

/** Starts the running side and gives the pages their end of its door. Sound is fetched only when it is wanted. */
export function connectHost(): HostDoor {
  const { port1, port2 } = new MessageChannel();
  const send = hostEndOn(port2, (command) => host.command(command));
  const after = workerTimer(new ClockWorker());
  const host = new HostCore({
    nowMs: () => performance.now(),
    after,
    nextSlice: betweenMessages(),
    startSound: async (told) => {
      const { startRack } = await import('../host/audio/rack');
      const rack = await startRack(
        {
          bankPreset: async (hash, bank, program) =>
            (await import('../host/audio/sampled/bankWorker')).bankWorker().preset(fileAddress(hash), bank, program),
          file: async (hash) => {
            const answer = await fetch(fileAddress(hash));
            if (!answer.ok) throw new Error('the file is not stored here');
            return answer.arrayBuffer();
          },
        },
        told,
        after,
      );
      // For tests that listen: the peak of what leaves now.
      (globalThis as { rackleOutputPeak?: () => number }).rackleOutputPeak = () => rack.outputPeak();
      (globalThis as { rackleSoundSeconds?: () => number }).rackleSoundSeconds = () => rack.seconds();
      return rack;
    },
    send,
  });
  // For tests that measure: how long messages took from arrival to hand-over.
  (globalThis as { rackleHandOver?: () => HandOver }).rackleHandOver = () => host.handOverTimes();
  // For tests that play more gear than the bench has: a further simulated input.
  (globalThis as { rackleInput?: (name: string) => SimulatedInput }).rackleInput = (name) => {
    const input = new SimulatedInput(name, host, () => performance.now());
    input.plug(true);
    return input;
  };
  return doorOn(port1);
}

/** Work that waits until the messages that are here already have been heard: no timer, which browsers would slow down. */
function betweenMessages(): (act: () => void) => void {
  const { port1, port2 } = new MessageChannel();
  const waiting: (() => void)[] = [];
  port1.onmessage = () => waiting.shift()?.();
  return (act) => {
    waiting.push(act);
    port2.postMessage(null);
  };
}
