import { useMemo, useState } from 'react';
import {
  guessPasted,
  openTable,
  readMidnam,
  readPasted,
  readTable,
  type MidnamDevice,
  type NameRow,
  type NamesRead,
  type PastedReading,
  type Table,
} from '@rackle/core/formats';
import type { NoteNames } from '@rackle/core/show';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { Sheet } from '../../ui/Sheet';
import { ColumnForm, ReadingForm } from './importForms';

interface Props {
  onClose: () => void;
  onTake: (rows: NameRow[], replace: boolean, noteNames: NoteNames[]) => void;
}

type Source =
  | { kind: 'nothing'; trouble: string | null }
  | { kind: 'midnam'; devices: MidnamDevice[]; chosen: number }
  | { kind: 'table'; table: Table }
  | { kind: 'pasted'; text: string; reading: PastedReading };

const LARGEST_BYTES = 20_000_000;
const SHOWN = 200;

/** As UTF-8 where it is that; else as the old Western encoding, which every byte is. */
function decode(bytes: ArrayBuffer): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/**
 * Names from a MIDINameDocument, from separated values, or from any pasted text; how it is read can be corrected, and
 * what is not understood is told line by line.
 */
export function ImportSheet({ onClose, onTake }: Props) {
  const [source, setSource] = useState<Source>({ kind: 'nothing', trouble: null });
  const openText = (text: string): void => {
    if (/^\s*(\uFEFF)?<\?xml|<MIDINameDocument/.test(text)) {
      const read = readMidnam(text);
      return setSource(
        read.ok
          ? { kind: 'midnam', devices: read.value, chosen: 0 }
          : { kind: 'nothing', trouble: `${read.error.message}. Nothing was changed.` },
      );
    }
    const table = openTable(text);
    const isTable =
      table.cells.length > 0 && table.cells.filter((row) => row.length > 1).length > table.cells.length / 2;
    setSource(isTable ? { kind: 'table', table } : { kind: 'pasted', text, reading: guessPasted(text) });
  };
  const openFile = async (file: File): Promise<void> => {
    if (file.size > LARGEST_BYTES)
      return setSource({
        kind: 'nothing',
        trouble: 'The file is larger than 20 MB: that is no name list. Nothing was changed.',
      });
    openText(decode(await file.arrayBuffer()));
  };
  const read = useMemo((): NamesRead => {
    switch (source.kind) {
      case 'nothing':
        return { rows: [], notUnderstood: [] };
      case 'midnam':
        return source.devices[source.chosen];
      case 'table':
        return readTable(source.table);
      case 'pasted':
        return readPasted(source.text, source.reading);
    }
  }, [source]);
  const noteNames = source.kind === 'midnam' ? source.devices[source.chosen].noteNames : [];
  return (
    <Sheet
      open
      title="Names from elsewhere"
      about="A .midnam document, a table (.csv), or any list copied from a manual or a page."
      onClose={onClose}
    >
      <p className="flex items-center gap-3">
        <input
          type="file"
          aria-label="file with names"
          accept=".midnam,.xml,.csv,.tsv,.txt"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (file) void openFile(file);
          }}
        />
      </p>
      <textarea
        aria-label="pasted names"
        placeholder="… or paste the list here"
        rows={4}
        className="mono mt-2 w-full border border-rule bg-transparent p-2 text-xs"
        onChange={(event) => openText(event.target.value)}
      />
      {source.kind === 'nothing' && source.trouble && (
        <p role="alert" className="mt-2 bg-ink p-2 text-ground">
          {source.trouble}
        </p>
      )}
      {source.kind === 'midnam' && source.devices.length > 1 && (
        <p className="mt-2">
          It names several devices:{' '}
          <Choice
            label="device of the document"
            value={String(source.chosen)}
            items={source.devices.map((device, i) => ({
              value: String(i),
              label: `${device.manufacturer} ${device.model}`.trim() || `device ${i + 1}`,
            }))}
            onChange={(chosen) => setSource({ ...source, chosen: Number(chosen) })}
          />
        </p>
      )}
      {source.kind === 'table' && (
        <ColumnForm
          table={source.table}
          onChange={(columns) => setSource({ ...source, table: { ...source.table, columns } })}
        />
      )}
      {source.kind === 'pasted' && (
        <ReadingForm reading={source.reading} onChange={(reading) => setSource({ ...source, reading })} />
      )}
      {source.kind !== 'nothing' && (
        <>
          <p className="mt-3 font-bold" data-testid="import-count">
            {read.rows.length} name{read.rows.length === 1 ? '' : 's'} understood
            {read.notUnderstood.length > 0
              ? `, ${read.notUnderstood.length} line${read.notUnderstood.length === 1 ? '' : 's'} not`
              : ''}
            {noteNames.length > 0 ? `, and names of keys for ${noteNames.map((kit) => kit.name).join(', ')}` : ''}.
          </p>
          {read.notUnderstood.length > 0 && (
            <ul className="mt-1 max-h-24 overflow-y-auto text-[13px]" aria-label="not understood">
              {read.notUnderstood.slice(0, SHOWN).map((item, i) => (
                <li key={i}>
                  {item.line > 0 && `line ${item.line}: `}
                  <span className="mono">{item.text}</span> <span className="text-ink2">{item.why}</span>
                </li>
              ))}
            </ul>
          )}
          <ol className="mono mt-2 max-h-40 overflow-y-auto border-y border-rule text-xs leading-5">
            {read.rows.slice(0, SHOWN).map((row, i) => (
              <li key={i}>
                {row.folder && `${row.folder} · `}
                {row.msb ?? '–'}/{row.lsb ?? '–'} · {row.program} (on the wire) · <b>{row.name}</b>
              </li>
            ))}
          </ol>
          <p className="mt-4 flex gap-2">
            <Button
              look="filled"
              disabled={read.rows.length + noteNames.length === 0}
              onClick={() => onTake(read.rows, false, noteNames)}
            >
              Add them behind
            </Button>
            <Button disabled={read.rows.length === 0} onClick={() => onTake(read.rows, true, noteNames)}>
              Put them in the place of the list
            </Button>
          </p>
        </>
      )}
    </Sheet>
  );
}
