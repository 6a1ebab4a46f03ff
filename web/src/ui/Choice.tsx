import { useState, type KeyboardEvent } from 'react';
import { Select } from 'radix-ui';
import { keepNewFocus } from './newRow';

/** Something to choose. */
export interface ChoiceItem<V extends string = string> {
  value: V;
  label: string;
}

/** A named list of them. */
export interface ChoiceGroup<V extends string = string> {
  name: string;
  items: readonly ChoiceItem<V>[];
}

interface Props<V extends string> {
  label: string;
  /** May be one that no item has: then it reads as `unchosen` says. */
  value: V;
  unchosen?: string;
  /** What there is to choose from: one list, or named ones. */
  items?: readonly ChoiceItem<V>[];
  groups?: readonly ChoiceGroup<V>[];
  onChange: (value: NoInfer<V>) => void;
  /** Its list is opened. */
  onOpen?: () => void;
  /** A word of a sentence, or a verb like a `Button`. */
  look?: keyof typeof LOOKS;
  className?: string;
}

const OPENS = new Set(['ArrowDown', 'ArrowUp']);
const LOOKS = {
  word: 'leading-tight written text-left',
  verb: 'flex min-h-9 items-center whitespace-nowrap rounded-sm border border-ink px-3 font-bold leading-tight hover:bg-ground2',
};

/**
 * A choice that reads like a word in a sentence. Until it is asked for it is no more than that word: a page may have
 * dozens.
 */
export function Choice<V extends string>({ items, groups, unchosen = 'choose', onOpen, ...rest }: Props<V>) {
  const [asked, setAsked] = useState(false);
  const { label, value, look = 'word', className = '' } = rest;
  const lists = groups ?? [{ name: '', items: items ?? [] }];
  let shown = unchosen;
  for (const group of lists) for (const item of group.items) if (item.value === value) shown = item.label;
  const ask = (): void => {
    onOpen?.();
    setAsked(true);
  };
  if (asked)
    return <OpenChoice {...rest} groups={lists} shown={shown} onOpen={onOpen} onLeft={() => setAsked(false)} />;
  const onKeyDown = (event: KeyboardEvent): void => {
    if (!OPENS.has(event.key) || event.altKey || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    ask();
  };
  return (
    <button
      type="button"
      role="combobox"
      aria-expanded={false}
      aria-haspopup="listbox"
      aria-label={label}
      className={`${LOOKS[look]} ${className}`}
      onClick={ask}
      onKeyDown={onKeyDown}
    >
      {shown}
    </button>
  );
}

/** With its list: open at first, and there until the focus goes elsewhere. */
function OpenChoice<V extends string>({
  label,
  value,
  groups,
  onChange,
  look = 'word',
  className = '',
  shown,
  onOpen,
  onLeft,
}: Omit<Props<V>, 'items' | 'groups' | 'unchosen'> & {
  groups: readonly ChoiceGroup<V>[];
  shown: string;
  onLeft: () => void;
}) {
  const [open, setOpen] = useState(true);
  const onOpenChange = (now: boolean): void => {
    if (now) onOpen?.();
    setOpen(now);
  };
  return (
    <Select.Root value={value} onValueChange={(next) => onChange(next as V)} open={open} onOpenChange={onOpenChange}>
      <Select.Trigger
        aria-label={label}
        className={`${LOOKS[look]} ${className}`}
        onBlur={() => {
          if (!open) onLeft();
        }}
      >
        <Select.Value placeholder={shown}>{shown}</Select.Value>
      </Select.Trigger>
      {open && (
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={4}
            onCloseAutoFocus={keepNewFocus}
            className="z-50 max-h-80 min-w-48 overflow-hidden border border-ink bg-ground text-ink"
          >
            <Select.Viewport className="max-h-80 overflow-y-auto p-1">
              {groups.map((group) => (
                <Select.Group key={group.name}>
                  {group.name !== '' && (
                    <Select.Label className="px-2 pt-2 text-xs text-ink2">{group.name}</Select.Label>
                  )}
                  {group.items.map((item) => (
                    <Select.Item
                      key={item.value}
                      value={item.value}
                      className="flex min-h-8 cursor-pointer items-center px-2 data-[highlighted]:bg-ink data-[highlighted]:text-ground data-[highlighted]:outline-none data-[state=checked]:font-bold"
                    >
                      <Select.ItemText>{item.label}</Select.ItemText>
                    </Select.Item>
                  ))}
                </Select.Group>
              ))}
            </Select.Viewport>
          </Select.Content>
        </Select.Portal>
      )}
    </Select.Root>
  );
}
