import { useState } from 'react';
import { addressFrom, planNumbering, numberText } from '@rackle/core/programs';
import type { Numbering, RecallTarget, Setlist, Song } from '@rackle/core/show';
import { useEdit } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { Sheet } from '../../ui/Sheet';

interface Props {
  setlist: Setlist;
  songs: ReadonlyMap<string, Song>;
  nameOf: (target: RecallTarget) => string;
  onClose: () => void;
}

const WAYS: Record<Numbering['kind'], string> = {
  order: 'one after the other, in playing order',
  blocks: 'in blocks: each song starts at a multiple',
  byHand: 'by hand: only what has no number gets one',
};
const FIRST_SHOWN = 60;

/** Numbering anew: how, and beforehand everything that it would change. It is one undo step. */
export function NumberingSheet({ setlist, songs, nameOf, onClose }: Props) {
  const edit = useEdit();
  const [numbering, setNumbering] = useState<Numbering>(setlist.numbering);
  const { lines, changes } = planNumbering(setlist, songs, numbering);
  const from = setlist.programsFrom;
  const shown = (address: number | null): string => (address === null ? '—' : numberText(addressFrom(address), from));
  const pinned = setlist.programs.filter((line) => line.pinned).length;
  return (
    <Sheet
      open
      title="Number anew"
      about={`${pinned === 0 ? 'No number is pinned' : `${pinned} pinned number${pinned === 1 ? ' stays' : 's stay'}`}; going past ${127 + from} goes on in the next bank. Programs count from ${from}.`}
      onClose={onClose}
    >
      <p className="text-[17px] leading-9">
        <Choice
          label="way of numbering"
          value={numbering.kind}
          items={Object.entries(WAYS).map(([value, label]) => ({ value, label }))}
          onChange={(kind) =>
            setNumbering(
              kind === 'order'
                ? { kind, startAt: 0 }
                : kind === 'blocks'
                  ? { kind, startAt: 0, size: 10 }
                  : { kind: 'byHand' },
            )
          }
        />
        {numbering.kind === 'blocks' && (
          <>
            {' '}
            of{' '}
            <NumberField
              label="size of a block"
              value={numbering.size}
              min={2}
              max={128}
              className="mono"
              onChange={(size) => setNumbering({ ...numbering, size })}
            />
          </>
        )}
        {numbering.kind !== 'byHand' && (
          <>
            , the first is{' '}
            <NumberField
              label="first number"
              value={numbering.startAt + from}
              min={from}
              max={127 + from}
              className="mono"
              onChange={(first) => setNumbering({ ...numbering, startAt: first - from })}
            />
          </>
        )}
      </p>
      <p className="mt-2 font-bold" data-testid="changes">
        {changes.length === 0
          ? 'Nothing changes: every number is as it is now.'
          : `${changes.length} number${changes.length === 1 ? '' : 's'} change${changes.length === 1 ? 's' : ''}.`}{' '}
        {changes.some((change) => change.before !== null) && (
          <span className="font-normal text-ink2">
            What you have programmed into pedals and players has to follow: print the controller sheet anew.
          </span>
        )}
      </p>
      <ol className="mt-2 max-h-60 overflow-y-auto border-y border-rule">
        {changes.slice(0, FIRST_SHOWN).map((change, i) => (
          <li key={i} className="flex gap-3 border-b border-rule py-0.5">
            <span className="mono w-24 text-right">
              {shown(change.before)} → <b>{shown(change.after)}</b>
            </span>
            <span className="truncate">{nameOf(change.target)}</span>
          </li>
        ))}
        {changes.length > FIRST_SHOWN && <li className="py-1 text-ink2">and {changes.length - FIRST_SHOWN} more</li>}
      </ol>
      <p className="mt-4 flex gap-2">
        <Button
          look="filled"
          disabled={changes.length === 0 && JSON.stringify(numbering) === JSON.stringify(setlist.numbering)}
          onClick={() => {
            edit({ label: 'number anew', setlists: [{ ...setlist, programs: lines, numbering }] });
            onClose();
          }}
        >
          Number anew
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </p>
    </Sheet>
  );
}
