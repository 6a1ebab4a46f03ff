import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { MOST_NAMES, entriesFrom, writeMidnam, writeNamesCsv } from '@rackle/core/formats';
import type { NameListEntry, NoteNames, OutboardInstrument, PresetId } from '@rackle/core/show';
import { useHost, useEdit, useGear, useSetlist, useSongs } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { NumberField } from '../../ui/NumberField';
import { useNewRow } from '../../ui/newRow';
import { ImportSheet } from './ImportSheet';
import { NameTable } from './NameTable';
import { PlayedIn } from './PlayedIn';
import { QuickEntry } from './QuickEntry';

const download = (name: string, type: string, text: string): void => {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
};

/** An outboard instrument: where it is, how long it takes to switch, and its name list. */
export function OutboardPage({ instrument }: { instrument: OutboardInstrument }) {
  const edit = useEdit();
  const host = useHost();
  const setlist = useSetlist();
  const [importing, setImporting] = useState(false);
  const from = setlist?.programsFrom ?? 1;
  const change = (label: string, next: Partial<OutboardInstrument>, mergeKey?: string): void =>
    edit({ label, mergeKey: mergeKey ?? `${label} ${instrument.id}`, instruments: [{ ...instrument, ...next }] });
  const setNames = useNameList(instrument);
  const isNew = useNewRow(instrument.id);
  return (
    <div className="flex h-full min-h-0 flex-col px-4">
      <div ref={isNew} className="flex items-end gap-4 pt-3">
        <EditableText
          heading
          label="name of the instrument"
          value={instrument.name}
          className="named text-4xl"
          onChange={(name) => change('rename the instrument', { name })}
        />
        <span className="pb-1 text-ink2">
          <Link to="/sounds" className="inline-flex items-center underline decoration-dotted">
            Sounds
          </Link>
        </span>
        <span className="ml-auto flex gap-2">
          <Button onClick={() => setImporting(true)}>Names from elsewhere</Button>
          <SaveNames instrument={instrument} />
        </span>
      </div>
      <WhereItStands instrument={instrument} change={change} />
      <QuickEntry
        names={instrument.names}
        programsFrom={from}
        onAdd={(added) => setNames('add names', [...instrument.names, ...added])}
      />
      <NameTable
        names={instrument.names}
        programsFrom={from}
        onChange={setNames}
        onTry={(entry) =>
          host.post({
            type: 'tryName',
            port: instrument.port,
            channel: instrument.channel,
            msb: entry.msb,
            lsb: entry.lsb,
            program: entry.program,
            also: entry.also,
          })
        }
      />
      {instrument.names.length === 0 && (
        <p className="pb-6 text-lg text-ink2">No names yet. Type the first above, or bring a list in from elsewhere.</p>
      )}
      <KeyNames instrument={instrument} change={change} />
      {importing && (
        <ImportSheet
          onClose={() => setImporting(false)}
          onTake={(rows, replace, noteNames) => {
            const taken = entriesFrom(rows, replace ? instrument.names : [], () => newId<PresetId>('name'));
            setNames('bring names in', replace ? taken : [...instrument.names, ...taken], undefined, noteNames);
            setImporting(false);
          }}
        />
      )}
    </div>
  );
}

type Change = (label: string, next: Partial<OutboardInstrument>, mergeKey?: string) => void;

/** Changes the name list; names that a song plays stay, whatever is taken away. */
function useNameList(instrument: OutboardInstrument) {
  const edit = useEdit();
  const songs = Object.values(useSongs());
  const usedNames = new Set(
    songs.flatMap((song) =>
      song.layers.flatMap((layer) =>
        layer.sound.instrumentId === instrument.id ? [layer.sound.presetId as string] : [],
      ),
    ),
  );
  return (label: string, names: NameListEntry[], mergeKey?: string, noteNames: readonly NoteNames[] = []): void => {
    const kept = instrument.names.filter(
      (entry) => usedNames.has(entry.id) && !names.some((other) => other.id === entry.id),
    );
    if (kept.length > 0)
      toast(
        `${kept
          .map((entry) => `“${entry.name}”`)
          .slice(0, 3)
          .join(
            ', ',
          )}${kept.length > 3 ? ' and others' : ''} ${kept.length === 1 ? 'is played by a song and stays' : 'are played by songs and stay'}.`,
      );
    edit({
      label,
      mergeKey,
      instruments: [
        {
          ...instrument,
          names: [...names, ...kept].slice(0, MOST_NAMES),
          noteNames: [
            ...instrument.noteNames.filter((kit) => !noteNames.some((other) => other.name === kit.name)),
            ...noteNames,
          ],
        },
      ],
    });
  };
}

/** The list as a file. */
function SaveNames({ instrument }: { instrument: OutboardInstrument }) {
  const file = instrument.name.toLowerCase().replace(/[^a-z0-9]+/g, '-') || 'names';
  return (
    <>
      <Button
        disabled={instrument.names.length === 0}
        onClick={() =>
          download(
            `${file}.midnam`,
            'application/xml',
            writeMidnam({
              manufacturer: '',
              model: instrument.name,
              rows: instrument.names,
              noteNames: instrument.noteNames,
            }),
          )
        }
      >
        Save .midnam
      </Button>
      <Button
        disabled={instrument.names.length === 0}
        onClick={() => download(`${file}.csv`, 'text/csv', writeNamesCsv(instrument.names))}
      >
        Save CSV
      </Button>
    </>
  );
}

/** Behind which port and channel it stands, how long it takes to switch, and who plays it. */
function WhereItStands({ instrument, change }: { instrument: OutboardInstrument; change: Change }) {
  const gear = useGear();
  const outputs = [
    ...new Set([
      ...(gear?.ports.flatMap((port) => (port.direction === 'out' ? [port.alias] : [])) ?? []),
      instrument.port,
    ]),
  ];
  return (
    <p className="border-b border-ink pb-2 leading-7">
      Behind{' '}
      <Choice
        label="port"
        value={instrument.port}
        items={outputs.map((port) => ({ value: port, label: port }))}
        onChange={(port) => change('change the port', { port })}
      />
      , channel{' '}
      <NumberField
        label="channel"
        value={instrument.channel}
        min={1}
        max={16}
        className="mono"
        onChange={(channel) => change('change the channel', { channel })}
      />
      ; it takes{' '}
      <NumberField
        label="switching time"
        value={instrument.switchMs}
        min={0}
        max={10_000}
        step={10}
        unit=" ms"
        className="mono"
        onChange={(switchMs) => change('change the switching time', { switchMs })}
      />{' '}
      to switch. <span className="text-ink2">{instrument.names.length} names ·</span>{' '}
      <PlayedIn instrument={instrument} />
    </p>
  );
}

/** Kits whose keys have names. */
function KeyNames({ instrument, change }: { instrument: OutboardInstrument; change: Change }) {
  if (instrument.noteNames.length === 0) return null;
  return (
    <p className="border-t border-rule py-1 text-[13px] text-ink2">
      names of keys:{' '}
      {instrument.noteNames.map((kit) => (
        <span key={kit.name} className="mr-3">
          <b className="text-ink">{kit.name}</b>, {kit.notes.length} keys{' '}
          <Button
            look="plain"
            aria-label={`forget the keys of ${kit.name}`}
            onClick={() =>
              change('forget names of keys', { noteNames: instrument.noteNames.filter((other) => other !== kit) })
            }
          >
            ×
          </Button>
        </span>
      ))}
    </p>
  );
}
