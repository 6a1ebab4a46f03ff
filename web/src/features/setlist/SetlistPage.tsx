import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { GripVertical } from 'lucide-react';
import { useState, type CSSProperties, type KeyboardEvent } from 'react';
import { Link } from 'react-router';
import {
  newSong,
  withEntry,
  withMovedEntry,
  withoutEntry,
  type EntryId,
  type LayerId,
  type PatchId,
  type Setlist,
  type SetlistEntry,
  type Song,
  type SongId,
} from '@rackle/core';
import { useApp, useDoor, useEdit, usePlaces, useSetlist, useSongs, useTimes } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { clockText, minutesText, readMinutes } from '../../ui/format';
import { NumberField } from '../../ui/NumberField';
import { Stamp } from '../../ui/Stamp';
import { Tape } from '../../ui/Tape';
import { tapesOf } from '../../state/tapes';
import { AddSong } from './AddSong';
import { EmptyShow } from './EmptyShow';
import { SetlistSide } from './SetlistSide';

/** The running order as a printed sheet. */
export function SetlistPage() {
  const setlist = useSetlist();
  return setlist ? <RunningOrder setlist={setlist} /> : <EmptyShow />;
}

/** Minutes after the midnight before the set; a curfew earlier in the day than the start is on the next day. */
function curfewMinutes({ curfew, startsAt }: Setlist): number {
  const minutes = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));
  return minutes(curfew!) + (minutes(curfew!) < minutes(startsAt) ? 1440 : 0);
}

function RunningOrder({ setlist }: { setlist: Setlist }) {
  const songs = useSongs();
  const edit = useEdit();
  const times = useTimes();
  const [adding, setAdding] = useState(false);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const change = (label: string, next: Setlist, mergeKey?: string): void => edit({ label, setlists: [next], mergeKey });
  const count = setlist.entries.filter((entry) => entry.kind === 'song').length;
  const sets = 1 + setlist.entries.filter((entry) => entry.kind === 'break').length;
  const drop = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const at = (id: unknown): number => setlist.entries.findIndex((entry) => entry.id === id);
    change('move a song', withMovedEntry(setlist, at(active.id), at(over.id)));
  };
  const late = setlist.curfew !== null && times.overAt > curfewMinutes(setlist);
  const addNew = (name: string): void => {
    const song = newSong(newId<SongId>('song'), name, newId<LayerId>('layer'), newId<PatchId>('patch'));
    edit({
      label: `add ${name}`,
      songs: [song],
      setlists: [withEntry(setlist, { kind: 'song', id: newId<EntryId>('entry'), songId: song.id, skip: false })],
    });
    setAdding(false);
  };
  let number = 0;
  return (
    <div className="flex min-h-full">
      <div className="min-w-0 flex-1 px-4 pb-8">
        <div className="flex items-end gap-4 border-b border-rule py-3">
          <EditableText
            label="name of the setlist"
            value={setlist.name}
            className="named text-4xl leading-tight"
            onChange={(name) => change('rename the setlist', { ...setlist, name })}
          />
          <p className="pb-1.5 text-ink2">
            {count} song{count === 1 ? '' : 's'}, {sets === 1 ? 'one set' : `${sets} sets`} · plays{' '}
            <span className="mono">{minutesText(times.playsSeconds)}</span>, over at{' '}
            <span className="mono">{clockText(times.overAt)}</span>
            {setlist.curfew !== null && (
              <>
                {' '}
                · curfew <span className="mono">{setlist.curfew}</span> {late && <Stamp>late</Stamp>}
              </>
            )}
          </p>
          <span className="no-print ml-auto flex gap-2">
            <Button onClick={() => setAdding(true)}>Add song</Button>
            <Button
              onClick={() =>
                change(
                  'add a break',
                  withEntry(setlist, { kind: 'break', id: newId<EntryId>('entry'), name: 'Break', minutes: 20 }),
                )
              }
            >
              Add break
            </Button>
            <Button onClick={() => window.print()}>Print</Button>
          </span>
        </div>
        {count === 0 && (
          <p className="py-8 text-lg text-ink2">
            No songs yet.{' '}
            <Button look="plain" onClick={() => setAdding(true)}>
              Add the first one
            </Button>
          </p>
        )}
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
          <SortableContext
            items={setlist.entries.map((entry) => entry.id as string)}
            strategy={verticalListSortingStrategy}
          >
            <ol aria-label="running order">
              {setlist.entries.map((entry, i) => {
                if (entry.kind === 'song') number++;
                return (
                  <Row
                    key={entry.id}
                    entry={entry}
                    index={i}
                    number={number}
                    song={entry.kind === 'song' ? (songs[entry.songId] ?? null) : null}
                    startsAt={times.startsAt[i]}
                    onMove={(to) => change('move a song', withMovedEntry(setlist, i, to))}
                    onRemove={() =>
                      change(
                        entry.kind === 'break' ? 'take the break out' : 'take a song out',
                        withoutEntry(setlist, entry.id),
                      )
                    }
                    onEntry={(next) =>
                      change('change the setlist', {
                        ...setlist,
                        entries: setlist.entries.map((candidate) => (candidate.id === entry.id ? next : candidate)),
                      })
                    }
                    onSong={(next) => edit({ label: `change ${next.name}`, songs: [next] })}
                  />
                );
              })}
            </ol>
          </SortableContext>
        </DndContext>
      </div>
      <SetlistSide />
      <AddSong
        open={adding}
        onClose={() => setAdding(false)}
        onNew={addNew}
        onSong={(songId) => {
          change(
            `add ${songs[songId].name}`,
            withEntry(setlist, { kind: 'song', id: newId<EntryId>('entry'), songId: songId as SongId, skip: false }),
          );
          setAdding(false);
        }}
      />
    </div>
  );
}

interface RowProps {
  entry: SetlistEntry;
  index: number;
  number: number;
  song: Song | null;
  startsAt: number;
  onMove: (to: number) => void;
  onRemove: () => void;
  onEntry: (entry: SetlistEntry) => void;
  onSong: (song: Song) => void;
}

function Row({ entry, index, number, song, startsAt, onMove, onRemove, onEntry, onSong }: RowProps) {
  const door = useDoor();
  const { entryId, position } = useApp(({ live }) => live.place);
  const places = usePlaces().filter((place) => place.entry.id === entry.id);
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: entry.id });
  const style: CSSProperties = {
    transform: transform ? `translateY(${transform.y}px)` : undefined,
    transition,
    zIndex: isDragging ? 10 : undefined,
  };
  const here = entry.id === entryId;
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.target instanceof HTMLInputElement) return;
    if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      event.preventDefault();
      onMove(Math.max(0, index + (event.key === 'ArrowUp' ? -1 : 1)));
    } else if (event.key === 'Delete' || event.key === 'Backspace') onRemove();
  };
  const handle = (
    <button
      type="button"
      aria-label={`move ${song?.name ?? 'break'}`}
      className="no-print grid h-11 w-6 cursor-grab touch-none place-items-center text-ink2 opacity-40 hover:opacity-100 focus-visible:opacity-100"
      {...attributes}
      {...listeners}
    >
      <GripVertical size={16} />
    </button>
  );
  const remove = (
    <button
      type="button"
      onClick={onRemove}
      aria-label={`take ${song?.name ?? 'the break'} out`}
      className="no-print min-h-9 px-2 text-[13px] text-ink2 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 hover:text-ink hover:underline"
    >
      take out
    </button>
  );
  if (entry.kind === 'break') {
    return (
      <li
        ref={setNodeRef}
        style={style}
        tabIndex={0}
        onKeyDown={onKeyDown}
        className="group flex items-center gap-3 border-y border-ink bg-ground text-ink2"
        data-testid="break"
      >
        {handle}
        <EditableText
          label="name of the break"
          value={entry.name}
          className="named text-lg font-medium"
          width="9em"
          onChange={(name) => onEntry({ ...entry, name })}
        />
        <NumberField
          label="minutes of the break"
          value={entry.minutes}
          min={0}
          max={240}
          unit=" minutes"
          onChange={(minutes) => onEntry({ ...entry, minutes })}
        />
        <span className="ml-auto" />
        {remove}
        <span className="mono w-14 text-right">{clockText(startsAt)}</span>
      </li>
    );
  }
  if (!song)
    return (
      <li ref={setNodeRef} style={style} className="group flex items-center gap-3 border-b border-rule">
        {handle}
        <Stamp>song missing</Stamp>
        <span className="ml-auto" />
        {remove}
      </li>
    );
  return (
    <li
      ref={setNodeRef}
      style={style}
      tabIndex={0}
      onKeyDown={onKeyDown}
      aria-label={song.name}
      className={`group grid min-h-[46px] grid-cols-[24px_34px_minmax(0,1fr)_90px_56px_minmax(140px,220px)_110px_56px_60px] items-center gap-2 border-b border-rule ${here ? 'bg-ground2' : 'bg-ground'} ${entry.skip ? 'opacity-50' : ''}`}
      data-testid="song-row"
    >
      {handle}
      <span className="mono text-lg text-ink2">{number}</span>
      <EditableText
        width="100%"
        label="name of the song"
        value={song.name}
        className="named text-[26px] leading-9"
        onChange={(name) => onSong({ ...song, name })}
      />
      <span className="truncate">{song.key}</span>
      <span className="mono" title="quarter notes a minute">
        {song.tempoBpm}
      </span>
      <span className="flex gap-[5px] overflow-hidden p-1">
        {places
          .filter((place) => place.blend === null)
          .map((place) => (
            <button
              key={place.position}
              type="button"
              onClick={() => door.post({ type: 'recall', position: place.position })}
              title={place.patch.name}
              aria-label={`recall ${place.patch.name}`}
              className={`flex h-5 w-8 shrink-0 ${place.position === position ? 'outline-2 outline-offset-1 outline-live' : ''}`}
            >
              {tapesOf(song, place.patch.id).map((tape, i) => (
                <Tape key={i} tape={tape} className="flex-1" />
              ))}
            </button>
          ))}
      </span>
      <span className="no-print flex justify-end">
        <Link
          to={`/songs/${song.id}`}
          className="px-2 py-2 text-[13px] text-ink2 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 hover:text-ink hover:underline"
        >
          sheet
        </Link>
        {remove}
      </span>
      <NumberField
        label="length"
        value={song.durationSeconds}
        min={0}
        max={7200}
        step={5}
        show={minutesText}
        read={readMinutes}
        className="mono w-full border-transparent text-right"
        onChange={(durationSeconds) => onSong({ ...song, durationSeconds })}
      />
      <span className="mono text-right text-ink2">{clockText(startsAt)}</span>
    </li>
  );
}
