import { describe, expect, it } from '@jest/globals';
import { HostLink } from '../src/live/hostLink';
import type { HostCommand, HostConnection, HostEvent } from '../src/protocol';

/** A page with a frame that answers nothing by itself. */
async function linked() {
  const removed: number[] = [];
  const asked: HostCommand[] = [];
  const heard: HostEvent[] = [];
  let opened = 0;
  let beat = { ms: 0, act: () => undefined as void };
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
    every: (ms, act) => {
      beat = { ms, act };
      return () => undefined;
    },
  });
  link.listen((event) => heard.push(event));
  await link.start();
  /** Lets time pass in which the page comes to its turn no more often than this: beats that are missed are not made up for. */
  const pass = (ms: number, turnMs = 0) => {
    const between = Math.max(beat.ms, turnMs);
    for (let at = between; at <= ms; at += between) beat.act();
  };
  return { asked, heard, removed, pass, say: (event: HostEvent) => say(event) };
}

describe('the link to the running side', () => {
  it('starts a frame again that says nothing while eight questions wait', async () => {
    const { asked, heard, removed, pass } = await linked();
    pass(16_000);
    expect(asked.filter(({ type }) => type === 'ping')).toHaveLength(8);
    expect(removed).toEqual([]);
    pass(2_000);
    expect(removed).toEqual([1]);
    expect(heard).toContainEqual(expect.objectContaining({ type: 'trouble' }));
  });

  it('leaves a frame alone that answers', async () => {
    const { removed, pass, say } = await linked();
    for (let number = 1; number < 20; number++) {
      pass(2_000);
      say({ type: 'pong', number });
    }
    expect(removed).toEqual([]);
  });

  it('leaves a frame alone that has too much to do to answer, but tells what it does', async () => {
    const { removed, pass, say } = await linked();
    for (let questions = 1; questions <= 40; questions++) {
      pass(2_000);
      if (questions % 8 === 0) say({ type: 'trouble', text: 'one of many' });
    }
    expect(removed).toEqual([]);
  });

  it('leaves a frame alone on a machine that stands still: what the page has no turn in is no time to answer in', async () => {
    const { removed, pass } = await linked();
    pass(60_000, 2_000);
    expect(removed).toEqual([]);
    pass(18_000);
    expect(removed).toEqual([1]);
  });
});
