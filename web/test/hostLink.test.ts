import { describe, expect, it } from '@jest/globals';
import { HostLink } from '../src/live/hostLink';
import type { HostCommand, HostConnection, HostEvent } from '../src/protocol';

/** A page with a frame that answers nothing by itself. */
async function linked() {
  const removed: number[] = [];
  const asked: HostCommand[] = [];
  const heard: HostEvent[] = [];
  let opened = 0;
  let tick: () => void = () => undefined;
  let say: (event: HostEvent) => void = () => undefined;
  const link = new HostLink({
    openFrame: () => {
      const frame = ++opened;
      const connection: HostConnection = {
        post: (command) => asked.push(command),
        listen: (listener) => {
          const before = say;
          say = (event) => [before, listener].forEach((tell) => tell(event));
          return () => undefined;
        },
      };
      const remove = () => removed.push(frame);
      return Promise.resolve({
        kind: 'open',
        connection,
        remove,
        onClose: () => undefined,
        renew: async () => undefined,
      });
    },
    hereInPage: () => Promise.reject(new Error('not in this test')),
    reloadOnce: async () => false,
    every: (_, act) => {
      tick = act;
      return () => undefined;
    },
  });
  link.listen((event) => heard.push(event));
  await link.start();
  return { asked, heard, removed, tick: () => tick(), say: (event: HostEvent) => say(event) };
}

describe('the link to the running side', () => {
  it('starts a frame again that says nothing while three questions wait', async () => {
    const { asked, heard, removed, tick } = await linked();
    for (let ticks = 0; ticks < 3; ticks++) tick();
    expect(asked.filter(({ type }) => type === 'ping')).toHaveLength(3);
    expect(removed).toEqual([]);
    tick();
    expect(removed).toEqual([1]);
    expect(heard).toContainEqual(expect.objectContaining({ type: 'trouble' }));
  });

  it('leaves a frame alone that answers', async () => {
    const { removed, tick, say } = await linked();
    for (let number = 1; number < 20; number++) {
      tick();
      say({ type: 'pong', number });
    }
    expect(removed).toEqual([]);
  });

  it('leaves a frame alone that has too much to do to answer, but tells what it does', async () => {
    const { removed, tick, say } = await linked();
    for (let ticks = 0; ticks < 20; ticks++) {
      tick();
      if (ticks % 3 === 2) say({ type: 'trouble', text: 'one of many' });
    }
    expect(removed).toEqual([]);
  });
});
