import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ReactNode } from 'react';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';
import { Show, bodiesOf } from '@rackle/core/show';
import { SharedLayers } from '../src/features/shared-layers';
import type { HostCommand, HostConnection } from '../src/protocol';
import { loaded } from '../src/show/showSlice';
import { MonitorLog } from '../src/live/monitorLog';
import { HostContext, LogContext } from '../src/state/hooks';
import { makeStore, type Store } from '../src/state/store';

export const demo = Show.parse(JSON.parse(readFileSync(join(__dirname, '../../demo/tern-ledge.json'), 'utf8')));

/** What a page stands in: the demo show, and a host that only notes what it is told. */
export interface DemoPage {
  store: Store;
  /** What the host was told, in order. */
  posted: HostCommand[];
  Around: (props: { children: ReactNode }) => ReactNode;
}

export function demoPage(): DemoPage {
  const store = makeStore();
  store.dispatch(loaded({ bodies: bodiesOf(demo), setlistId: demo.setlists[0].id }));
  const posted: HostCommand[] = [];
  const log = new MonitorLog();
  const host: HostConnection = { post: (command) => void posted.push(command), listen: () => () => undefined };
  return {
    store,
    posted,
    Around: ({ children }) => (
      <Provider store={store}>
        <HostContext value={host}>
          <LogContext value={log}>
            <MemoryRouter>
              <SharedLayers>{children}</SharedLayers>
            </MemoryRouter>
          </LogContext>
        </HostContext>
      </Provider>
    ),
  };
}
