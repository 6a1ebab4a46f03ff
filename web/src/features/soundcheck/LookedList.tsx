import type { Looked, RuleGroup } from '@rackle/core/soundcheck';

const GROUPS: readonly (readonly [RuleGroup, string])[] = [
  ['reach', 'can it be reached'],
  ['sound', 'does it sound'],
  ['time', 'is it in time'],
];

/** What was looked at, with counts: so that “nothing wrong” says what it means. */
export function LookedList({ looked }: { looked: readonly Looked[] }) {
  return GROUPS.map(([group, words]) => {
    const rows = looked.filter((row) => row.group === group);
    if (rows.length === 0) return null;
    return (
      <section key={group} className="mb-4">
        <h2 className="text-[13px] font-bold text-ink2">{words}</h2>
        <ul aria-label={words}>
          {rows.map(({ rule, sure, counted, found }) => (
            <li key={rule} className="flex gap-3 border-b border-rule py-1 text-[13px] leading-snug">
              <span className="min-w-0 flex-1">{sure}</span>
              <span className="mono shrink-0 text-right text-xs text-ink2">
                {counted}
                {found > 0 && <b className="block text-ink">{found} found</b>}
              </span>
            </li>
          ))}
        </ul>
      </section>
    );
  });
}
