import { useSortable } from '@dnd-kit/sortable';
import { GripVertical } from 'lucide-react';
import { memo, useCallback, type CSSProperties, type KeyboardEvent, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { EntryId, SetlistEntry, Song } from '@rackle/core/show';
import { useApp, usePlacesOf } from '../../state/hooks';
import { useGoTo } from '../../state/useGoTo';
import { tapesOf } from '../../state/tapes';
import { EditableText } from '../../ui/EditableText';
import { clockText, minutesText, noteText, readMinutes, shiftNote } from '../../ui/format';
import { useNewRow } from '../../ui/newRow';
import { NumberField } from '../../ui/NumberField';
import { Stamp } from '../../ui/Stamp';
import { Tape } from '../../ui/Tape';
import type { EntryActions, RowState } from './useRunningOrder';
import { TempoField } from '../tempo';

type SongEntry = Extract<SetlistEntry, { kind: 'song' }>;

interface Props extends RowState {
  actions: EntryActions;
}

/** One line of the running order. It is drawn again only when it is another one: setlists have hundreds. */
export const EntryRow = memo(function EntryRow({ entry, index, number, song, startsAt, actions }: Props) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: entry.id });
  const style: CSSProperties = {
    transform: transform ? `translateY(${transform.y}px)` : undefined,
    transition,
    zIndex: isDragging ? 10 : undefined,
  };
  const name = entry.kind === 'break' ? 'the break' : song?.name;
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.target instanceof HTMLInputElement) return;
    if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      event.preventDefault();
      actions.move(entry.id, Math.max(0, index + (event.key === 'ArrowUp' ? -1 : 1)));
    } else if (event.target === event.currentTarget && (event.key === 'Delete' || event.key === 'Backspace')) {
      actions.remove(entry);
    }
  };
  const handle = (
    <button
      type="button"
      aria-label={`move ${song?.name ?? 'break'}`}
      className="no-print grid h-11 w-6 cursor-grab touch-none place-items-center text-ink2"
      {...attributes}
      {...listeners}
    >
      <GripVertical size={16} />
    </button>
  );
  const remove = (
    <button
      type="button"
      onClick={() => actions.remove(entry)}
      className="no-print min-h-11 shrink-0 whitespace-nowrap px-2 text-[13px] max-[1099px]:px-1 text-ink2 underline decoration-dotted underline-offset-4 hover:text-ink"
    >
      take out<span className="sr-only"> {name ?? 'the break'}</span>
    </button>
  );
  const newRow = useNewRow(entry.id);
  const ref = useCallback(
    (row: HTMLElement | null) => {
      setNodeRef(row);
      newRow(row);
    },
    [setNodeRef, newRow],
  );
  const frame = { ref, style };
  const parts = { handle, remove };
  if (entry.kind === 'break')
    return (
      <li
        {...frame}
        tabIndex={0}
        onKeyDown={onKeyDown}
        className="flex items-center gap-3 border-y border-ink bg-ground text-ink2"
        data-testid="break"
      >
        <BreakLine {...parts} entry={entry} startsAt={startsAt} onChange={actions.changeEntry} />
      </li>
    );
  if (!song)
    return (
      <li {...frame} className="flex items-center gap-3 border-b border-rule">
        {handle}
        <Stamp>song missing</Stamp>
        <span className="ml-auto" />
        {remove}
      </li>
    );
  return (
    <SongFrame {...frame} onKeyDown={onKeyDown} entry={entry} song={song}>
      <SongLine
        {...parts}
        entry={entry}
        number={number}
        song={song}
        startsAt={startsAt}
        onChange={actions.changeSong}
        onEntry={actions.changeEntry}
      />
    </SongFrame>
  );
});

interface FrameProps {
  ref: (element: HTMLElement | null) => void;
  style: CSSProperties;
  entry: SongEntry;
  song: Song;
  onKeyDown: (event: KeyboardEvent) => void;
  children: ReactNode;
}

function SongFrame({ ref, style, entry, song, onKeyDown, children }: FrameProps) {
  const isHere = useApp(({ live }) => live.place.entryId === entry.id);
  return (
    <li
      ref={ref}
      style={style}
      tabIndex={0}
      onKeyDown={onKeyDown}
      aria-label={song.name}
      className={`grid min-h-[46px] grid-cols-[24px_34px_minmax(0,1fr)_90px_36px_50px_minmax(140px,185px)_166px_56px_60px] items-center gap-x-2 border-b border-rule min-[1600px]:grid-cols-[24px_34px_minmax(0,1fr)_minmax(0,1.2fr)_90px_36px_50px_minmax(140px,185px)_166px_56px_60px] max-[1099px]:grid-cols-[24px_34px_minmax(0,1fr)_36px_118px_142px_56px_52px] max-[699px]:grid-cols-[28px_minmax(0,1fr)_auto_56px] print:!grid-cols-[30px_minmax(0,1fr)_76px_30px_44px_132px_50px_50px] ${isHere ? 'bg-ground2' : 'bg-ground'} ${entry.skip ? 'bg-[repeating-linear-gradient(135deg,transparent_0_7px,var(--rule)_7px_8px)] text-ink2' : ''}`}
      data-testid="song-row"
    >
      {children}
    </li>
  );
}

interface LineParts {
  handle: ReactNode;
  remove: ReactNode;
  startsAt: number;
}

interface BreakLineProps extends LineParts {
  entry: Extract<SetlistEntry, { kind: 'break' }>;
  onChange: (entry: SetlistEntry) => void;
}

function BreakLine({ handle, remove, startsAt, entry, onChange }: BreakLineProps) {
  return (
    <>
      {handle}
      <EditableText
        label="name of the break"
        value={entry.name}
        className="named text-lg font-medium"
        width="9em"
        onChange={(name) => onChange({ ...entry, name })}
      />
      <NumberField
        label="minutes of the break"
        value={entry.minutes}
        min={0}
        max={240}
        unit=" minutes"
        onChange={(minutes) => onChange({ ...entry, minutes })}
      />
      <span className="min-w-0 flex-1">
        <EntryNote of={entry.name} note={entry.note} onChange={(note) => onChange({ ...entry, note })} />
      </span>
      {remove}
      <span className="mono w-14 text-right">{clockText(startsAt)}</span>
    </>
  );
}

/** What is to be known of it tonight; typed, and kept when it is left. */
const EntryNote = ({ of, note, onChange }: { of: string; note: string; onChange: (note: string) => void }) => (
  <input
    key={note}
    dir="auto"
    aria-label={`note on ${of} tonight`}
    placeholder="note"
    maxLength={500}
    defaultValue={note}
    title={note}
    onBlur={({ target }) => target.value.trim() !== note && onChange(target.value.trim())}
    onKeyDown={({ key, currentTarget }) => {
      if (key === 'Escape') currentTarget.value = note;
      if (key === 'Escape' || key === 'Enter') currentTarget.blur();
    }}
    className={`block w-full min-w-0 border-b border-transparent bg-transparent text-[13px] leading-4 [field-sizing:fixed] placeholder:text-ink2 hover:border-rule focus:border-ink focus:outline-none pointer-coarse:min-h-6 ${note === '' ? 'print:hidden' : ''}`}
  />
);

interface SongLineProps extends LineParts {
  entry: SongEntry;
  number: number;
  song: Song;
  onChange: (song: Song) => void;
  onEntry: (entry: SongEntry) => void;
}

function SongLine({ handle, remove, startsAt, entry, number, song, onChange, onEntry }: SongLineProps) {
  const names = song.patches.map(({ name }) => name).join(' · ');
  const own = song.map.tempos[0].bpm;
  return (
    <>
      {handle}
      <span className="mono text-lg text-ink2 max-[699px]:hidden print:!inline">{number}</span>
      <span className="min-w-0">
        <EditableText
          width="100%"
          label="name of the song"
          value={song.name}
          className="named text-[26px] leading-7"
          onChange={(name) => onChange({ ...song, name })}
        />
        <EntryNote of={song.name} note={entry.note} onChange={(note) => onEntry({ ...entry, note })} />
      </span>
      <span dir="auto" className="hidden truncate text-ink2 min-[1600px]:block print:!hidden" title={names}>
        {names}
      </span>
      <span dir="auto" className="truncate max-[1099px]:hidden print:!inline">
        {song.key}
      </span>
      <span
        title="key shift for tonight, in semitones"
        className={`max-[699px]:hidden ${entry.keyShift === 0 ? 'text-ink2 print:!invisible' : 'bg-ink px-0.5 text-ground'}`}
      >
        <NumberField
          label={`key shift of ${song.name} tonight`}
          value={entry.keyShift}
          min={-24}
          max={24}
          show={(shift) => shiftNote(shift) || '±0'}
          form="a number of semitones"
          className="mono w-full border-transparent text-center text-[13px]"
          onChange={(keyShift) => onEntry({ ...entry, keyShift })}
        />
      </span>
      <span
        title={`${noteText(song.tempoNote)} notes a minute, tonight`}
        className={`max-[1099px]:hidden print:!inline ${entry.bpm === null ? '' : 'bg-ink px-0.5 text-ground'}`}
      >
        <TempoField
          label={`tempo of ${song.name} tonight`}
          song={song}
          bpm={entry.bpm ?? own}
          className="w-full border-transparent text-[13px]"
          onChange={(bpm) => onEntry({ ...entry, bpm: Math.abs(bpm - own) < 1e-6 ? null : bpm })}
        />
      </span>
      <SongTapes entryId={entry.id} />
      <span className="no-print flex justify-end max-[699px]:hidden">
        <Link
          to={`/songs/${song.id}`}
          className="flex min-h-11 items-center px-2 text-[13px] max-[1099px]:px-1 text-ink2 underline decoration-dotted underline-offset-4 hover:text-ink"
        >
          sheet
        </Link>
        <button
          type="button"
          aria-pressed={entry.skip}
          onClick={() => onEntry({ ...entry, skip: !entry.skip })}
          className={`min-h-11 px-2 text-[13px] max-[1099px]:px-1 underline decoration-dotted underline-offset-4 hover:text-ink ${entry.skip ? 'font-bold text-ink' : 'text-ink2'}`}
        >
          skip<span className="sr-only"> {song.name} tonight</span>
        </button>
        {remove}
      </span>
      <span className="max-[699px]:hidden print:!inline">
        <NumberField
          label="length"
          value={song.durationSeconds}
          min={0}
          max={7200}
          step={5}
          show={minutesText}
          read={readMinutes}
          form="minutes : seconds"
          className="mono w-full border-transparent text-right"
          onChange={(durationSeconds) => onChange({ ...song, durationSeconds })}
        />
      </span>
      <span className="mono text-right text-ink2">{clockText(startsAt)}</span>
    </>
  );
}

/** The song's patches as tapes; each recalls its patch. */
function SongTapes({ entryId }: { entryId: EntryId }) {
  const goTo = useGoTo();
  const places = usePlacesOf(entryId);
  // Only rows that the set comes to or leaves are drawn again at a recall.
  const position = useApp(({ live }) => (live.place.entryId === entryId ? live.place.position : null));
  return (
    <span className="flex gap-[5px] overflow-hidden p-1 max-[1099px]:max-w-[118px] max-[699px]:max-w-24">
      {places
        .filter((place) => place.blend === null)
        .map((place) => (
          <button
            key={place.position}
            type="button"
            onClick={() => goTo(place)}
            title={place.patch.name}
            aria-label={`recall ${place.patch.name}`}
            className={`flex h-5 w-8 shrink-0 ${place.position === position ? 'outline-2 outline-offset-1 outline-live' : ''}`}
          >
            {tapesOf(place.song, place.patch.id).map((tape, i) => (
              <Tape key={i} tape={tape} className="flex-1" />
            ))}
          </button>
        ))}
    </span>
  );
}
