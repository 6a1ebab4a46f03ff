import { useVirtualizer } from '@tanstack/react-virtual';
import { Star } from 'lucide-react';
import { useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { programText } from '@rackle/core/programs';
import {
  BUILT_INS,
  Instrument,
  songFromItem,
  withPatchFrom,
  type BlendId,
  type InstrumentId,
  type LayerId,
  type PatchId,
  type SongId,
} from '@rackle/core/show';
import { useApp, useEdit, useGear, useSetlist } from '../../state/hooks';
import { newId } from '../../state/ids';
import { useStartSong } from '../../state/useStartSong';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { TapeLetter, letterOf } from '../../ui/Tape';
import { Categories } from './Categories';
import { allSounds, indexSounds, soundKey, type FoundSound, type SoundKind } from './soundIndex';
import { useAudition } from './useAudition';
import { useBringIn } from './useBringIn';
import { useShelf } from './useShelf';

const ROW_PX = 34;
const MOST_HITS = 2000;
const EVERY = 'every';
const KINDS: Record<SoundKind, string> = {
  'built-in': 'built-in',
  own: 'my own',
  bank: 'banks',
  recordings: 'recordings',
  outboard: 'outboard',
  library: 'library',
};

/**
 * One field over everything that sounds: type, go through the hits by the arrow keys and hear each at once, keep one by
 * Enter.
 */
export function SoundsPage() {
  const instruments = useApp(({ show }) => show.working.instruments);
  const library = useApp(({ show }) => show.working.libraryItems);
  const setlist = useSetlist();
  const edit = useEdit();
  const shelf = useShelf();
  const startSong = useStartSong();
  const { running, take, breakOff } = useBringIn();
  const [query, setQuery] = useState('');
  const [kind, setKind] = useState('');
  const [instrumentId, setInstrumentId] = useState('');
  const [shown, setShown] = useState(EVERY);
  const [at, setAt] = useState(-1);
  const [layerId, setLayerId] = useState<string | null>(null);
  const navigate = useNavigate();
  // A song sheet that asks for the sound of a layer is gone back to once one is kept.
  const asked = useLocation().state as { songId: string; layerId: string } | null;
  const audition = useAudition(layerId ?? asked?.layerId ?? null, asked?.songId ?? null);
  const sounds = useMemo(() => allSounds(Object.values(instruments), Object.values(library)), [instruments, library]);
  const index = useMemo(() => indexSounds(sounds), [sounds]);
  const among = useMemo(
    () =>
      shown === EVERY
        ? null
        : shown === 'starred'
          ? shelf.stars
          : shown === 'recent'
            ? new Set(shelf.recent)
            : (shelf.categories.find(({ name }) => `in ${name}` === shown)?.sounds ?? new Set<string>()),
    [shown, shelf],
  );
  const { hits, total } = useMemo(
    () => index.find(query, { kind, instrumentId, among }, MOST_HITS),
    [index, query, kind, instrumentId, among],
  );
  const box = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: hits.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_PX,
    overscan: 10,
  });
  const own = audition
    ? (sounds.find(({ sound }) => sound !== null && soundKey(sound) === soundKey(audition.layer.sound)) ?? null)
    : null;
  const chosen = hits[at] ?? null;
  const go = (next: number): void => {
    const to = Math.max(0, Math.min(hits.length - 1, next));
    if (hits.length === 0) return;
    setAt(to);
    rows.scrollToIndex(to);
    const { sound } = hits[to];
    if (sound) audition?.hear(sound);
    else audition?.restore();
  };
  const restore = (): void => {
    setAt(-1);
    audition?.restore();
  };
  const takeItem = (itemId: string): void => {
    const item = library[itemId];
    if (item?.kind === 'song')
      return startSong(songFromItem(item, newId<SongId>('song')), `start a song from ${item.name}`);
    if (!item || !audition) return;
    const position = audition.song.patches.findIndex((patch) => patch.id === audition.patchId);
    const mint = {
      layer: () => newId<LayerId>('layer'),
      patch: () => newId<PatchId>('patch'),
      blend: () => newId<BlendId>('blend'),
    };
    edit({
      label: `start a patch from ${item.name}`,
      songs: [withPatchFrom(audition.song, item, position, mint, item.id).song],
    });
    toast(`A copy of “${item.name}” stands behind the present patch of ${audition.song.name}.`);
  };
  const keep = (hit: FoundSound | null): void => {
    if (!hit) return;
    if (hit.itemId !== null) takeItem(hit.itemId);
    else if (hit.sound) audition?.keep(hit.sound, shelf.withUsed(hit.sound));
    setAt(-1);
    if (asked && hit.sound) void navigate(`/songs/${asked.songId}`);
  };
  const filter = (change: () => void): void => {
    change();
    restore();
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const steps: Record<string, number> = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 };
    if (event.key in steps) {
      event.preventDefault();
      go(at + steps[event.key]);
    } else if (event.key === 'Enter') keep(chosen);
    else if (event.key === '*' && chosen?.sound) {
      event.preventDefault();
      shelf.toggleStar(chosen.sound);
    } else if (event.key === 'Escape') {
      event.stopPropagation();
      restore();
    }
  };
  return (
    <div
      className="flex h-full min-h-0"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        if (event.dataTransfer.files.length > 0) take([...event.dataTransfer.files]);
      }}
    >
      <div className="flex min-w-0 flex-1 flex-col px-4">
        <div className="flex items-end gap-4 border-b border-ink pb-2 pt-3">
          <h1 className="named text-4xl">Sounds</h1>
          <input
            autoFocus
            type="text"
            role="combobox"
            aria-expanded
            aria-controls="hits"
            aria-activedescendant={at >= 0 ? `hit-${at}` : undefined}
            aria-label="find a sound"
            placeholder="a name, an instrument, a folder"
            value={query}
            onChange={(event) => filter(() => setQuery(event.target.value))}
            onKeyDown={onKeyDown}
            className="min-w-0 flex-1 border-b border-ink bg-transparent pb-1 text-xl [field-sizing:fixed] focus:outline-none"
          />
        </div>
        <p className="flex flex-wrap gap-x-3 py-1 text-[13px] text-ink2">
          <span role="status">
            <span data-testid="hit-count">
              {total} sound{total === 1 ? '' : 's'}
            </span>
            {total > MOST_HITS ? `, the first ${MOST_HITS} shown` : ''}
          </span>
          <span>
            <Choice
              label="kind of instrument"
              value={kind || EVERY}
              groups={[
                {
                  name: '',
                  items: [
                    { value: EVERY, label: 'of every kind' },
                    ...Object.entries(KINDS).map(([value, label]) => ({ value, label })),
                  ],
                },
              ]}
              onChange={(value) => filter(() => setKind(value === EVERY ? '' : value))}
            />
            ,{' '}
            <Choice
              label="instrument"
              value={instrumentId || EVERY}
              groups={[
                {
                  name: '',
                  items: [
                    { value: EVERY, label: 'of every instrument' },
                    ...[...new Map(sounds.map((sound) => [sound.instrumentId, sound.instrument]))].map(
                      ([value, label]) => ({ value, label }),
                    ),
                  ],
                },
              ]}
              onChange={(value) => filter(() => setInstrumentId(value === EVERY ? '' : value))}
            />
            ,{' '}
            <Choice
              label="which of them"
              value={shown}
              groups={[
                {
                  name: '',
                  items: [
                    { value: EVERY, label: 'all of them' },
                    { value: 'starred', label: `starred (${shelf.stars.size})` },
                    { value: 'recent', label: `used last (${shelf.recent.length})` },
                  ],
                },
                {
                  name: 'my categories',
                  items: shelf.categories.map(({ name, sounds: sorted }) => ({
                    value: `in ${name}`,
                    label: `${name} (${sorted.size})`,
                  })),
                },
              ].filter(({ items }) => items.length > 0)}
              onChange={(value) => filter(() => setShown(value))}
            />
          </span>
          <span className="ml-auto">↑ ↓ hear, Enter keeps, * stars, Esc brings back</span>
        </p>
        <div ref={box} className="min-h-0 flex-1 overflow-y-auto">
          <div
            id="hits"
            role="listbox"
            aria-label="sounds"
            className="relative"
            style={{ height: rows.getTotalSize() }}
          >
            {rows.getVirtualItems().map((row) => {
              const hit = hits[row.index];
              const isStarred = hit.sound !== null && shelf.stars.has(soundKey(hit.sound));
              return (
                <div
                  key={hit.id}
                  id={`hit-${row.index}`}
                  role="option"
                  aria-selected={row.index === at}
                  onClick={() => go(row.index)}
                  onDoubleClick={() => keep(hit)}
                  className={`absolute inset-x-0 flex cursor-pointer items-baseline gap-3 border-b border-rule px-1 ${row.index === at ? 'bg-ink text-ground' : own?.id === hit.id ? 'bg-ground2' : ''}`}
                  style={{ height: ROW_PX, transform: `translateY(${row.start}px)` }}
                >
                  {hit.sound ? (
                    <button
                      type="button"
                      tabIndex={-1}
                      aria-pressed={isStarred}
                      aria-label={`star ${hit.name}`}
                      onClick={(event) => {
                        event.stopPropagation();
                        shelf.toggleStar(hit.sound!);
                      }}
                      className="w-6 shrink-0 self-center"
                    >
                      <Star
                        size={15}
                        fill={isStarred ? 'currentColor' : 'none'}
                        className={isStarred ? '' : 'opacity-30'}
                      />
                    </button>
                  ) : (
                    <span className="w-6 shrink-0" />
                  )}
                  <span className="named w-72 shrink-0 truncate text-lg leading-8">{hit.name}</span>
                  <span className="w-40 shrink-0 truncate">{hit.instrument}</span>
                  <span className={`min-w-0 flex-1 truncate text-[13px] ${row.index === at ? '' : 'text-ink2'}`}>
                    {hit.about}
                  </span>
                  <span className="mono shrink-0 text-xs">
                    {hit.address
                      ? programText(
                          { msb: hit.address.msb ?? 0, lsb: hit.address.lsb ?? 0, program: hit.address.program },
                          setlist?.programsFrom ?? 1,
                        )
                      : ''}
                  </span>
                </div>
              );
            })}
          </div>
          {hits.length === 0 && (
            <p className="py-6 text-lg text-ink2">
              {shown === 'starred'
                ? 'No stars yet. Go to a sound and press *.'
                : shown === EVERY
                  ? 'Nothing is called that. Try fewer letters.'
                  : 'Nothing here yet.'}
            </p>
          )}
        </div>
      </div>
      <aside className="w-72 shrink-0 overflow-y-auto border-l border-ink px-4 py-3">
        <h2 className="text-[13px] font-bold text-ink2">heard in the place of</h2>
        {audition ? (
          <>
            <p className="named mt-1 text-xl">{audition.song.name}</p>
            <ul>
              {audition.song.layers.map((layer, i) => (
                <li key={layer.id}>
                  <button
                    type="button"
                    aria-pressed={layer.id === audition.layer.id}
                    onClick={() => {
                      restore();
                      setLayerId(layer.id);
                    }}
                    className={`flex min-h-9 w-full items-center gap-2 px-1 text-left ${layer.id === audition.layer.id ? 'bg-ground2 font-bold' : 'hover:bg-ground2'}`}
                  >
                    <TapeLetter tape={layer.tape} letter={letterOf(i)} />
                    <span className="min-w-0 truncate">{layer.name}</span>
                  </button>
                </li>
              ))}
            </ul>
            {!audition.isPlayed && (
              <p className="mt-1 text-[13px]">
                This song is not played now, so nothing is heard; what is kept is kept.
              </p>
            )}
            <p className="mt-2 text-[13px] text-ink2">
              Zone, shift, level and effects stay the layer’s. It is{' '}
              {own ? (
                <>
                  now <b className="text-ink">{own.name}</b>, {own.instrument}
                </>
              ) : (
                'without a sound'
              )}
              .
            </p>
          </>
        ) : (
          <p className="mt-1">No song is played, so nothing can be heard yet. Recall a patch in the strip above.</p>
        )}
        <Categories shelf={shelf} chosen={chosen?.sound ? { name: chosen.name, sound: chosen.sound } : null} />
        <Instruments running={running} onFiles={take} onBreakOff={breakOff} />
      </aside>
    </div>
  );
}

interface FilesProps {
  running: { name: string; share: number } | null;
  onFiles: (files: readonly File[]) => void;
  onBreakOff: () => void;
}

/** Every instrument with a page of its own, and the ways to bring in more. */
function Instruments({ running, onFiles, onBreakOff }: FilesProps) {
  const stored = Object.values(useApp(({ show }) => show.working.instruments)).filter(
    (instrument) => instrument.kind !== 'own',
  );
  const own = useApp(({ show }) => show.working.instruments);
  const gear = useGear();
  const edit = useEdit();
  const navigate = useNavigate();
  const picker = useRef<HTMLInputElement>(null);
  const add = (): void => {
    const output = gear?.ports.find((port) => port.direction === 'out');
    const made = Instrument.parse({
      kind: 'outboard',
      id: newId<InstrumentId>('instrument'),
      name: 'New instrument',
      port: output?.alias ?? 'Out',
      channel: 1,
    });
    edit({ label: 'add an outboard instrument', instruments: [made] });
    void navigate(`/sounds/${made.id}`);
  };
  const count = (instrument: Instrument): string =>
    instrument.kind === 'outboard'
      ? `${instrument.names.length} names`
      : instrument.kind === 'bank'
        ? `bank, ${instrument.presets.length}`
        : `recordings, ${instrument.presets.length}`;
  return (
    <>
      <h2 className="mt-6 text-[13px] font-bold text-ink2">instruments</h2>
      <ul>
        {stored.map((instrument) => (
          <Row key={instrument.id} id={instrument.id} name={instrument.name} note={count(instrument)} />
        ))}
      </ul>
      {running ? (
        <div className="mt-2">
          <p role="status" className="truncate text-[13px]">
            reading {running.name}
          </p>
          <div
            role="progressbar"
            aria-label={`reading ${running.name}`}
            aria-valuenow={Math.round(running.share * 100)}
            aria-valuemin={0}
            aria-valuemax={100}
            className="h-1.5 bg-ground2"
          >
            <div className="h-full bg-ink" style={{ width: `${running.share * 100}%` }} />
          </div>
          <Button look="plain" onClick={onBreakOff}>
            break off
          </Button>
        </div>
      ) : (
        <p className="mt-2 flex flex-wrap gap-2">
          <input
            ref={picker}
            type="file"
            multiple
            accept=".sf2,.sf3,audio/*,.wav"
            aria-label="banks and recordings from this machine"
            className="hidden"
            onChange={(event) => {
              onFiles([...(event.target.files ?? [])]);
              event.target.value = '';
            }}
          />
          <Button onClick={() => picker.current?.click()}>Bring in a bank or a recording</Button>
          <Button onClick={add}>Add outboard gear</Button>
        </p>
      )}
      <p className="mt-1 text-[13px] text-ink2">
        SoundFont 2 banks (.sf2, .sf3) and sound files can be dropped anywhere on this page.
      </p>
      <ul className="mt-3">
        {BUILT_INS.map((instrument) => {
          const made = own[`own-${instrument.id}`];
          return (
            <Row
              key={instrument.id}
              id={instrument.id}
              name={instrument.name}
              note={`${instrument.about}${made?.kind === 'own' && made.presets.length > 0 ? `, ${made.presets.length} mine` : ''}`}
            />
          );
        })}
      </ul>
    </>
  );
}

const Row = ({ id, name, note }: { id: string; name: string; note: string }) => (
  <li>
    <Link to={`/sounds/${id}`} className="flex min-h-9 items-center gap-2 border-b border-rule hover:bg-ground2">
      <span className="named shrink-0 truncate text-lg">{name}</span>
      <span className="ml-auto min-w-0 truncate text-[13px] text-ink2">{note}</span>
    </Link>
  </li>
);
