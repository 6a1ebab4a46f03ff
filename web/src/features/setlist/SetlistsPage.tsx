import { useState } from 'react';
import { Link } from 'react-router';
import { Setlist, finishingTimes } from '@rackle/core/show';
import { useApp, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { madeNow, useNewRow } from '../../ui/newRow';
import { Question } from '../../ui/Question';
import { clockText, minutesText } from '../../ui/format';
import { StartSetlist } from './StartSetlist';
import { useSetlists } from './useSetlists';

/** All gigs, the next ones first, and which of them is tonight's. */
export function SetlistsPage() {
  const of = useSetlists();
  const { coming, past } = of;
  return (
    <div className="h-full overflow-y-auto px-4 py-4">
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2 border-b border-ink pb-2">
        <h1 className="named text-4xl">Setlists</h1>
        <StartSetlist />
      </div>
      {coming.length + past.length === 0 && <p className="mt-3 text-lg text-ink2">No setlist yet. Start one above.</p>}
      <Gigs label="setlists" setlists={coming} of={of} />
      {past.length > 0 && (
        <>
          <h2 className="named mt-8 border-b border-ink pb-1 text-3xl">Played</h2>
          <Gigs label="played setlists" setlists={past} of={of} />
        </>
      )}
    </div>
  );
}

const COLUMNS =
  'grid-cols-[minmax(0,1.4fr)_136px_minmax(0,1fr)_56px_56px_120px_minmax(226px,auto)] max-[1099px]:grid-cols-[minmax(0,1.4fr)_136px_minmax(0,1fr)_minmax(226px,auto)]';

type SetlistsOf = ReturnType<typeof useSetlists>;

function Gigs({ label, setlists, of }: { label: string; setlists: readonly Setlist[]; of: SetlistsOf }) {
  if (setlists.length === 0) return null;
  return (
    <>
      <div aria-hidden className={`mt-3 grid gap-x-3 text-[13px] font-bold text-ink2 max-[699px]:hidden ${COLUMNS}`}>
        <span>gig</span>
        <span>day</span>
        <span>place</span>
        <span className="max-[1099px]:hidden">starts</span>
        <span className="max-[1099px]:hidden">curfew</span>
        <span className="max-[1099px]:hidden">songs, length</span>
      </div>
      <ul aria-label={label}>
        {setlists.map((setlist) => (
          <Gig key={setlist.id} setlist={setlist} of={of} />
        ))}
      </ul>
    </>
  );
}

const wrongTime = (text: string): string | null =>
  Setlist.shape.startsAt.safeParse(text.trim()).error?.issues[0]?.message ?? null;
const NO_CURFEW = 'none';

function Gig({ setlist, of }: { setlist: Setlist; of: SetlistsOf }) {
  const songs = useSongs();
  const { change, copy, remove, next } = of;
  const isTonight = useApp(({ show }) => show.setlistId === setlist.id);
  const [asking, setAsking] = useState(false);
  const ref = useNewRow(setlist.id);
  const { playsSeconds, overAt } = finishingTimes(setlist, songs);
  const count = setlist.entries.filter(({ kind }) => kind === 'song').length;
  return (
    <li
      ref={ref}
      aria-label={setlist.name}
      className={`grid min-h-12 items-center gap-x-3 border-b border-rule max-[699px]:flex max-[699px]:flex-wrap ${COLUMNS} ${isTonight ? 'bg-ground2' : ''}`}
    >
      <span className="flex min-w-0 items-center gap-2 max-[699px]:basis-full">
        <EditableText
          label={`name of ${setlist.name}`}
          value={setlist.name}
          className="named text-2xl"
          width="100%"
          onChange={(name) => change(setlist, 'rename the setlist', { name })}
        />
      </span>
      <input
        type="date"
        aria-label={`day of ${setlist.name}`}
        value={setlist.date ?? ''}
        onChange={({ target }) => {
          if (!target.validity.badInput) change(setlist, 'change the day', { date: target.value || null }, 'day');
        }}
        className={`mono min-h-9 min-w-0 bg-transparent text-[13px] ${setlist.date === null ? 'text-ink2' : ''}`}
      />
      <input
        dir="auto"
        aria-label={`place of ${setlist.name}`}
        value={setlist.place}
        maxLength={200}
        placeholder="where"
        onChange={({ target }) => change(setlist, 'change the place', { place: target.value }, 'place')}
        className="min-h-9 min-w-0 border-b border-transparent bg-transparent [field-sizing:fixed] hover:border-rule focus:border-ink focus:outline-none"
      />
      <span className="max-[1099px]:hidden">
        <EditableText
          label={`start of ${setlist.name}`}
          value={setlist.startsAt}
          className="mono"
          width="100%"
          check={wrongTime}
          onChange={(startsAt) => change(setlist, 'change the start', { startsAt })}
        />
      </span>
      <span className="max-[1099px]:hidden">
        <EditableText
          label={`curfew of ${setlist.name}`}
          value={setlist.curfew ?? NO_CURFEW}
          className={`mono ${setlist.curfew === null ? 'text-ink2' : ''}`}
          width="100%"
          check={(text) => (text.trim() === NO_CURFEW ? null : wrongTime(text))}
          onChange={(curfew) => change(setlist, 'change the curfew', { curfew: curfew === NO_CURFEW ? null : curfew })}
        />
      </span>
      <span className="mono text-[13px] max-[1099px]:hidden" title={`over at ${clockText(overAt)}`}>
        {count}, {minutesText(playsSeconds)}
      </span>
      <span className="flex items-center justify-end text-[13px] max-[699px]:ml-auto">
        {isTonight ? (
          <Link to="/setlist" className="live-text flex min-h-9 items-center px-2 font-bold underline">
            tonight’s
          </Link>
        ) : (
          <Button look="plain" onClick={() => of.choose(setlist)} aria-label={`make ${setlist.name} tonight’s`}>
            make it tonight’s
          </Button>
        )}
        <Button
          look="plain"
          aria-label={`copy ${setlist.name}`}
          onClick={() => madeNow(copy(setlist, `${setlist.name} 2`).id)}
        >
          copy
        </Button>
        <Button look="plain" aria-label={`delete ${setlist.name}`} onClick={() => setAsking(true)}>
          delete
        </Button>
      </span>
      {asking && (
        <Question
          title={`Delete ${setlist.name}?`}
          answers={[['Delete it', () => remove(setlist)]]}
          leave="leave it"
          onLeave={() => setAsking(false)}
        >
          <p>
            Its {count === 1 ? 'song stays' : `${count} songs stay`} in the show; its order, its numbers and what its
            roles do go. {isTonight && next(setlist) && <>Tonight’s is then {next(setlist)!.name}. </>}Undo brings it
            back.
          </p>
        </Question>
      )}
    </li>
  );
}
