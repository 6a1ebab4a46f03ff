import { useState } from 'react';
import { dayAndTime } from '../../ui/clockTime';
import { backupAt, backups, type Backup } from './historyApi';
import { PastShowShown } from './PastShowShown';
import { Line, Nothing, Problem, TwoSides } from './TwoSides';
import { useFetched } from './useFetched';

const REASONS: Record<Backup['reason'], string> = {
  daily: 'of the day',
  'before-migration': 'before a newer Rackle',
  'before-restore': 'before a restore',
};

/** The server's own copies of the database, and what is in each. */
export function BackupsList() {
  const { value, problem } = useFetched('backups', backups);
  const [at, setAt] = useState<string | null>(null);
  const chosen = value?.find(({ name }) => name === at) ?? null;
  const list = (
    <>
      <p className="text-[13px] text-ink2">
        Rackle copies its database by itself: daily, and before a restore or a newer Rackle changes it. The copies stand
        in the data folder.
      </p>
      {problem !== null && <Problem>{problem}</Problem>}
      {value?.length === 0 && <Nothing>There is no backup yet. The first one is made within the hour.</Nothing>}
      <ul aria-label="backups">
        {value?.map((backup) => (
          <Line key={backup.name} isChosen={backup === chosen} onChoose={() => setAt(backup.name)}>
            <span className="mono shrink-0 text-[13px]">{dayAndTime(new Date(backup.madeAt))}</span>
            <span className="min-w-0 flex-1">{REASONS[backup.reason]}</span>
            <span className="mono shrink-0 text-[13px] text-ink2">{(backup.bytes / 1e6).toFixed(1)} MB</span>
          </Line>
        ))}
      </ul>
    </>
  );
  return (
    <TwoSides list={list}>
      {chosen ? (
        <>
          <PastShowShown
            key={chosen.name}
            source={`b-${chosen.name}`}
            title={`Backup of ${dayAndTime(new Date(chosen.madeAt))}`}
            ask={() => backupAt(chosen.name)}
          />
          <p className="mt-4 text-[13px] text-ink2">
            The database itself, with its whole history, is put back while Rackle is ended:
            <code className="mono mt-1 block">npm run restore -- {chosen.name}</code>
          </p>
        </>
      ) : (
        <Nothing>Choose a backup to see what has changed since, and to bring all or some of it back.</Nothing>
      )}
    </TwoSides>
  );
}
