import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import {
  addressFrom,
  addressNumber,
  buttonsByTarget,
  controllerSheets,
  programConflicts,
  programText,
  sameTarget,
  targetKey,
  withoutNumber,
} from '@rackle/core/programs';
import type { Place, ProgramLine, RecallTarget } from '@rackle/core/show';
import { useApp, useHost, useEdit, useGear, usePlaces, useSetlist, useSongs } from '../../state/hooks';
import { tapesOf } from '../../state/tapes';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { Stamp } from '../../ui/Stamp';
import { Tape } from '../../ui/Tape';
import { NumberingSheet } from './NumberingSheet';
import { ProgramRuler } from './ProgramRuler';

const ROW_PX = 40;
/** What stands above the rows. */
const HEAD_PX = 82;

interface Row {
  key: string;
  target: RecallTarget;
  /** Where it is recalled; null for a song's own number. */
  place: Place;
  isSong: boolean;
}

/** Every song's own number (where it has one), every patch and blend, once each, in playing order. */
function rowsOf(places: readonly Place[], lines: ReadonlyMap<string, ProgramLine>): Row[] {
  const rows = new Map<string, Row>();
  for (const place of places) {
    const song: RecallTarget = { songId: place.song.id, patchId: null, blendId: null };
    if (!rows.has(targetKey(song)) && lines.has(targetKey(song)))
      rows.set(targetKey(song), { key: targetKey(song), target: song, place, isSong: true });
    const target: RecallTarget = { songId: place.song.id, patchId: place.patch.id, blendId: place.blend?.id ?? null };
    if (!rows.has(targetKey(target)))
      rows.set(targetKey(target), { key: targetKey(target), target, place, isSong: false });
  }
  return [...rows.values()];
}

/** The program map: which number recalls what. */
export function NumbersPage() {
  const setlist = useSetlist();
  const songs = useSongs();
  const places = usePlaces();
  const gear = useGear();
  const edit = useEdit();
  const host = useHost();
  const position = useApp(({ live }) => live.place.position);
  const [chosen, setChosen] = useState<string | null>(null);
  const [numbering, setNumbering] = useState(false);
  const body = useRef<HTMLTableSectionElement>(null);
  const lines = new Map([...(setlist?.programs ?? [])].reverse().map((line) => [targetKey(line.target), line]));
  const rows = rowsOf(places, lines);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => body.current?.closest('main') ?? null,
    estimateSize: () => ROW_PX,
    overscan: 16,
    scrollMargin: HEAD_PX,
  });
  const items = virtual.getVirtualItems();
  if (!setlist)
    return (
      <p className="p-6 text-lg">
        No setlist yet, so nothing to number.{' '}
        <Link to="/setlist" className="underline">
          Start one
        </Link>
      </p>
    );
  const { programs, programsFrom: from } = setlist;
  const byId = new Map(Object.entries(songs));
  const conflicts = new Set(programConflicts(programs).flat());
  const buttons = buttonsByTarget(gear ? controllerSheets(setlist, byId, gear) : []);
  const missing = withoutNumber(setlist, byId).length;
  const lineOf = (target: RecallTarget): ProgramLine | null => lines.get(targetKey(target)) ?? null;
  const live = places.find((place) => place.position === position) ?? null;
  const liveLine = live
    ? lineOf({ songId: live.song.id, patchId: live.patch.id, blendId: live.blend?.id ?? null })
    : null;
  const chosenRow = rows.find((row) => row.key === chosen) ?? null;
  const change = (label: string, next: ProgramLine[]): void =>
    edit({ label, setlists: [{ ...setlist, programs: next }] });
  const setLine = (label: string, line: ProgramLine, next: Partial<ProgramLine>): void =>
    change(
      label,
      programs.map((other) => (other === line ? { ...other, ...next } : other)),
    );
  const placeAt = (target: RecallTarget, address: number): void => {
    const line = lineOf(target);
    if (line) setLine('change a number', line, addressFrom(address));
    else
      change('give a number', [
        ...programs,
        { target, ...addressFrom(address), pinned: false, port: null, channel: null },
      ]);
  };
  const free = (): number => Math.max(-1, ...programs.map(addressNumber)) + 1;
  const nameOf = (target: RecallTarget): string => {
    const song = songs[target.songId];
    const patch = song?.patches.find((candidate) => candidate.id === target.patchId);
    const blend = patch?.blends.find((candidate) => candidate.id === target.blendId);
    return [song?.name ?? 'a song that is gone', patch?.name, blend?.name].filter(Boolean).join(', ');
  };
  const shown = new Set(rows.map((row) => row.key));
  const strays = programs.filter((line) => !shown.has(targetKey(line.target)));
  return (
    <div className="flex min-h-full">
      <div className="min-w-0 flex-[1.3] px-4 pb-6">
        <div className="flex flex-wrap items-end gap-x-4 gap-y-1 border-b border-ink pb-2 pt-3">
          <h1 className="named text-4xl">Program map</h1>
          <span className="pb-1 text-ink2">
            {programs.length} numbers, programs read{' '}
            <Choice
              label="programs count from"
              value={String(from)}
              groups={[
                {
                  name: '',
                  items: [
                    { value: '0', label: '0 to 127' },
                    { value: '1', label: '1 to 128' },
                  ],
                },
              ]}
              onChange={(value) =>
                edit({
                  label: 'change how programs count',
                  setlists: [{ ...setlist, programsFrom: value === '0' ? 0 : 1 }],
                })
              }
            />
            , middle C is{' '}
            <Choice
              label="middle C"
              value={setlist.middleC}
              groups={[
                {
                  name: '',
                  items: [
                    { value: 'C3', label: 'C3' },
                    { value: 'C4', label: 'C4' },
                  ],
                },
              ]}
              onChange={(value) =>
                edit({
                  label: 'change the name of middle C',
                  setlists: [{ ...setlist, middleC: value as 'C3' | 'C4' }],
                })
              }
            />
          </span>
        </div>
        {conflicts.size > 0 && (
          <p className="mt-2">
            <Stamp>twice</Stamp> {conflicts.size} lines share a number: the first of them in the map has it.
          </p>
        )}
        <table className="w-full table-fixed text-left">
          <thead>
            <tr className="text-[13px] text-ink2">
              <th className="w-24">number</th>
              <th className="w-12" />
              <th className="w-[22%]">song</th>
              <th>patch</th>
              <th className="w-16" />
              <th className="w-40">sent by</th>
              <th className="w-14" />
            </tr>
          </thead>
          <tbody ref={body}>
            {items.length > 0 && <tr aria-hidden style={{ height: items[0].start - HEAD_PX }} />}
            {items.map(({ index: i }) => {
              const row = rows[i];
              const { place, target } = row;
              const line = lineOf(target);
              const button = buttons.get(row.key);
              const newSong = i === 0 || rows[i - 1].place.song !== place.song;
              return (
                <tr
                  key={row.key}
                  aria-selected={row.key === chosen}
                  className={`h-10 ${newSong ? 'border-t border-ink2' : 'border-t border-rule'} ${row.key === chosen ? 'bg-ground2' : ''}`}
                  onClick={() => setChosen(row.key)}
                >
                  <td
                    className={`mono whitespace-nowrap text-lg ${line !== null && line === liveLine ? 'live-text' : ''}`}
                  >
                    {line ? (
                      <AddressField
                        line={line}
                        from={from}
                        label={`program of ${nameOf(target)}`}
                        onChange={(address) => setLine('change a number', line, addressFrom(address))}
                      />
                    ) : (
                      <Button look="plain" onClick={() => placeAt(target, free())}>
                        give one
                      </Button>
                    )}
                    {line && conflicts.has(line) && (
                      <>
                        {' '}
                        <Stamp>twice</Stamp>
                      </>
                    )}
                  </td>
                  <td>
                    <span className="flex h-4 w-9">
                      {row.isSong
                        ? null
                        : tapesOf(place.song, place.patch.id).map((tape, t) => (
                            <Tape key={t} tape={tape} className="flex-1" />
                          ))}
                    </span>
                  </td>
                  <td className="truncate text-ink2">{newSong ? place.song.name : ''}</td>
                  <td className="named truncate text-xl">
                    {row.isSong ? (
                      <span className="italic text-ink2">the song itself</span>
                    ) : place.blend ? (
                      <span className="pl-3 italic">… {place.blend.name}</span>
                    ) : (
                      place.patch.name
                    )}
                  </td>
                  <td>
                    {line && (
                      <button
                        type="button"
                        aria-pressed={line.pinned}
                        className={`min-h-9 px-2 ${line.pinned ? 'bg-ink font-bold text-ground' : 'underline decoration-dotted'}`}
                        onClick={() => setLine('pin a number', line, { pinned: !line.pinned })}
                      >
                        {line.pinned ? 'pinned' : 'pin'}
                      </button>
                    )}
                  </td>
                  <td className="truncate text-[13px] text-ink2">
                    {button
                      ? `${button.port} · ${button.pages > 1 ? `page ${button.page}, ` : ''}${button.button}`
                      : ''}
                  </td>
                  <td className="text-right">
                    <Button look="plain" onClick={() => host.post({ type: 'recall', position: place.position })}>
                      try it
                    </Button>
                  </td>
                </tr>
              );
            })}
            {items.length > 0 && (
              <tr aria-hidden style={{ height: virtual.getTotalSize() - (items[items.length - 1].end - HEAD_PX) }} />
            )}
          </tbody>
        </table>
        {rows.length === 0 && <p className="mt-4 text-lg text-ink2">No patches yet, so nothing to number.</p>}
        {strays.length > 0 && (
          <p className="mt-4 text-[13px] text-ink2">
            {strays.length} number{strays.length === 1 ? ' leads' : 's lead'} to what is not in this setlist.{' '}
            <Button
              look="plain"
              onClick={() =>
                change(
                  'take numbers away that lead nowhere',
                  programs.filter((line) => !strays.includes(line)),
                )
              }
            >
              take {strays.length === 1 ? 'it' : 'them'} away
            </Button>
          </p>
        )}
      </div>
      <aside className="min-w-0 flex-1 border-l border-ink px-4 py-3">
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => setNumbering(true)}>Number anew</Button>
          <Link
            to="/numbers/sheets"
            className="inline-flex min-h-9 items-center rounded-sm border border-ink px-3 font-bold hover:bg-ground2"
          >
            Controller sheets
          </Link>
          {missing > 0 && (
            <span className="self-center text-[13px]">
              <b>{missing}</b> without a number
            </span>
          )}
        </div>
        <div className="mt-3">
          <ProgramRuler
            lines={programs}
            twice={conflicts}
            live={liveLine}
            chosen={chosenRow ? lineOf(chosenRow.target) : null}
            programsFrom={from}
            nameOf={(line) => nameOf(line.target)}
            tapeOf={(line) => tapeOfTarget(line.target, songs)}
            onPlace={chosenRow ? (address) => placeAt(chosenRow.target, address) : null}
            onChoose={(line) => setChosen(targetKey(line.target))}
          />
        </div>
        <p className="text-[13px] text-ink2">
          {chosenRow ? (
            <>
              A free tick takes <b className="text-ink">{nameOf(chosenRow.target)}</b>.
            </>
          ) : (
            'Each line holds 32 numbers; tape stands on those in use. Choose a patch, then click a free tick to put it there.'
          )}
        </p>
        {chosenRow && (
          <ChosenLine
            target={chosenRow.target}
            line={lineOf(chosenRow.target)}
            songNumber={lineOf({ songId: chosenRow.target.songId, patchId: null, blendId: null })}
            inputs={gear?.ports.flatMap((port) => (port.direction === 'in' ? [port.alias as string] : [])) ?? []}
            onLine={(next) => {
              const line = lineOf(chosenRow.target);
              if (line) setLine('change where a number comes from', line, next);
            }}
            onSongNumber={() => placeAt({ songId: chosenRow.target.songId, patchId: null, blendId: null }, free())}
            onRemove={() =>
              change(
                'take a number away',
                programs.filter((line) => !sameTarget(line.target, chosenRow.target)),
              )
            }
          />
        )}
      </aside>
      {numbering && (
        <NumberingSheet setlist={setlist} songs={byId} nameOf={nameOf} onClose={() => setNumbering(false)} />
      )}
    </div>
  );
}

const tapeOfTarget = (target: RecallTarget, songs: ReturnType<typeof useSongs>): string => {
  const song = songs[target.songId];
  return (song && tapesOf(song, target.patchId ?? song.patches[0]?.id ?? '')[0]) ?? 'bone';
};

/** “12”, or “1/2/12” with a bank, typed as it is read. */
function AddressField({
  line,
  from,
  label,
  onChange,
}: {
  line: ProgramLine;
  from: 0 | 1;
  label: string;
  onChange: (address: number) => void;
}) {
  const read = (text: string): number | null => {
    const parts = text.split('/').map((part) => part.trim());
    if (parts.length > 3 || parts.some((part) => !/^\d{1,3}$/.test(part))) return null;
    const numbers = parts.map(Number);
    const program = numbers[numbers.length - 1] - from;
    const [msb, lsb] = numbers.length === 3 ? numbers : numbers.length === 2 ? [0, numbers[0]] : [line.msb, line.lsb];
    return program < 0 || program > 127 || msb > 127 || lsb > 127 ? -1 : (msb * 128 + lsb) * 128 + program;
  };
  return (
    <NumberField
      label={label}
      value={addressNumber(line)}
      min={0}
      max={2_097_151}
      show={(address) => programText(addressFrom(Math.max(0, address)), from)}
      read={read}
      onChange={onChange}
    />
  );
}

function ChosenLine({
  target,
  line,
  songNumber,
  inputs,
  onLine,
  onSongNumber,
  onRemove,
}: {
  target: RecallTarget;
  line: ProgramLine | null;
  songNumber: ProgramLine | null;
  inputs: readonly string[];
  onLine: (next: Partial<ProgramLine>) => void;
  onSongNumber: () => void;
  onRemove: () => void;
}) {
  return (
    <p className="mt-2 border-t border-rule pt-2 leading-7">
      {line && (
        <>
          It counts from{' '}
          <Choice
            label="port of the number"
            value={line.port ?? '-'}
            groups={[
              {
                name: '',
                items: [
                  { value: '-', label: 'every port that is listened to' },
                  ...inputs.map((alias) => ({ value: alias, label: alias })),
                ],
              },
            ]}
            onChange={(port) => onLine({ port: port === '-' ? null : (port as ProgramLine['port']) })}
          />
          , on{' '}
          <Choice
            label="channel of the number"
            value={String(line.channel ?? 0)}
            groups={[
              {
                name: '',
                items: [
                  { value: '0', label: 'every channel' },
                  ...Array.from({ length: 16 }, (_, i) => ({ value: String(i + 1), label: `channel ${i + 1}` })),
                ],
              },
            ]}
            onChange={(channel) => onLine({ channel: channel === '0' ? null : Number(channel) })}
          />
          .{' '}
          <Button look="plain" onClick={onRemove}>
            take the number away
          </Button>
        </>
      )}
      {target.patchId !== null && !songNumber && (
        <Button look="plain" onClick={onSongNumber}>
          give the song a number of its own
        </Button>
      )}
    </p>
  );
}
