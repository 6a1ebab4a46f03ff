import {
  aheadOfHands,
  canGoAhead,
  freeChannel,
  withAllAhead,
  withGearAhead,
  withSecondChannel,
  type Lead,
} from '@rackle/core/timeline';
import type { CueId } from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { KIND_WORDS, cueWords } from './cueWords';
import { leadWords } from './Hatching';
import { useProposal } from './proposal';
import { useTimeline } from './timelineContext';

const mint = (): CueId => newId<CueId>('cue');

/** Cues whose gear is not ready at once, and what can be done for those whose notes come too early. */
export function LeadTable({ leads }: { leads: readonly Lead[] }) {
  const { names, showTick } = useTimeline();
  return (
    <section aria-label="lead">
      <AllEarlier leads={leads} />
      <table className="mt-1 w-full text-left">
        <thead>
          <tr className="text-[13px] text-ink2">
            <th className="w-36 font-normal">at</th>
            <th className="w-[22%] font-normal">cue</th>
            <th className="w-[30%] font-normal">gear</th>
            <th className="font-normal">what can be done</th>
          </tr>
        </thead>
        <tbody>
          {leads.map((lead) => {
            const { what, value } = cueWords(lead.cue, names);
            return (
              <tr key={lead.key} className={`border-t border-rule align-top ${lead.lateNotes > 0 ? '' : 'text-ink2'}`}>
                <td className="mono py-2">{showTick(lead.atTick)}</td>
                <td className="named py-1.5 text-lg" dir="auto">
                  {lead.cue.kind === 'recall' ? what : `${KIND_WORDS[lead.cue.kind]} ${value}`}
                </td>
                <td className="py-2">{leadWords(lead)}</td>
                <td>
                  <WhatToDo lead={lead} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

function WhatToDo({ lead }: { lead: Lead }) {
  const { song, showTick } = useTimeline();
  const proposed = useProposal();
  const instruments = useApp(({ show }) => show.working.instruments);
  if (lead.lateNotes === 0 || lead.isRepeat) return null;
  const free = lead.layer && freeChannel(song, Object.values(instruments), lead.instrument.port);
  return (
    <>
      {canGoAhead(lead) && (
        <Button
          look="plain"
          {...proposed(`switch ${lead.instrument.name} earlier`, () => withGearAhead(song, lead, mint))}
        >
          {lead.cue.kind === 'recall' ? 'its preset ahead, at ' : 'move it to '}
          {showTick(lead.safeTick!)}
        </Button>
      )}
      {canGoAhead(lead) && lead.isUnderHands && (
        <span className="text-[13px] text-ink2">the patch before sounds with it by then</span>
      )}
      {free && (
        <Button
          look="plain"
          {...proposed(`${lead.layer!.name} on channel ${free}`, () => withSecondChannel(song, lead, free, mint))}
        >
          on channel {free}, while the old sound rings
        </Button>
      )}
      {!canGoAhead(lead) && !free && (
        <span className="text-[13px] text-ink2">the sound before it plays up to there: nothing earlier is safe</span>
      )}
    </>
  );
}

/** All cues of one instrument at once. */
function AllEarlier({ leads }: { leads: readonly Lead[] }) {
  const { song } = useTimeline();
  const proposed = useProposal();
  const gear = new Map(leads.map(({ instrument }) => [instrument.id, instrument.name]));
  const count = (id: string): number => aheadOfHands(leads, id).length;
  return [...gear].map(([id, name]) =>
    count(id) < 2 ? null : (
      <Button
        key={id}
        look="plain"
        {...proposed(`switch ${name} earlier everywhere`, () => withAllAhead(song, leads, id, mint))}
      >
        all {count(id)} cues of {name} at the last moment that is safe
      </Button>
    ),
  );
}
