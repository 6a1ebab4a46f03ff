import { useState } from 'react';
import { KINDS, bodyOf, differing, type Body } from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { useDifferenceNames } from '../../state/useDifferenceNames';
import { dayAndTime } from '../../ui/clockTime';
import { Choice } from '../../ui/Choice';
import { Differences } from './Differences';
import { annotate, versionAt, versionsOf, type Answer, type Version } from './historyApi';
import { LookOrBringBack } from './LookOrBringBack';
import { Nothing, Problem } from './TwoSides';
import { useFetched } from './useFetched';

/** One saved state: what has changed since or what that edit did, its note, and the ways back to it. */
export function SavedVersion({ version, onNoted }: { version: Version; onNoted: () => void }) {
  const { number, kind, id, savedAt, label, name, deleted } = version;
  const { value, problem } = useFetched(String(number), () => versionAt(number));
  const now = useApp(({ show }) => bodyOf(show.working, kind, id));
  const [against, setAgainst] = useState<'now' | 'before'>('now');
  return (
    <>
      <h2 className="named text-3xl">
        {version.of ?? id} <span className="text-xl text-ink2">{dayAndTime(new Date(savedAt))}</span>
      </h2>
      <p className="text-ink2">
        {KINDS[kind].noun}
        {label !== null && `, after “${label}”`}
      </p>
      <Note key={name ?? ''} version={version} onNoted={onNoted} />
      {problem !== null && <Problem>{problem}</Problem>}
      {deleted && <Nothing>Here it was deleted. The save before this one has it.</Nothing>}
      {value?.body && (
        <>
          <LookOrBringBack source={`v-${number}`} kind={kind} body={value.body} now={now} savedAt={savedAt} />
          <h3 className="mt-4 border-b border-ink pb-1">
            <b className="named text-xl">What differs</b> from this one to{' '}
            <Choice
              label="compared with"
              value={against}
              items={[
                { value: 'now', label: 'what stands now' },
                { value: 'before', label: 'the save before it' },
              ]}
              onChange={setAgainst}
            />
          </h3>
          {against === 'now' ? (
            <SinceThen version={version} body={value.body} now={now} />
          ) : (
            <DoneThen version={version} body={value.body} />
          )}
        </>
      )}
    </>
  );
}

function SinceThen({ version, body, now }: { version: Version; body: Body; now: Body | null }) {
  const names = useDifferenceNames();
  if (now === null) return <Nothing>It is there no more.</Nothing>;
  return (
    <Differences
      kind={version.kind}
      body={body}
      savedAt={version.savedAt}
      found={differing(version.kind, body, now, names)}
    />
  );
}

/** What the edit itself did, in words. */
function DoneThen({ version, body }: { version: Version; body: Body }) {
  const names = useDifferenceNames();
  const { kind, id, number } = version;
  const { value, problem } = useFetched(`before ${number}`, () => beforeOf(version));
  if (problem !== null) return <Problem>{problem}</Problem>;
  if (value === null) return null;
  if (value.body === null) return <Nothing>It was new then, or nothing older is kept.</Nothing>;
  const found = differing(kind, value.body, body, names);
  return (
    <ul aria-label="what the edit did">
      {found.map(({ words }, i) => (
        <li key={`${i} ${words}`} className="border-b border-rule py-1.5 first-letter:uppercase">
          {words}
        </li>
      ))}
      {found.length === 0 && <Nothing>Nothing in {id} was changed.</Nothing>}
    </ul>
  );
}

async function beforeOf({ kind, id, number }: Version): Promise<Answer<{ body: Body | null }>> {
  const older = await versionsOf({ kind, id, before: number });
  if (!older.ok) return older;
  const last = older.value.versions.find(({ revision }) => revision !== null);
  return last ? versionAt(last.number) : { ok: true, value: { body: null } };
}

/** The player's own words on it, for which it is kept for ever. */
function Note({ version, onNoted }: { version: Version; onNoted: () => void }) {
  const [text, setText] = useState(version.name ?? '');
  const [problem, setProblem] = useState<string | null>(null);
  const save = async (): Promise<void> => {
    if (text.trim() === (version.name ?? '')) return;
    const answer = await annotate(version.number, text.trim());
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) onNoted();
  };
  return (
    <form
      className="mt-1"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <input
        aria-label="note on this save"
        placeholder="a note, and it is kept for ever"
        maxLength={200}
        dir="auto"
        value={text}
        onChange={({ target }) => setText(target.value)}
        onBlur={() => void save()}
        className="min-h-9 w-full max-w-lg border-b border-ink bg-transparent px-1"
      />
      {problem !== null && <Problem>{problem}</Problem>}
    </form>
  );
}
