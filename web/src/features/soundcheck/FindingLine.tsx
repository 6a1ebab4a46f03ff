import { useState } from 'react';
import { Link } from 'react-router';
import type { Finding, Place, Severity } from '@rackle/core/soundcheck';
import { useAct } from '../../state/hooks';
import { chose } from '../../state/uiSlice';
import { Button } from '../../ui/Button';
import { Stamp } from '../../ui/Stamp';
import { SEVERITY_WORDS } from './severities';
import { useMending } from './useMending';

const MOST_PLACES = 8;

/** What is wrong, where, what it means on stage, and what can be done about it. */
export function FindingLine({ finding, canBeMeant }: { finding: Finding; canBeMeant: boolean }) {
  const { severity, message, why, mend, places } = finding;
  const mending = useMending();
  const [isAsking, setIsAsking] = useState(false);
  return (
    <li className="flex gap-4 border-b border-rule py-2.5">
      <span className="w-20 shrink-0 pt-0.5">
        <Severe severity={severity} />
      </span>
      <div className="min-w-0 flex-1">
        <p className="font-bold first-letter:uppercase">{message}</p>
        <p className="text-ink2">
          <Places places={places} /> {why}
        </p>
        {isAsking && (
          <WhyMeant
            onSay={(note) => mending.meanSo(finding, note)}
            onLeave={() => setIsAsking(false)}
            about={message}
          />
        )}
      </div>
      {!isAsking && (
        <span className="flex shrink-0 flex-wrap items-start justify-end gap-1 self-center">
          {mend && (
            <Button onClick={() => mending.mend(mend)} aria-label={`${mend.label}: ${message}`}>
              {mend.label}
            </Button>
          )}
          {canBeMeant && (
            <Button look="plain" onClick={() => setIsAsking(true)} aria-label={`meant so: ${message}`}>
              meant so
            </Button>
          )}
        </span>
      )}
    </li>
  );
}

/** The worst on ink, the rest in lines of their own. */
function Severe({ severity }: { severity: Severity }) {
  const words = SEVERITY_WORDS[severity];
  if (severity === 'willFail') return <Stamp>{words}</Stamp>;
  const border = severity === 'mayFail' ? 'border border-ink font-bold' : 'text-ink2';
  return <span className={`inline-block whitespace-nowrap px-1.5 py-0.5 text-xs ${border}`}>{words}</span>;
}

function Places({ places }: { places: readonly Place[] }) {
  const byWords = [...new Map(places.map((place) => [place.words, place])).values()];
  return (
    <>
      {byWords.slice(0, MOST_PLACES).map((place, i) => (
        <span key={place.words}>
          {i > 0 && ', '}
          <PlaceLink place={place} />
        </span>
      ))}
      {byWords.length > MOST_PLACES && ` and ${byWords.length - MOST_PLACES} more`}.
    </>
  );
}

const PATHS: Record<Place['page'], string> = {
  song: '/songs',
  timeline: '/timeline',
  numbers: '/numbers',
  gear: '/gear',
  sounds: '/sounds',
  setlist: '/setlist',
};

function PlaceLink({ place: { words, page, songId, patchId } }: { place: Place }) {
  const act = useAct();
  const ofSong = (page === 'song' || page === 'timeline') && songId !== null;
  return (
    <Link
      to={ofSong ? `${PATHS[page]}/${songId}` : PATHS[page]}
      className="underline decoration-dotted underline-offset-4 hover:decoration-solid"
      onClick={() => songId !== null && patchId !== null && act(chose({ songId, patchId }))}
    >
      {words}
    </Link>
  );
}

/** Asks for a reason, which may be left out. */
function WhyMeant({ about, onSay, onLeave }: { about: string; onSay: (note: string) => void; onLeave: () => void }) {
  const [note, setNote] = useState('');
  return (
    <form
      className="mt-1 flex flex-wrap items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        onSay(note.trim());
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        onLeave();
      }}
    >
      <input
        autoFocus
        aria-label={`why it is meant so: ${about}`}
        placeholder="why, if you like"
        maxLength={500}
        value={note}
        onChange={(event) => setNote(event.target.value)}
        className="min-h-9 min-w-64 flex-1 border border-ink bg-ground px-2"
      />
      <Button type="submit">it is meant so</Button>
      <Button look="plain" onClick={onLeave}>
        leave it
      </Button>
    </form>
  );
}
