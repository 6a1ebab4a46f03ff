import { useEffect, useState } from 'react';
import { isInstalled } from '../../installed/versions';
import { useApp, useHost } from '../../state/hooks';
import type { HostKept, HostPlace } from '../../protocol';

const ASKED_EVERY_MS = 2000;

const WHY: Record<NonNullable<HostPlace['why']>, string> = {
  'no-second-port': 'this page comes from a server without a second port',
  'no-answer': 'its own frame did not answer',
  'stopped-again': 'its own frame stopped again and again',
  'other-build': 'its own frame is of another version; reload the page',
};

const WHERE: Record<HostPlace['where'], string> = {
  starting: 'The running side is starting …',
  frame: 'The running side has a process of its own, which no page holds up',
  page: 'The running side shares this page’s process',
  elsewhere: 'The running side is in the other window',
};

const ms = (value: number): string => `${value < 10 ? value.toFixed(1) : Math.round(value)} ms`;

/** Where the notes are worked out tonight, and how late they were handed on. */
export function RunningSide() {
  const host = useHost();
  const { where, why, restarts } = useApp(({ live }) => live.host);
  const figures = useApp(({ live }) => live.figures);
  useEffect(() => {
    const ask = (): void => host.post({ type: 'askFigures' });
    ask();
    const id = setInterval(ask, ASKED_EVERY_MS);
    return () => clearInterval(id);
  }, [host]);
  return (
    <>
      <p className="pt-1 text-[13px] text-ink2" data-testid="running-side">
        {WHERE[where]}
        {why !== null && `, since ${WHY[why]}`}
        {restarts > 0 && `; it was started again ${restarts === 1 ? 'once' : `${restarts} times`}`}
        {figures !== null && figures.messages > 0 && (
          <>
            . Of {figures.messages.toLocaleString('en')} messages half were handed on within {ms(figures.medianMs)}, 99
            of 100 within <b className="text-ink">{ms(figures.p99Ms)}</b>
          </>
        )}
        {where !== 'starting' && '.'}
      </p>
      <WithoutServer />
    </>
  );
}

const filesOf = ({ files, mb, mostMb }: HostKept): string =>
  files === 0
    ? 'No bank or recording has been loaded here yet'
    : `${files} ${files === 1 ? 'bank or recording is' : 'banks and recordings are'} kept here, ${mb < 10 ? mb.toFixed(1) : Math.round(mb)} MB of at most ${mostMb.toLocaleString('en')}`;

/** What would open and sound if the server stopped now. */
function WithoutServer() {
  const kept = useApp(({ live }) => live.kept);
  const where = useApp(({ live }) => live.host.where);
  const [pageIsHere, setPageIsHere] = useState(false);
  useEffect(() => {
    isInstalled().then(setPageIsHere, () => undefined);
  }, [kept]);
  // The other window knows. Before it is known here, the line has its place: what is under it does not move from a finger.
  if (kept === null && where === 'elsewhere') return null;
  const words = (of: HostKept): string =>
    pageIsHere && (where === 'page' || of.isInstalled)
      ? `Rackle opens without its server too. ${filesOf(of)}.`
      : 'Rackle does not open without its server yet: this browser has not kept it.';
  return (
    <p className="pb-1 text-[13px] text-ink2" data-testid="without-server">
      {kept === null ? 'What this browser has kept is being looked up …' : words(kept)}
    </p>
  );
}
