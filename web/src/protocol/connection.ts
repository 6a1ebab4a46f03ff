import type { HostCommand } from './commands';
import type { HostEvent } from './events';

/** Version of the messages between pages and host; both ends refuse another. */
export const PROTOCOL_VERSION = 7;

/** The pages' end of the connection. */
export interface HostConnection {
  post(command: HostCommand): void;
  listen(listener: (event: HostEvent) => void): () => void;
}

interface Envelope<T> {
  v: typeof PROTOCOL_VERSION;
  body: T;
}

/** Wraps one end of a message port; messages of another version are dropped. */
export function connectionOn(port: MessagePort): HostConnection {
  const listeners = new Set<(event: HostEvent) => void>();
  port.onmessage = ({ data }: MessageEvent<Envelope<HostEvent>>) => {
    if (data.v === PROTOCOL_VERSION) for (const listener of listeners) listener(data.body);
  };
  return {
    post: (body) => port.postMessage({ v: PROTOCOL_VERSION, body } satisfies Envelope<HostCommand>),
    listen: (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}

/** The host's end: hears commands, and answers. */
export function hostEndOn(port: MessagePort, onCommand: (command: HostCommand) => void): (event: HostEvent) => void {
  port.onmessage = ({ data }: MessageEvent<Envelope<HostCommand>>) => {
    if (data.v === PROTOCOL_VERSION) onCommand(data.body);
  };
  return (body) => port.postMessage({ v: PROTOCOL_VERSION, body } satisfies Envelope<HostEvent>);
}
