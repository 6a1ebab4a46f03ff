import { useState } from 'react';
import { Select } from 'radix-ui';

export interface ChoiceGroup {
  name: string;
  items: { value: string; label: string }[];
}

/** A choice that reads like a word in a sentence. */
export function Choice({ label, value, groups, onChange, className = '' }: { label: string; value: string; groups: ChoiceGroup[]; onChange: (value: string) => void; className?: string }) {
  // Its list is there while it is open only: closed, several hundred items would be made anew at every change around it.
  const [open, setOpen] = useState(false);
  const shown = groups.flatMap((group) => group.items).find((item) => item.value === value)?.label ?? 'choose';
  return (
    <Select.Root value={value} onValueChange={onChange} open={open} onOpenChange={setOpen}>
      <Select.Trigger aria-label={label} className={`border-b border-dotted border-ink text-left hover:border-solid ${className}`}><Select.Value placeholder="choose">{shown}</Select.Value></Select.Trigger>
      {open && <Select.Portal>
        <Select.Content position="popper" sideOffset={4} className="z-50 max-h-80 min-w-48 overflow-hidden border border-ink bg-ground text-ink">
          <Select.Viewport className="max-h-80 overflow-y-auto p-1">
            {groups.map((group) => (
              <Select.Group key={group.name}>
                {group.name !== '' && <Select.Label className="px-2 pt-2 text-xs text-ink2">{group.name}</Select.Label>}
                {group.items.map((item) => (
                  <Select.Item key={item.value} value={item.value} className="flex min-h-8 cursor-pointer items-center px-2 data-[highlighted]:bg-ink data-[highlighted]:text-ground data-[highlighted]:outline-none data-[state=checked]:font-bold">
                    <Select.ItemText>{item.label}</Select.ItemText>
                  </Select.Item>
                ))}
              </Select.Group>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>}
    </Select.Root>
  );
}
