import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useSetlist } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { useSetlists } from './useSetlists';

const EMPTY = '-';

/** Starts a gig, as a copy of tonight's if nothing else is said, and opens it. */
export function StartSetlist() {
  const navigate = useNavigate();
  const tonight = useSetlist();
  const { coming, past, copy, startEmpty, choose } = useSetlists();
  const all = [...coming, ...past];
  const [name, setName] = useState('');
  const [chosen, setChosen] = useState<string | null>(null);
  const from = chosen ?? tonight?.id ?? EMPTY;
  const start = (): void => {
    const of = all.find(({ id }) => id === from);
    const called = name.trim() || (of ? `${of.name} 2` : 'New setlist');
    choose(of ? copy(of, called) : startEmpty(called));
    setName('');
    void navigate('/setlist');
  };
  return (
    <form
      className="ml-auto flex flex-wrap items-center justify-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        start();
      }}
    >
      <input
        dir="auto"
        aria-label="name of a new setlist"
        value={name}
        maxLength={120}
        placeholder="name of the gig"
        onChange={(event) => setName(event.target.value)}
        className="w-56 border-b border-ink bg-transparent py-1 text-lg [field-sizing:fixed] focus:outline-none"
      />
      {all.length > 0 && (
        <Choice
          label="start it as"
          className="max-w-60 truncate"
          value={from}
          items={[
            ...all.map((setlist) => ({ value: setlist.id as string, label: `a copy of ${setlist.name}` })),
            { value: EMPTY, label: 'empty' },
          ]}
          onChange={setChosen}
        />
      )}
      <Button look="filled" type="submit">
        Start a setlist
      </Button>
    </form>
  );
}
