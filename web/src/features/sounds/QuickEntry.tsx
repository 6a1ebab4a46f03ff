import { useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { NameListEntry, type PresetId } from '@rackle/core/show';
import { newId } from '../../state/ids';
import { NumberField } from '../../ui/NumberField';

interface Props {
  names: readonly NameListEntry[];
  programsFrom: 0 | 1;
  onAdd: (added: NameListEntry[]) => void;
}

/**
 * Names typed in one after the other: Enter takes one and goes to the next, the number counts itself up, and past the
 * last goes on in the next bank.
 */
export function QuickEntry({ names, programsFrom, onAdd }: Props) {
  const last = names.at(-1);
  const [text, setText] = useState('');
  const [program, setProgram] = useState<number | null>(null);
  const next = program ?? ((last?.program ?? -1) + 1) % 128;
  const wraps = program === null && last?.program === 127;
  const entryFor = (name: string, number: number, bankStep: number): NameListEntry =>
    NameListEntry.parse({
      id: newId<PresetId>('name'),
      name,
      folder: last?.folder ?? '',
      msb: last?.msb ?? null,
      lsb: last?.lsb == null ? (bankStep > 0 ? bankStep : null) : Math.min(127, last.lsb + bankStep),
      program: number,
    });
  const add = (typed: readonly string[]): void => {
    const start = (wraps ? 128 : 0) + next;
    const kept = typed.map((name) => name.replace(/\s+/g, ' ').trim().slice(0, 120)).filter((name) => name !== '');
    if (kept.length === 0) return;
    onAdd(kept.map((name, i) => entryFor(name, (start + i) % 128, Math.floor((start + i) / 128))));
    setText('');
    setProgram(null);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key === 'Enter') add([text]);
  };
  // A column pasted from elsewhere: a name for each line.
  const onPaste = (event: ClipboardEvent): void => {
    const lines = event.clipboardData.getData('text').split(/\r\n|\r|\n/);
    if (lines.filter((line) => line.trim() !== '').length < 2) return;
    event.preventDefault();
    add(lines);
  };
  return (
    <p className="flex items-baseline gap-2 border-b border-ink py-2">
      <NumberField
        label="next program"
        value={next + programsFrom}
        min={programsFrom}
        max={127 + programsFrom}
        className="mono text-lg"
        onChange={(typed) => setProgram(typed - programsFrom)}
      />
      <input
        aria-label="next name"
        placeholder="type a name, Enter, the next … or paste a column"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={onKeyDown}
        onPaste={onPaste}
        className="named min-w-0 flex-1 bg-transparent text-lg [field-sizing:fixed] focus:outline-none"
      />
    </p>
  );
}
