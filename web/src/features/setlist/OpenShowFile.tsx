import { useEffect, useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { toast } from 'sonner';
import {
  clashesOf,
  openedShow,
  readShowFile,
  repairShow,
  rereadRows,
  type Choice,
  type Clash,
} from '@rackle/core/formats';
import { KINDS, KIND_NAMES, filesOf, mintId, type Show } from '@rackle/core/show';
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

/** Reads a chosen file, asks what has to be asked, and opens it: as one edit, which undo takes back. */
export function OpenShowFile({ file, onDone }: { file: File; onDone: (wrong: string | null) => void }) {
  const store = useStore<RootState>();
  const edit = useEdit();
  const [asked, setAsked] = useState<Asked | null>(null);
  const begun = useRef(false);
  const bringIn = ({ show }: Asked, choice: Choice): void => {
    const mint = (): string => mintId('copy', Math.random);
    const { draft } = openedShow(store.getState().show.working, show, choice, mint);
    edit({ ...draft, label: 'open a show file' });
    toast(`The file is open: ${countsOf(show)}.`);
    onDone(null);
  };
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    void read(file, store.getState().show.working).then((found) => {
      if (typeof found === 'string') onDone(`${file.name}: ${found}`);
      else if (needsAnswer(found)) setAsked(found);
      else bringIn(found, 'theirs');
    });
  });
  return asked && <Question asked={asked} onOpen={(choice) => bringIn(asked, choice)} onClose={() => onDone(null)} />;
}

const needsAnswer = ({ repairs, left, clashes, missing }: Asked): boolean =>
  repairs.length + left.length + clashes.length + missing.length > 0;

/** @returns what was found in a file, or in words why it cannot be opened. */
async function read(file: File, here: Parameters<typeof clashesOf>[0]): Promise<Asked | string> {
  const isArchive = /\.zip$/i.test(file.name);
  const unzipped = isArchive ? await unzipShow(file) : { text: await file.text() };
  if ('problem' in unzipped) return unzipped.problem;
  const found = readShowFile(unzipped.text);
  if (!found.ok) return `${found.error.message}. Nothing was changed.`;
  const again = rereadRows(found.value);
  const { show, repairs } = repairShow(again.show);
  return { show, repairs, left: again.left, clashes: clashesOf(here, show), missing: await withoutFiles(show) };
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
