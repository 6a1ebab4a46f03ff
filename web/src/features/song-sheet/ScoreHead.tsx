import { memo } from 'react';
import { DiffersMark } from './DiffersMark';

/** The head of a column: its name looks at it, its number plays it. */
export const ScoreHead = memo(function ScoreHead({
  at,
  place,
  name,
  isBlend,
  isChosen,
  isLive,
  number,
}: {
  at: number;
  /** Of the patch or blend in the song, for marks on a version of the past. */
  place: string;
  name: string;
  isBlend: boolean;
  isChosen: boolean;
  isLive: boolean;
  number: string;
}) {
  return (
    <th
      scope="col"
      data-head={at}
      className={`relative scroll-ml-[190px] border-l p-0 text-left font-normal ${isBlend ? 'w-[118px] border-dashed border-rule' : 'border-rule'} ${isChosen ? 'bg-ground2' : ''}`}
    >
      {isLive && <span className="absolute inset-x-0 -top-px h-1 bg-live" data-testid="live-column" />}
      <DiffersMark at={place} />
      <span className="flex h-11 items-stretch">
        <button type="button" tabIndex={-1} data-column={at} className="min-w-0 flex-1 pl-2 text-left">
          <span className={`named block truncate text-xl ${isBlend ? 'italic text-lg font-medium' : ''}`}>{name}</span>
        </button>
        <button
          type="button"
          tabIndex={-1}
          data-recalls={at}
          aria-label={`recall ${name.replace('… ', '')}`}
          title="recall it; its name only looks"
          data-number={number}
          aria-description={`program ${number}`}
          className={`mono min-w-9 shrink-0 px-1.5 text-right after:content-[attr(data-number)] hover:bg-ink hover:text-ground ${isLive ? 'live-text font-bold' : ''}`}
        />
      </span>
    </th>
  );
});
