import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { Instrument, programText, type InstrumentId } from '@rackle/core';
import { useApp, useEdit, useGear, useSetlist } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { TapeLetter, letterOf } from '../../ui/Tape';
import { allSounds, indexSounds, type FoundSound } from './soundIndex';
import { useAudition } from './useAudition';

const ROW_PX = 34;
const MOST_HITS = 2000;
const EVERY = 'every';

/** One field over every preset: type, go through the hits by the arrow keys and hear each at once, keep one by Enter. */
export function SoundsPage() {
  const instruments = useApp(({ show }) => show.working.instruments);
  const setlist = useSetlist();
  const [query, setQuery] = useState('');
  const [kind, setKind] = useState('');
  const [instrumentId, setInstrumentId] = useState('');
  const [at, setAt] = useState(-1);
  const [layerId, setLayerId] = useState<string | null>(null);
  const audition = useAudition(layerId);
  const sounds = useMemo(() => allSounds(Object.values(instruments)), [instruments]);
  const index = useMemo(() => indexSounds(sounds), [sounds]);
  const { hits, total } = useMemo(() => index.find(query, { kind, instrumentId }, MOST_HITS), [index, query, kind, instrumentId]);
  const box = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({ count: hits.length, getScrollElement: () => box.current, estimateSize: () => ROW_PX, overscan: 10 });
  const own = audition ? sounds.find(({ sound }) => sound.instrumentId === audition.layer.sound.instrumentId && sound.presetId === audition.layer.sound.presetId) ?? null : null;
  const go = (next: number): void => {
    const to = Math.max(0, Math.min(hits.length - 1, next));
    if (hits.length === 0) return;
    setAt(to);
    rows.scrollToIndex(to);
    audition?.hear(hits[to].sound);
  };
  const restore = (): void => {
    setAt(-1);
    audition?.restore();
  };
  const keep = (hit: FoundSound | undefined): void => {
    if (!hit) return;
    audition?.keep(hit.sound);
    setAt(-1);
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
    } else if (event.key === 'Enter') keep(hits[at]);
    else if (event.key === 'Escape') {
      event.stopPropagation();
      restore();
    }
  };
  return (
    <div className="flex h-full min-h-0">
      <div className="flex min-w-0 flex-1 flex-col px-4">
        <div className="flex items-end gap-4 border-b border-ink pb-2 pt-3">
          <h1 className="named text-4xl">Sounds</h1>
          <input
            autoFocus type="text" role="combobox" aria-expanded aria-controls="hits" aria-activedescendant={at >= 0 ? `hit-${at}` : undefined} aria-label="find a sound" placeholder="a name, an instrument, a folder" value={query}
            onChange={(event) => filter(() => setQuery(event.target.value))} onKeyDown={onKeyDown}
            className="min-w-0 flex-1 border-b border-ink bg-transparent pb-1 text-xl [field-sizing:fixed] focus:outline-none"
          />
          <span className="whitespace-nowrap pb-1 text-ink2">
            <Choice label="kind of instrument" value={kind || EVERY} groups={[{ name: '', items: [{ value: EVERY, label: 'of every kind' }, { value: 'built-in', label: 'built-in' }, { value: 'outboard', label: 'outboard' }] }]} onChange={(value) => filter(() => setKind(value === EVERY ? '' : value))} />
            , <Choice label="instrument" value={instrumentId || EVERY} groups={[{ name: '', items: [{ value: EVERY, label: 'of every instrument' }, ...[...new Map(sounds.map((sound) => [sound.instrumentId, sound.instrument]))].map(([value, label]) => ({ value, label }))] }]} onChange={(value) => filter(() => setInstrumentId(value === EVERY ? '' : value))} />
          </span>
        </div>
        <p className="py-1 text-[13px] text-ink2" role="status"><span data-testid="hit-count">{total} sound{total === 1 ? '' : 's'}</span>{total > MOST_HITS ? `, the first ${MOST_HITS} shown` : ''} · ↑ ↓ hear, Enter keeps, Esc brings back</p>
        <div ref={box} className="min-h-0 flex-1 overflow-y-auto">
          <div id="hits" role="listbox" aria-label="sounds" className="relative" style={{ height: rows.getTotalSize() }}>
            {rows.getVirtualItems().map((row) => {
              const hit = hits[row.index];
              return (
                <div
                  key={hit.id} id={`hit-${row.index}`} role="option" aria-selected={row.index === at} onClick={() => go(row.index)} onDoubleClick={() => keep(hit)}
                  className={`absolute inset-x-0 flex cursor-pointer items-baseline gap-3 border-b border-rule px-1 ${row.index === at ? 'bg-ink text-ground' : own?.id === hit.id ? 'bg-ground2' : ''}`} style={{ height: ROW_PX, transform: `translateY(${row.start}px)` }}
                >
                  <span className="named w-72 shrink-0 truncate text-lg leading-8">{hit.name}</span><span className="w-40 shrink-0 truncate">{hit.instrument}</span>
                  <span className={`min-w-0 flex-1 truncate text-[13px] ${row.index === at ? '' : 'text-ink2'}`}>{hit.about}</span>
                  <span className="mono shrink-0 text-xs">{hit.address ? programText({ msb: hit.address.msb ?? 0, lsb: hit.address.lsb ?? 0, program: hit.address.program }, setlist?.programsFrom ?? 1) : ''}</span>
                </div>
              );
            })}
          </div>
          {hits.length === 0 && <p className="py-6 text-lg text-ink2">Nothing is called that. Try fewer letters.</p>}
        </div>
      </div>
      <aside className="w-72 shrink-0 overflow-y-auto border-l border-ink px-4 py-3">
        <h2 className="text-[13px] font-bold text-ink2">heard in the place of</h2>
        {audition ? (
          <>
            <p className="named mt-1 text-xl">{audition.song.name}</p>
            <ul>
              {audition.song.layers.map((layer, i) => (
                <li key={layer.id}><button type="button" aria-pressed={layer.id === audition.layer.id} onClick={() => { restore(); setLayerId(layer.id); }} className={`flex min-h-9 w-full items-center gap-2 px-1 text-left ${layer.id === audition.layer.id ? 'bg-ground2 font-bold' : 'hover:bg-ground2'}`}><TapeLetter tape={layer.tape} letter={letterOf(i)} /><span className="min-w-0 truncate">{layer.name}</span></button></li>
              ))}
            </ul>
            <p className="mt-2 text-[13px] text-ink2">Zone, shift, level and effects stay the layer’s. It is {own ? <>now <b className="text-ink">{own.name}</b>, {own.instrument}</> : 'without a sound'}.</p>
          </>
        ) : <p className="mt-1">No song is played, so nothing can be heard yet. Recall a patch in the strip above.</p>}
        <Outboard />
      </aside>
    </div>
  );
}

/** Outboard instruments, each with a page for its name list. */
function Outboard() {
  const instruments = Object.values(useApp(({ show }) => show.working.instruments));
  const gear = useGear();
  const edit = useEdit();
  const navigate = useNavigate();
  const add = (): void => {
    const output = gear?.ports.find((port) => port.direction === 'out');
    const made = Instrument.parse({ kind: 'outboard', id: newId<InstrumentId>('instrument'), name: 'New instrument', port: output?.alias ?? 'Out', channel: 1 });
    edit({ label: 'add an outboard instrument', instruments: [made] });
    void navigate(`/sounds/${made.id}`);
  };
  return (
    <>
      <h2 className="mt-6 text-[13px] font-bold text-ink2">outboard instruments</h2>
      <ul>{instruments.map((instrument) => <li key={instrument.id}><Link to={`/sounds/${instrument.id}`} className="flex min-h-9 items-center gap-2 border-b border-rule hover:bg-ground2"><span className="named text-lg">{instrument.name}</span><span className="ml-auto text-[13px] text-ink2">{instrument.names.length} names</span></Link></li>)}</ul>
      <p className="mt-2"><Button onClick={add}>Add one</Button></p>
    </>
  );
}
