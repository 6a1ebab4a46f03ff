import { useSearchParams } from 'react-router';
import { Button } from '../../ui/Button';
import { BackupsList } from './BackupsList';
import { DeletedList } from './DeletedList';
import { SavedList } from './SavedList';
import { StatesList } from './StatesList';

const LISTS = [
  ['saved', 'Saved', SavedList],
  ['states', 'Named states', StatesList],
  ['deleted', 'Deleted', DeletedList],
  ['backups', 'Backups', BackupsList],
] as const;

/** What is kept of the past: every save, states under names, what was deleted, and the server's own backups. */
export function HistoryPage() {
  const [asked, setAsked] = useSearchParams();
  const [list, , List] = LISTS.find(([id]) => id === asked.get('list')) ?? LISTS[0];
  return (
    <div className="flex h-full flex-col">
      <div className="flex flex-wrap items-end gap-x-4 border-b border-ink px-4 pt-3">
        <h1 className="named pb-1 text-4xl">History</h1>
        <nav aria-label="what is kept" className="flex gap-1">
          {LISTS.map(([id, words]) => (
            <Button
              key={id}
              look="plain"
              aria-current={id === list ? 'true' : undefined}
              className={id === list ? 'bg-ink text-ground no-underline' : ''}
              onClick={() => setAsked({ list: id })}
            >
              {words}
            </Button>
          ))}
        </nav>
      </div>
      <List key={list} />
    </div>
  );
}
