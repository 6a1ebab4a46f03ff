import { connectionOn, hostEndOn, originIn, type HostConnection } from '../protocol';
import { takeNewest } from '../installed/versions';
import { openHostFrame } from './hostFrame';
import { HostLink } from './hostLink';
import { PlayerLock } from './playerLock';

const RELOADED = 'rackle.reloaded';

/** The pages' end of the connection, and how the player takes over from another window. */
export interface Connection {
  connection: HostConnection;
  takeOver(): void;
  /** Has the host's frame take its newest version. */
  renewFrame(): Promise<void>;
}

/** Finds the running side: in its frame, or in the page where that cannot be. Of all windows one plays. */
export function connectHost(): Connection {
  const origin = originIn('rackle-host');
  const link = new HostLink({
    openFrame: origin === null ? null : () => openHostFrame(origin),
    hereInPage: async () => {
      const { runHost } = await import('../host/runHost');
      const { port1, port2 } = new MessageChannel();
      const send = hostEndOn(port2, (command) => host.command(command));
      const { host } = runHost((event) => send(event));
      return connectionOn(port1);
    },
    reloadOnce: async () => {
      if (sessionStorage.getItem(RELOADED) !== null) return false;
      sessionStorage.setItem(RELOADED, 'once');
      await takeNewest().catch(() => false);
      location.reload();
      return true;
    },
    every: (ms, act) => {
      const id = setInterval(act, ms);
      return () => clearInterval(id);
    },
  });
  const lock = new PlayerLock({
    onHeld: () => void link.start(),
    onElsewhere: () => link.end(),
    // A host in the page cannot be taken out of it.
    onLost: () => {
      if (link.playsInPage) location.reload();
    },
  });
  link.listen((event) => {
    if (event.type === 'hostPlace' && event.place.where === 'frame') sessionStorage.removeItem(RELOADED);
  });
  lock.ask();
  return { connection: link, takeOver: () => lock.takeOver(), renewFrame: () => link.renewFrame() };
}
