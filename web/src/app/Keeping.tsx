import { dayAndTime } from '../ui/clockTime';
import { KINDS, differences, draftOf, type Body } from '@rackle/core/show';
import type { UnreadableItem } from '../show/api';
import { edited, type Edit } from '../show/edits';
import type { Outbox } from '../show/outbox';
import type { HeldEdit } from '../show/outboxView';
import { readable, tookTheirs } from '../show/showSlice';
import { newId } from '../state/ids';
import { useAct, useApp } from '../state/hooks';
import { useDifferenceNames } from '../state/useDifferenceNames';
import { toggled } from '../state/uiSlice';
import { Button } from '../ui/Button';
import { Sheet } from '../ui/Sheet';

const MOST_WORDS = 8;

/** What waits for the player: edits that met others, that were refused, or that belong elsewhere; rows nobody can read. */
export function Keeping({ outbox }: { outbox: Outbox }) {
  const act = useAct();
  const held = useApp(({ show }) => show.held);
  const unreadable = useApp(({ show }) => show.unreadable);
  return (
    <Sheet
      open
      title="What waits for you"
      about="Nothing has been written over. It stays here until you have settled it, also when this is closed."
      onClose={() => act(toggled('keepingOpen'))}
    >
      {held.length + unreadable.length === 0 && <p>Everything is settled.</p>}
      <ul className="flex flex-col gap-4">
        {held.map((edit) => (
          <li key={edit.id} aria-label={edit.label} className="border-t border-rule pt-2">
            {edit.why === 'conflict' ? (
              <Conflict edit={edit} outbox={outbox} />
            ) : edit.why === 'refused' ? (
              <Refused edit={edit} />
            ) : (
              <OtherData edit={edit} outbox={outbox} />
            )}
          </li>
        ))}
        {unreadable.map((row) => (
          <li key={`${row.kind} ${row.id}`} aria-label={row.name} className="border-t border-rule pt-2">
            <Unreadable row={row} />
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

const inWords = (words: readonly string[]): string =>
  words.length === 0
    ? 'as it was'
    : words.slice(0, MOST_WORDS).join(', ') +
      (words.length > MOST_WORDS ? `, and ${words.length - MOST_WORDS} more` : '');

const nameOf = (...bodies: (Body | null)[]): string => bodies.find((body) => body !== null)?.name ?? 'it';

/** The same thing was changed in two places: what each has made of it, and the player says which counts. */
function Conflict({ edit, outbox }: { edit: HeldEdit; outbox: Outbox }) {
  const act = useAct();
  const names = useDifferenceNames();
  const take = async (): Promise<void> => {
    const changes = await outbox.takeTheirs(edit.id);
    act(tookTheirs({ id: newId('edit'), label: `take the other version (${edit.label})`, changes }));
  };
  return (
    <>
      {edit.items.map(({ kind, id, before, ours, theirs }) => (
        <div key={`${kind} ${id}`} className="mb-2">
          <h3 className="named text-xl">
            {nameOf(ours, theirs, before)} <span className="text-base text-ink2">({KINDS[kind].noun})</span> was changed
            elsewhere too
          </h3>
          <p>
            <b>Here:</b> {inWords(differences(kind, before, ours, names))}
          </p>
          <p>
            <b>There:</b> {inWords(differences(kind, before, theirs, names))}
          </p>
        </div>
      ))}
      <div className="flex gap-2">
        <Button look="filled" onClick={() => void outbox.keepOurs(edit.id)}>
          Keep this window’s
        </Button>
        <Button onClick={() => void take()}>Take the other</Button>
      </div>
      <p className="mt-1 text-[13px] text-ink2">The one that you do not keep stays in its history.</p>
    </>
  );
}

function Refused({ edit }: { edit: HeldEdit }) {
  return (
    <>
      <h3 className="named text-xl">“{edit.label}” was refused</h3>
      <p>{edit.message}</p>
      <p className="text-[13px] text-ink2">
        It is kept here. Change {edit.items.map(({ ours, before }) => nameOf(ours, before)).join(', ')} once more, or
        undo it, and both go as one.
      </p>
    </>
  );
}

/** An edit from before a backup was brought back, or from another data folder. */
function OtherData({ edit, outbox }: { edit: HeldEdit; outbox: Outbox }) {
  const act = useAct();
  const apply = async (): Promise<void> => {
    const found = await outbox.letGo(edit.id);
    if (!found) return;
    act(
      edited({ ...draftOf(found.items.map(({ kind, id, ours }) => ({ kind, id, body: ours }))), label: found.label }),
    );
  };
  const text = JSON.stringify(edit, null, 2);
  return (
    <>
      <h3 className="named text-xl">“{edit.label}” was made for another folder</h3>
      <p>
        {edit.items.map(({ kind, ours, before }) => `${KINDS[kind].noun} ${nameOf(ours, before)}`).join(', ')}: kept in
        this browser, and not part of this show.
      </p>
      <div className="mt-1 flex items-center gap-2">
        <Button onClick={() => void apply()}>Apply it here</Button>
        <a
          className="underline"
          download="edit.json"
          href={`data:application/json;charset=utf-8,${encodeURIComponent(text)}`}
        >
          save it as a file
        </a>
        <Button look="plain" onClick={() => void outbox.letGo(edit.id)}>
          discard it
        </Button>
      </div>
    </>
  );
}

/** A row of the database that cannot be read: the rest has opened, and its last good version can be brought back. */
function Unreadable({ row }: { row: UnreadableItem }) {
  const act = useAct();
  const { lastGood } = row;
  const bringBack = (): void => {
    if (!lastGood) return;
    act(edited({ label: `bring back ${row.name}`, [row.kind]: [lastGood.body] } as unknown as Edit));
    act(readable(row));
  };
  const text = encodeURIComponent(row.text);
  return (
    <>
      <h3 className="named text-xl">{row.name} cannot be read</h3>
      <p>{row.problem}. It is left as it is, and everything else is here.</p>
      <div className="mt-1 flex items-center gap-2">
        {lastGood && (
          <Button look="filled" onClick={bringBack}>
            Bring back its version of {dayAndTime(new Date(lastGood.savedAt))}
          </Button>
        )}
        <a className="underline" download={`${row.id}.json`} href={`data:application/json;charset=utf-8,${text}`}>
          save its raw text
        </a>
      </div>
    </>
  );
}
