import type { MeantFinding } from '@rackle/core/soundcheck';
import { Button } from '../../ui/Button';
import { useMending } from './useMending';

/** What is found and is meant so: silent, and still counted. */
export function MeantList({ meant }: { meant: readonly MeantFinding[] }) {
  const { takeBack } = useMending();
  if (meant.length === 0) return null;
  return (
    <section className="mt-6">
      <h2 className="text-[13px] font-bold text-ink2">meant so</h2>
      <ul aria-label="meant so">
        {meant.map(({ finding, note }) => (
          <li key={`${finding.rule} ${finding.cause}`} className="flex items-center gap-4 border-b border-rule py-1">
            <span className="min-w-0 flex-1 text-ink2">
              {finding.message}: {finding.where}.{note !== '' && <i> {note}</i>}
            </span>
            <Button look="plain" onClick={() => takeBack(finding)} aria-label={`look at it again: ${finding.message}`}>
              look at it again
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
