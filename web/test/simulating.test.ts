import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { Show } from '@rackle/core/show';
import type { SentMessage } from '@rackle/core/simulate';
import { checked, outdated } from '../src/checks/checksSlice';
import { NO_CHECKS } from '../src/checks/checks';
import { ShowChecker } from '../src/checks/showChecker';
import { simulating } from '../src/checks/simulating';
import { rollLanes } from '../src/features/soundcheck/rollLanes';
import type { Store } from '../src/state/store';
import { openedStore } from './openedStore';

const demo = Show.parse(JSON.parse(readFileSync(join(__dirname, '../../demo/tern-ledge.json'), 'utf8')));

function started(): { store: Store; checker: ShowChecker } {
  const store = openedStore(demo);
  const checker = new ShowChecker();
  checker.start(demo, demo.setlists[0].id);
  return { store, checker };
}

/** Until the simulation has come to a state. */
const until = (store: Store, state: string): Promise<void> =>
  new Promise((resolve) => {
    const look = (): void => {
      if (store.getState().checks.simulation.state === state) resolve();
    };
    store.subscribe(look);
    look();
  });

describe('playing every change beside the pages', () => {
  it('tells how far it is, ends with what it found, and is old after an edit', async () => {
    const { store, checker } = started();
    const seen: number[] = [];
    store.subscribe(() => {
      const { simulation } = store.getState().checks;
      if (simulation.state === 'running') seen.push(simulation.of);
    });
    const simulation = simulating(store, checker);
    simulation.start(false);
    await until(store, 'done');
    expect(store.getState().checks.simulation).toMatchObject({ findings: [], cases: 1158, pairs: 98, isStale: false });
    // Some cannot be done at every pair: they are gone past.
    expect(Math.max(...seen)).toBeGreaterThanOrEqual(1158);
    expect((await simulation.roll({ from: 0, to: 1, stimulus: 'held' }))?.sent.length).toBeGreaterThan(0);
    // Another look, for the sound has started, makes nothing old; an edit does.
    store.dispatch(checked(NO_CHECKS));
    expect(store.getState().checks.simulation).toMatchObject({ state: 'done', isStale: false });
    store.dispatch(outdated());
    expect(store.getState().checks.simulation).toMatchObject({ state: 'done', isStale: true });
  });

  it('can be called off: nothing is said of what it had found', async () => {
    const { store, checker } = started();
    const simulation = simulating(store, checker);
    simulation.start(true);
    await until(store, 'running');
    simulation.callOff();
    await until(store, 'none');
    expect(await simulation.roll({ from: 0, to: 1, stimulus: 'held' })).toBeNull();
  });
});

describe('the roll of a case', () => {
  const sent = (atMs: number, status: number, data1: number, data2: number, to = 'Skerry'): SentMessage => ({
    destination: 0,
    to,
    status,
    data1,
    data2,
    atMs,
  });

  it('has a lane for each channel and layer, its notes from their beginnings to their ends, and the recalls', () => {
    const { lanes, recalls } = rollLanes({
      done: [{ atMs: 1000, input: { type: 'recall', position: 3 } }],
      sent: [
        sent(10, 0xc1, 5, 0),
        sent(500, 0x91, 60, 80),
        sent(510, 0x90, 62, 80, 'Causeway / Song / Patch / Layer'),
        sent(900, 0x81, 60, 0),
      ],
    });
    expect(recalls).toEqual([1000]);
    expect(lanes).toEqual([
      { name: 'Skerry, 2', notes: [{ key: 60, fromMs: 500, toMs: 900 }], marks: [10] },
      { name: 'Patch / Layer', notes: [{ key: 62, fromMs: 510, toMs: 4000 }], marks: [] },
    ]);
  });
});
