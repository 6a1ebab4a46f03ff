import { useState } from 'react';
import type { CaseRoll, FailedCase, SimulatedFinding } from '@rackle/core/soundcheck';
import { useApp, useProving } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Stamp } from '../../ui/Stamp';
import { CaseRollPicture } from './CaseRollPicture';
import { Progress } from './Progress';
import { useHearing } from './useHearing';

/** Has the engine itself play what the evening may bring, and shows what went wrong. */
export function Simulation() {
  const simulation = useApp(({ checks }) => checks.simulation);
  const isDone = useApp(({ checks }) => checks.isDone);
  const { start, callOff } = useProving().simulation;
  const running = simulation.state === 'running' ? simulation : null;
  return (
    <section className="mt-8" aria-label="played through">
      <h2 className="text-[13px] font-bold text-ink2">played through</h2>
      <p className="text-ink2">
        The engine plays every change from patch to patch, both ways, with keys held, the pedal down, the wheel off its
        centre, switches pressed twice and cables pulled. Nothing of it is heard.
      </p>
      {running === null ? (
        <p className="mt-2 flex flex-wrap gap-2">
          <Button disabled={!isDone} onClick={() => start(false)}>
            play every change
          </Button>
          <Button look="plain" disabled={!isDone} onClick={() => start(true)}>
            from any step to any other
          </Button>
        </p>
      ) : (
        <Progress label="cases played" done={running.done} of={running.of} onCallOff={callOff} />
      )}
      {simulation.state === 'done' && (
        <>
          <p className="mt-2" role="status">
            {simulation.cases} cases of {simulation.pairs} changes played:{' '}
            {simulation.findings.length === 0 ? (
              <b>nothing stuck, cut off, silent, late or out of tune.</b>
            ) : (
              <b>
                {simulation.findings.length} {simulation.findings.length === 1 ? 'thing' : 'things'} went wrong.
              </b>
            )}{' '}
            {simulation.isStale && 'The show has been edited since: play it again.'}
          </p>
          <ol aria-label="what went wrong when played" className="mt-1">
            {simulation.findings.map((finding) => (
              <Played key={finding.cause} finding={finding} isStale={simulation.isStale} />
            ))}
          </ol>
        </>
      )}
    </section>
  );
}

const MOST_SHOWN = 4;

function Played({
  finding: { message, why, places, cases },
  isStale,
}: {
  finding: SimulatedFinding;
  isStale: boolean;
}) {
  return (
    <li className="flex gap-4 border-b border-rule py-2.5">
      <span className="w-20 shrink-0 pt-0.5">
        <Stamp>will fail</Stamp>
      </span>
      <div className="min-w-0 flex-1">
        <p className="font-bold first-letter:uppercase">{message}</p>
        <p className="text-ink2">{why}</p>
        {cases.slice(0, MOST_SHOWN).map((one, i) => (
          <Case key={`${one.from} ${one.to} ${one.stimulus}`} of={one} words={places[i].words} isStale={isStale} />
        ))}
        {places.length > MOST_SHOWN && <p className="text-ink2">and {places.length - MOST_SHOWN} more cases</p>}
      </div>
    </li>
  );
}

/** One case: what was done and what came out of it, as a small roll, which can be heard. */
function Case({ of, words, isStale }: { of: FailedCase; words: string; isStale: boolean }) {
  const { roll } = useProving().simulation;
  const hear = useHearing();
  const [shown, setShown] = useState<CaseRoll | 'gone' | null>(null);
  const show = async (): Promise<void> => setShown(shown === null ? ((await roll(of)) ?? 'gone') : null);
  return (
    <div>
      <Button
        look="plain"
        className="-ml-2 text-left !whitespace-normal"
        aria-expanded={shown !== null}
        onClick={() => void show()}
      >
        {words}
      </Button>
      {shown === 'gone' && <p className="text-ink2">The show has been played anew since.</p>}
      {shown !== null && shown !== 'gone' && (
        <>
          <CaseRollPicture roll={shown} />
          <Button disabled={hear === null || isStale} onClick={() => hear?.(of.from, shown.done)}>
            hear it
          </Button>
        </>
      )}
    </div>
  );
}
