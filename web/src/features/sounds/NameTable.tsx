import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, type KeyboardEvent } from 'react';
import { alsoText, parseAlso } from '@rackle/core/formats';
import { programText } from '@rackle/core/programs';
import type { NameListEntry } from '@rackle/core/show';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { NumberField } from '../../ui/NumberField';

const ROW_PX = 34;

interface Props {
  names: readonly NameListEntry[];
  programsFrom: 0 | 1;
  onChange: (label: string, names: NameListEntry[], mergeKey?: string) => void;
  /** Selects the name on the instrument itself, to hear it. */
  onTry: (entry: NameListEntry) => void;
}

/** A number, or “–” for none, which stands one below the lowest. */
const readProgram =
  (programsFrom: 0 | 1) =>
  (text: string): number | null =>
    /^\s*[–-]?\s*$/.test(text) ? programsFrom - 1 : /^\d{1,3}$/.test(text.trim()) ? Number(text) : null;

/** A name list, edited in place: folder, bank bytes, program, name, and what else is sent. */
export function NameTable({ names, programsFrom, onChange, onTry }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: names.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
  });
  const change = (entry: NameListEntry, next: Partial<NameListEntry>): void =>
    onChange(
      'change a name',
      names.map((other) => (other === entry ? { ...other, ...next } : other)),
      `name ${entry.id} ${Object.keys(next).join()}`,
    );
  const byte = (label: string, entry: NameListEntry, name: 'msb' | 'lsb') => (
    <NumberField
      label={label}
      value={entry[name] ?? -1}
      min={-1}
      max={127}
      show={(value) => (value < 0 ? '–' : String(value))}
      read={(text) => (/^\s*[–-]?\s*$/.test(text) ? -1 : /^\d{1,3}$/.test(text.trim()) ? Number(text) : null)}
      className="mono"
      onChange={(value) => change(entry, { [name]: value < 0 ? null : value })}
    />
  );
  const onKeyDown = (event: KeyboardEvent, at: number): void => {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (by === 0 || names[at + by] === undefined) return;
    rows.scrollToIndex(at + by);
    requestAnimationFrame(() =>
      box.current?.querySelector<HTMLInputElement>(`[data-row="${at + by}"] [data-name] input`)?.focus(),
    );
  };
  return (
    <div
      ref={box}
      className="min-h-0 flex-1 overflow-y-auto"
      role="table"
      aria-label="names"
      aria-rowcount={names.length}
    >
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((row) => {
          const entry = names[row.index];
          return (
            <div
              key={entry.id}
              role="row"
              data-row={row.index}
              className="absolute inset-x-0 flex items-center gap-3 border-b border-rule"
              style={{ height: ROW_PX, transform: `translateY(${row.start}px)` }}
            >
              <span role="cell" className="w-40 shrink-0">
                <EditableText
                  width="100%"
                  label={`folder of ${entry.name}`}
                  value={entry.folder || '—'}
                  onChange={(folder) => change(entry, { folder: folder === '—' ? '' : folder })}
                  className="text-ink2"
                />
              </span>
              <span role="cell" className="mono w-10 shrink-0">
                {byte(`bank MSB of ${entry.name}`, entry, 'msb')}
              </span>
              <span role="cell" className="mono w-10 shrink-0">
                {byte(`bank LSB of ${entry.name}`, entry, 'lsb')}
              </span>
              <span role="cell" className="w-12 shrink-0">
                <NumberField
                  label={`program of ${entry.name}`}
                  value={entry.program === null ? programsFrom - 1 : entry.program + programsFrom}
                  min={programsFrom - 1}
                  max={127 + programsFrom}
                  show={(number) => (number < programsFrom ? '–' : String(number))}
                  read={readProgram(programsFrom)}
                  className="mono"
                  onChange={(program) =>
                    change(entry, { program: program < programsFrom ? null : program - programsFrom })
                  }
                />
              </span>
              <span role="cell" data-name className="min-w-0 flex-1" onKeyDown={(event) => onKeyDown(event, row.index)}>
                <EditableText
                  width="100%"
                  label={
                    entry.program === null
                      ? `name ${row.index + 1}`
                      : `name ${programText({ msb: 0, lsb: 0, program: entry.program }, programsFrom)}`
                  }
                  value={entry.name}
                  className="named text-lg"
                  onChange={(name) => change(entry, { name: name as NameListEntry['name'] })}
                />
              </span>
              <span role="cell" className="w-64 shrink-0">
                <EditableText
                  width="100%"
                  label={`what ${entry.name} also sends`}
                  value={alsoText(entry.also) || '—'}
                  check={(text) =>
                    text.trim() === '—' || parseAlso(text) ? null : '“key 24 velocity 100; controller 32 = 5”'
                  }
                  onChange={(text) => change(entry, { also: text === '—' ? [] : (parseAlso(text) ?? entry.also) })}
                  className="text-[13px] text-ink2"
                />
              </span>
              <Button look="plain" onClick={() => onTry(entry)}>
                try it
              </Button>
              <Button
                look="plain"
                aria-label={`take ${entry.name} away`}
                onClick={() =>
                  onChange(
                    'take a name away',
                    names.filter((other) => other !== entry),
                  )
                }
              >
                ×
              </Button>
            </div>
          );
        })}
      </div>
    </div>
  );
}
