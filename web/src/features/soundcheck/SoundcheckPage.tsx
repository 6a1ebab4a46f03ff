import { Stamp } from '../../ui/Stamp';
import { useApp } from '../../state/hooks';
import { useFindings } from './useFindings';

/** Whether the setlist will work: findings in order of danger. */
export function SoundcheckPage() {
  const findings = useFindings();
  const isDone = useApp(({ checks }) => checks.isDone);
  return (
    <div className="mx-auto max-w-3xl px-4 py-5">
      <h1 className="named text-4xl">Soundcheck</h1>
      <p className="mt-1 text-ink2">
        Checked: that everything a song points at is there, that zones stand upright, that each number reaches one patch
        and can be called by tonight’s gear.
      </p>
      {findings.length === 0 && (
        <p className="named mt-8 text-3xl">{isDone ? 'Nothing wrong.' : 'Looking it over …'}</p>
      )}
      <ol className="mt-4">
        {findings.map((finding, i) => (
          <li key={i} className="flex gap-4 border-b border-rule py-3">
            <span className="w-20 shrink-0">
              <Stamp>{finding.severity === 'error' ? 'wrong' : 'look'}</Stamp>
            </span>
            <span>
              <b>{finding.message}</b>
              <br />
              {finding.where}. {finding.why}
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}
