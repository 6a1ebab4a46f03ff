import { connect, connectionOn, fits, isReady, isRenewed, renew, type HostConnection } from '../protocol';

const MAY = 'midi; autoplay; microphone; speaker-selection; screen-wake-lock';
const TICK_MS = 250;
/** So many ticks of a page that is awake: six seconds, and more where it stands still. */
const ANSWERS_WITHIN = 24;
const RENEWS_WITHIN_MS = 10_000;

/** A connection to the frame, or why there is none. */
export type FrameOutcome =
  | {
      kind: 'open';
      connection: HostConnection;
      remove: () => void;
      onClose: (act: () => void) => void;
      /** Has the frame take its newest version; it has to be opened anew then. */
      renew: () => Promise<void>;
    }
  | { kind: 'none'; why: 'no-answer' | 'other-build' };

/**
 * Opens the host's frame and waits until it is ready. One pixel of it stands within the window, since browsers slow down
 * what is hidden; nobody can see it or reach it.
 */
export function openHostFrame(origin: string): Promise<FrameOutcome> {
  const frame = document.createElement('iframe');
  frame.allow = MAY;
  frame.title = 'the running side';
  frame.tabIndex = -1;
  frame.inert = true;
  frame.setAttribute('aria-hidden', 'true');
  frame.style.cssText =
    'position:fixed;right:0;bottom:0;width:1px;height:1px;border:0;opacity:0.01;pointer-events:none';
  frame.src = `${origin}/host.html`;
  return new Promise((resolve) => {
    let ticks = 0;
    const end = (outcome: FrameOutcome): void => {
      clearInterval(timer);
      window.removeEventListener('message', hear);
      if (outcome.kind === 'none') frame.remove();
      resolve(outcome);
    };
    const hear = ({ source, origin: from, data }: MessageEvent<unknown>): void => {
      if (source !== frame.contentWindow || from !== origin || !isReady(data)) return;
      // Of two builds the newer one counts: both are loaded anew once they have taken it.
      if (!fits(data)) {
        window.removeEventListener('message', hear);
        clearInterval(timer);
        return void renewIn(frame, origin).then(() => end({ kind: 'none', why: 'other-build' }));
      }
      const { port1, port2 } = new MessageChannel();
      frame.contentWindow!.postMessage(connect(), origin, [port2]);
      end({
        kind: 'open',
        connection: connectionOn(port1),
        remove: () => frame.remove(),
        onClose: (act) => port1.addEventListener('close', act),
        renew: () => renewIn(frame, origin),
      });
    };
    const timer = setInterval(() => {
      if (++ticks >= ANSWERS_WITHIN) end({ kind: 'none', why: 'no-answer' });
    }, TICK_MS);
    window.addEventListener('message', hear);
    document.body.append(frame);
  });
}

/** Asks the frame to take its newest version; resolves when it has, or does not answer. */
function renewIn(frame: HTMLIFrameElement, origin: string): Promise<void> {
  return new Promise((resolve) => {
    const end = (): void => {
      clearTimeout(timer);
      window.removeEventListener('message', hear);
      resolve();
    };
    const hear = ({ source, origin: from, data }: MessageEvent<unknown>): void => {
      if (source === frame.contentWindow && from === origin && isRenewed(data)) end();
    };
    const timer = setTimeout(end, RENEWS_WITHIN_MS);
    window.addEventListener('message', hear);
    frame.contentWindow?.postMessage(renew(), origin);
  });
}
