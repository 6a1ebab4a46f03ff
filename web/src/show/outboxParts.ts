import type { Change } from '@rackle/core/show';
import type { sendAside, sendEdit } from './api';
import type { OutboxView } from './outboxView';

/** What the windows tell each other: that something of what is kept has changed. Only a hint. */
interface Windows {
  announce(): void;
  onHint(act: () => void): void;
  /** Runs alone among all windows of this browser. */
  alone(work: () => Promise<void>): Promise<void>;
  /** Whether the window of this id is still there. */
  living(): Promise<ReadonlySet<string>>;
}

/** What the outbox needs of the page around it. */
export interface OutboxParts {
  windowId: string;
  newId: () => string;
  windows: Windows;
  /** What the pages show has to change so. */
  onShow: (changes: Change[]) => void;
  onView: (view: OutboxView) => void;
  /** Whether a pointer is down: a gesture goes on. */
  pointerIsDown: () => boolean;
  send?: typeof sendEdit;
  setAside?: typeof sendAside;
  nowMs?: () => number;
}
