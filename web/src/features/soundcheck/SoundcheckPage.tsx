import type { Finding } from '@rackle/core/soundcheck';
import { useApp, useKnowsPorts } from '../../state/hooks';
import { FindingLine } from './FindingLine';
import { Levels } from './Levels';
import { Loading } from './Loading';
import { LookedList } from './LookedList';
import { MeantList } from './MeantList';
import { SEVERITY_ORDER, SEVERITY_WORDS } from './severities';
import { Simulation } from './Simulation';
import { useFindings } from './useFindings';

/** Whether the setlist will work: findings in order of danger, what is meant so, and what was looked at. */
export function SoundcheckPage() {
  const findings = useFindings();
  const { isDone, meant, looked, loading, findings: kept, levels } = useApp(({ checks }) => checks);
  const measured = levels.state === 'done' ? levels : null;
  const allMeant = [...meant, ...(measured?.meant ?? [])];
  const knowsPorts = useKnowsPorts();
  const fails = findings.filter(({ severity }) => severity !== 'toKnow').length;
  return (
    <div className="flex min-h-full flex-wrap gap-x-10 px-4 py-4">
      <div className="min-w-80 flex-[2]">
        <h1 className="named text-4xl">Soundcheck</h1>
        <Counts findings={findings} meant={allMeant.length} />
        {fails === 0 && (
          <p className="named mt-4 text-3xl">{isDone ? 'Nothing wrong in what was checked.' : 'Looking it over …'}</p>
        )}
        <ol className="mt-3 border-t border-ink" aria-label="findings">
          {findings.map((finding) => (
            <FindingLine
              key={`${finding.rule} ${finding.cause}`}
              finding={finding}
              canBeMeant={kept.includes(finding) || measured?.findings.includes(finding) === true}
            />
          ))}
        </ol>
        {/* They stand under the findings, and would move from a finger when those come. */}
        {isDone && (
          <>
            <MeantList meant={allMeant} />
            <Simulation />
            <Levels />
            <Loading />
          </>
        )}
      </div>
      <aside className="min-w-64 flex-1 border-l border-ink pl-4">
        <LookedList looked={[...looked, ...(measured?.looked ?? []), ...(loading?.looked ?? [])]} />
        <p className="text-[13px] text-ink2">
          {knowsPorts
            ? 'Ports of tonight’s gear: plugged in now, or said above.'
            : 'Ports are not checked: this window does not know what is plugged in.'}
        </p>
      </aside>
    </div>
  );
}

function Counts({ findings, meant }: { findings: readonly Finding[]; meant: number }) {
  const counted = SEVERITY_ORDER.map(
    (one) => `${findings.filter(({ severity }) => severity === one).length} ${SEVERITY_WORDS[one]}`,
  );
  return <p className="mono mt-1 text-sm text-ink2">{[...counted, `${meant} meant so`].join(' · ')}</p>;
}
