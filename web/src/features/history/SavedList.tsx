import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { KINDS, KIND_NAMES, type Kind } from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { clockTime } from '../../ui/clockTime';
import { versionsOf, type Version } from './historyApi';
import { SavedVersion } from './SavedVersion';
import { Line, Nothing, Problem, TwoSides } from './TwoSides';
import { useFetched } from './useFetched';

const DAY = new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' });
const dayOf = ({ savedAt }: Version): string => DAY.format(new Date(savedAt));

/** Every save, newest first: of everything, or of one thing. */
export function SavedList() {
  const [asked, setAsked] = useSearchParams();
  const kind = KIND_NAMES.find((one) => one === asked.get('kind'));
  const id = asked.get('id') ?? undefined;
  const [before, setBefore] = useState<number[]>([]);
  // What has been saved since is in it as soon as it is.
  const serial = useApp(({ show }) => show.saveState.serial);
  const key = `${kind} ${id} ${before.at(-1)}`;
  const { value, problem, again } = useFetched(key, () => versionsOf({ kind, id, before: before.at(-1) }), serial);
  const versions = value?.versions ?? [];
  const at = Number(asked.get('at'));
  const chosen = versions.find(({ number }) => number === at) ?? null;
  const choose = (version: Version): void =>
    setAsked(
      (now) => {
        now.set('at', String(version.number));
        return now;
      },
      { replace: true },
    );
  const list = (
    <>
      <OneThing kind={kind} id={id} of={versions[0]?.of ?? null} onAll={() => setAsked({})} />
      {problem !== null && <Problem>{problem}</Problem>}
      {value && versions.length === 0 && <Nothing>Nothing has been saved yet.</Nothing>}
      {byDay(versions).map(([day, ofDay]) => (
        <div key={ofDay[0].number}>
          <h2 className="named mt-3 border-b border-ink text-xl">{day}</h2>
          <ul aria-label={day}>
            {ofDay.map((version) => (
              <Saved key={version.number} version={version} isChosen={version.number === at} onChoose={choose} />
            ))}
          </ul>
        </div>
      ))}
      <p className="mt-2 flex gap-2">
        {before.length > 0 && <Button onClick={() => setBefore(before.slice(0, -1))}>newer</Button>}
        {value?.isMore && <Button onClick={() => setBefore([...before, versions.at(-1)!.number])}>older</Button>}
      </p>
    </>
  );
  return (
    <TwoSides list={list}>
      {chosen ? (
        <SavedVersion key={chosen.number} version={chosen} onNoted={again} />
      ) : (
        <Nothing>Choose a save to see what has changed since, to look at it as it was, or to bring it back.</Nothing>
      )}
    </TwoSides>
  );
}

/** Runs of one day, in their order: a clock that was set back makes a day come twice, and moves nothing. */
function byDay(versions: readonly Version[]): [string, Version[]][] {
  const days: [string, Version[]][] = [];
  for (const version of versions) {
    const last = days.at(-1);
    if (last?.[0] === dayOf(version)) last[1].push(version);
    else days.push([dayOf(version), [version]]);
  }
  return days;
}

function OneThing({
  kind,
  id,
  of,
  onAll,
}: {
  kind: Kind | undefined;
  id: string | undefined;
  of: string | null;
  onAll: () => void;
}) {
  if (kind === undefined || id === undefined)
    return <p className="text-[13px] text-ink2">Everything that was saved, newest first.</p>;
  return (
    <p className="flex items-center gap-2">
      <span>
        Only <b className="named text-xl">{of ?? id}</b>, {KINDS[kind].noun}
      </span>
      <Button look="plain" onClick={onAll}>
        show everything
      </Button>
    </p>
  );
}

function Saved({
  version,
  isChosen,
  onChoose,
}: {
  version: Version;
  isChosen: boolean;
  onChoose: (version: Version) => void;
}) {
  const { savedAt, of, id, deleted, label, name, kind } = version;
  return (
    <Line isChosen={isChosen} onChoose={() => onChoose(version)}>
      <span className="mono shrink-0 text-[13px]">{clockTime(new Date(savedAt))}</span>
      <span className="min-w-0 flex-1">
        <span className="named text-lg leading-5">{of ?? id}</span>{' '}
        <span className="text-[13px] text-ink2">{deleted ? 'deleted' : (label ?? KINDS[kind].noun)}</span>
        {name !== null && <span className="block text-[13px] font-bold">{name}</span>}
      </span>
    </Line>
  );
}
