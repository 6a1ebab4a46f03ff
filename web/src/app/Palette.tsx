import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useEffect, useMemo, useState } from 'react';
import { useAct, useApp } from '../state/hooks';
import { closed } from '../state/uiSlice';
import { useFocusBack } from '../ui/useFocusBack';
import { found, type PaletteEntry } from './paletteEntries';
import { paletteAhead } from './typedAhead';
import { usePaletteEntries } from './usePaletteEntries';

/** So many of a group are shown, about what is in sight at once; what was typed narrows the rest down. */
const MOST_SHOWN = 12;
/** Before anything is typed: what there is, more than what is meant. */
const AT_FIRST = 5;

/** Finds songs, patches, sounds and actions by a few letters. */
export function Palette() {
  const open = useApp(({ ui }) => ui.paletteOpen);
  const act = useAct();
  const entries = usePaletteEntries();
  const [typed, setTyped] = useState('');
  const focusBack = useFocusBack();
  useEffect(() => paletteAhead.into(setTyped), []);
  const groups = useMemo(() => found(entries, typed, typed === '' ? AT_FIRST : MOST_SHOWN), [entries, typed]);
  const choose = (entry: PaletteEntry): void => {
    act(closed('paletteOpen'));
    entry.act();
  };
  return (
    // Not modal to Radix, which would style every element of the page anew: the pages may be long. The cloth over them,
    // and the field that keeps the focus, do the same.
    <Dialog.Root
      open={open}
      modal={false}
      onOpenChange={(now) => {
        if (!now) act(closed('paletteOpen'));
      }}
    >
      <Dialog.Portal>
        <div aria-hidden className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-label="Find"
          aria-modal
          aria-describedby={undefined}
          {...focusBack}
          onKeyDown={(event) => {
            if (event.key === 'Tab') event.preventDefault();
          }}
          className="slip-in fixed left-1/2 top-[12vh] z-50 w-[min(640px,94vw)] -translate-x-1/2 border border-ink bg-ground text-ink"
        >
          <Dialog.Title className="sr-only">Find</Dialog.Title>
          <Command shouldFilter={false} label="Find">
            <Command.Input
              value={typed}
              onValueChange={setTyped}
              onFocus={({ currentTarget }) => {
                paletteAhead.end();
                // What was typed ahead is gone on with; the dialog would have it selected, to be typed over.
                queueMicrotask(() =>
                  currentTarget.setSelectionRange(currentTarget.value.length, currentTarget.value.length),
                );
              }}
              placeholder="Find a song, a patch, a sound, an action"
              className="named w-full border-b border-ink bg-transparent px-3 py-2.5 text-2xl focus:outline-none"
            />
            <Command.List className="max-h-[56vh] overflow-y-auto pb-2">
              <Command.Empty className="p-3 text-ink2">Nothing of that name.</Command.Empty>
              {groups.map(({ heading, entries: shown, more }) => (
                <Command.Group
                  key={heading}
                  heading={heading}
                  className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-ink2"
                >
                  {shown.map((entry) => (
                    <Entry key={entry.id} entry={entry} onChoose={choose} />
                  ))}
                  {more > 0 && (
                    <p className="px-3 py-1 text-[13px] text-ink2">{more} more: type on to narrow them down</p>
                  )}
                </Command.Group>
              ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Entry({ entry, onChoose }: { entry: PaletteEntry; onChoose: (entry: PaletteEntry) => void }) {
  const { id, name, isNamed, aside, number } = entry;
  return (
    <Command.Item
      value={id}
      onSelect={() => onChoose(entry)}
      className="flex min-h-9 cursor-pointer items-center gap-3 px-3 data-[selected=true]:bg-ink data-[selected=true]:text-ground"
    >
      {number && <span className="mono w-8 text-right text-xs">{number()}</span>}
      <span className={isNamed ? 'named text-lg' : undefined}>{name}</span>
      {aside !== undefined && <span className="ml-auto text-[13px] opacity-70">{aside}</span>}
    </Command.Item>
  );
}
