import type { Finding } from '@rackle/core/soundcheck';
import { Stamp } from '../../ui/Stamp';
import { useApp, useKnowsPorts } from '../../state/hooks';
import { useFindings } from './useFindings';

/** Whether the setlist will work: findings in order of danger, what was looked at, and what was not. */
export function SoundcheckPage() {
  const findings = useFindings();
  const { isDone, checked, unchecked } = useApp(({ checks }) => checks);
  const knowsPorts = useKnowsPorts();
  return (
    <div className="flex min-h-full flex-wrap gap-x-10 px-4 py-4">
      <div className="min-w-80 flex-[2]">
        <h1 className="named text-4xl">Soundcheck</h1>
        {findings.length === 0 && (
          <p className="named mt-6 text-3xl">{isDone ? 'Nothing wrong in what was checked.' : 'Looking it over …'}</p>
        )}
        <ol className="mt-3 border-t border-ink" aria-label="findings">
          {findings.map((finding, i) => (
            <Line key={`${finding.code} ${i}`} finding={finding} />
          ))}
        </ol>
      </div>
      <aside className="min-w-64 flex-1 border-l border-ink pl-4">
        <h2 className="text-[13px] font-bold text-ink2">checked</h2>
        <ul className="mt-1">
          {checked.map((words) => (
            <li key={words} className="border-b border-rule py-1.5">
              {words}
            </li>
          ))}
        </ul>
        <h2 className="mt-5 text-[13px] font-bold text-ink2">not checked yet: listen to it</h2>
        <ul className="mt-1 text-ink2">
          {[...(knowsPorts ? [] : ['ports: this window does not know what is plugged in']), ...unchecked].map(
            (words) => (
              <li key={words} className="border-b border-rule py-1.5">
                {words}
              </li>
            ),
          )}
        </ul>
      </aside>
    </div>
  );
}

function Line({ finding: { severity, message, where, why } }: { finding: Finding }) {
  return (
    <li className="flex gap-4 border-b border-rule py-3">
      <span className="w-20 shrink-0">
        <Stamp>{severity === 'error' ? 'wrong' : 'look'}</Stamp>
      </span>
      <span>
        <b>{message}</b>
        <br />
        {where}. {why}
      </span>
    </li>
  );
}
