import { memo } from 'react';
import type { Lead } from '@rackle/core/timeline';
import { useChartNow } from './timelineContext';

/** Where gear is not ready yet after its cue: ink hatching, heavier where notes come before. */
export const Hatching = memo(function Hatching({ leads, className }: { leads: readonly Lead[]; className: string }) {
  const { endTick } = useChartNow().map;
  return leads.map((lead) => (
    <span
      key={lead.key}
      data-testid="not-ready"
      title={leadWords(lead)}
      className={`hatched pointer-events-none absolute z-10 min-w-[3px] ${lead.lateNotes > 0 ? 'border-r-2 border-ink' : 'opacity-50'} ${className}`}
      style={{
        left: `${(lead.atTick / endTick) * 100}%`,
        width: `${((Math.min(lead.readyTick, endTick) - lead.atTick) / endTick) * 100}%`,
      }}
    />
  ));
});

/** “Skerry 3 needs 311 ms: 2 notes come before it is ready”. */
export function leadWords({ instrument, channel, needsMs, lateNotes, lateHandNotes }: Lead): string {
  const late = lateNotes === 0 ? '' : `: ${lateNotes} note${lateNotes === 1 ? ' comes' : 's come'} before it is ready`;
  const hands =
    lateHandNotes === 0 ? '' : lateHandNotes === lateNotes ? ', by your hands' : `, ${lateHandNotes} by your hands`;
  return `${instrument.name} ${channel} needs ${Math.ceil(needsMs)} ms${late}${hands}`;
}
