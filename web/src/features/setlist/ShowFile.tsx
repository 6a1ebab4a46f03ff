import { useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { toast } from 'sonner';
import {
  KINDS,
  KIND_NAMES,
  clashesOf,
  filesOf,
  mintId,
  openedShow,
  readShowFile,
  repairShow,
  rereadRows,
  type Choice,
  type Clash,
  type Show,
} from '@rackle/core';
import { isStored, unzipShow } from '../../show/api';
import { useEdit } from '../../state/hooks';
import type { RootState } from '../../state/store';
import { Button } from '../../ui/Button';
import { Sheet } from '../../ui/Sheet';

/** A file that has been read, with what has to be asked before it is opened. */
interface Asked {
  show: Show;
  repairs: string[];
  left: string[];
  clashes: Clash[];
  /** Instruments whose bank or recordings are neither stored here nor in the file. */
  missing: string[];
}

/** Instruments of a show that lack a file. */
async function withoutFiles(show: Show): Promise<string[]> {
  const found: string[] = [];
  for (const instrument of show.instruments) {
    const stored = await Promise.all(filesOf(instrument).map(isStored));
    if (stored.includes(false)) found.push(instrument.name);
  }
  return found;
}

const MOST_LINES = 200;

/** The show file in, as one edit that undo takes back; and (with `save`) out. */
export function ShowFile({ save = false }: { save?: boolean }) {
  const file = useRef<HTMLInputElement>(null);
  const store = useStore<RootState>();
  const edit = useEdit();
  const [wrong, setWrong] = useState<string | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  const bringIn = ({ show }: Asked, choice: Choice): void => {
    const mint = (): string => mintId('copy', Math.random);
    const { draft } = openedShow(store.getState().show.working, show, choice, mint);
    edit({ ...draft, label: 'open a show file' });
    setAsked(null);
    toast(`The file is open: ${countsOf(show)}.`);
  };
  const open = async (chosen: File): Promise<void> => {
    setWrong(null);
    const isArchive = /\.zip$/i.test(chosen.name);
    const unzipped = isArchive ? await unzipShow(chosen) : { text: await chosen.text() };
    if ('problem' in unzipped) return setWrong(`${chosen.name}: ${unzipped.problem}`);
    const read = readShowFile(unzipped.text);
    if (!read.ok) return setWrong(`${chosen.name}: ${read.error.message}. Nothing was changed.`);
    const again = rereadRows(read.value);
    const { show, repairs } = repairShow(again.show);
    const clashes = clashesOf(store.getState().show.working, show);
    const missing = await withoutFiles(show);
    const question = { show, repairs, left: again.left, clashes, missing };
    if (repairs.length + again.left.length + clashes.length + missing.length > 0) setAsked(question);
    else bringIn(question, 'theirs');
  };
  return (
    <div className="flex flex-wrap gap-2">
      {save && (
        <a
          href="/api/v1/show/file"
          download="show.json"
          className="inline-flex min-h-9 items-center rounded-sm border border-ink px-3 font-bold hover:bg-ground2"
        >
          Save a show file
        </a>
      )}
      {save && (
        <a
          href="/api/v1/show/zip"
          download="show.rackle.zip"
          className="inline-flex min-h-9 items-center px-1 text-[13px] underline decoration-dotted"
        >
          with its banks and recordings
        </a>
      )}
      <Button onClick={() => file.current?.click()}>Open a show file</Button>
      <input
        ref={file}
        type="file"
        accept=".json,.zip,application/json,application/zip"
        aria-label="show file"
        className="hidden"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) void open(chosen);
          event.target.value = '';
        }}
      />
      {wrong && (
        <p role="alert" className="mt-3 bg-ink p-2 text-ground">
          {wrong}
        </p>
      )}
      {asked && <Question asked={asked} onOpen={(choice) => bringIn(asked, choice)} onClose={() => setAsked(null)} />}
    </div>
  );
}

const countsOf = (show: Show): string =>
  KIND_NAMES.filter((kind) => show[kind].length > 0)
    .map((kind) => `${show[kind].length} ${KINDS[kind].noun}${show[kind].length === 1 ? '' : 's'}`)
    .join(', ') || 'nothing in it';

/** What a file needs to be asked for: faults that are put right, and things that are here already. */
function Question({
  asked: { show, repairs, left, clashes, missing },
  onOpen,
  onClose,
}: {
  asked: Asked;
  onOpen: (choice: Choice) => void;
  onClose: () => void;
}) {
  return (
    <Sheet
      open
      title="Before this file is opened"
      about={`${countsOf(show)}. Nothing has been changed yet.`}
      onClose={onClose}
    >
      {repairs.length + left.length > 0 && (
        <>
          <h3 className="named text-xl">What is put right in it</h3>
          <ul aria-label="repairs" className="mb-3 max-h-48 list-disc overflow-y-auto pl-5">
            {left.map((name) => (
              <li key={name}>{name} could not be read where the file was written, nor here: left out</li>
            ))}
            {repairs.slice(0, MOST_LINES).map((line, i) => (
              <li key={i}>{line}</li>
            ))}
            {repairs.length > MOST_LINES && <li>and {repairs.length - MOST_LINES} more</li>}
          </ul>
        </>
      )}
      {missing.length > 0 && (
        <p className="mb-3" data-testid="missing-files">
          <b>Not in the file, and not stored here:</b> the banks or recordings of {missing.join(', ')}. Layers that play
          them stay silent until they are brought in again; everything about them is kept.
        </p>
      )}
      {clashes.length > 0 && (
        <>
          <h3 className="named text-xl">What is here already, in another version</h3>
          <ul aria-label="in both" className="mb-3 max-h-48 overflow-y-auto">
            {clashes.map(({ kind, id, mine, theirs }) => (
              <li key={`${kind} ${id}`}>
                {KINDS[kind].noun} <b>{mine.name}</b>
                {theirs.name !== mine.name && `, there ${theirs.name}`}
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="flex flex-wrap gap-2">
        {clashes.length === 0 ? (
          <Button look="filled" onClick={() => onOpen('theirs')}>
            Open it
          </Button>
        ) : (
          <>
            <Button look="filled" onClick={() => onOpen('mine')}>
              Keep mine
            </Button>
            <Button onClick={() => onOpen('theirs')}>Take those of the file</Button>
            <Button onClick={() => onOpen('both')}>Keep both</Button>
          </>
        )}
        <Button look="plain" onClick={onClose}>
          Leave it
        </Button>
      </div>
    </Sheet>
  );
}
