import { useMemo, useState } from 'react';
import { CUE_KINDS, type Cue, type CueKind } from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { Choice } from '../../ui/Choice';
import { DataTable, type TableColumn } from '../../ui/DataTable';
import { KindCell, NoteCell, PositionCell, RemoveCell, WhatCell } from './CueCells';
import { ValueCell } from './CueValueCell';
import { KIND_WORDS, cueWords } from './cueWords';
import { useTimeline } from './timelineContext';

const ROW_PX = 40;
const HEAD_PX = 700;

const COLUMNS: readonly TableColumn<Cue>[] = [
  { id: 'position', head: 'at (bar : beat + ticks)', width: 'w-44 max-[899px]:w-32', Cell: PositionCell },
  { id: 'kind', head: 'kind', width: 'w-24 max-[899px]:w-20', Cell: KindCell },
  { id: 'what', head: 'what', width: 'w-[26%]', Cell: WhatCell },
  { id: 'value', head: 'value', Cell: ValueCell },
  { id: 'note', head: 'note', width: 'w-[16%] max-[899px]:hidden', Cell: NoteCell },
  { id: 'remove', width: 'w-24 text-right', Cell: RemoveCell },
];
const idOf = (cue: Cue): string => cue.id;

/** The cues of a song, for exact typing: where each stands and what it does. */
export function CueTable({ selected }: { selected: ReadonlySet<string> }) {
  const { song, names, showTick } = useTimeline();
  const place = useApp(({ live }) => live.place);
  const [kind, setKind] = useState<CueKind | 'all'>('all');
  const [search, setSearch] = useState('');
  const kinds = useMemo(() => CUE_KINDS.filter((one) => song.cues.some((cue) => cue.kind === one)), [song.cues]);
  const shown = useMemo(() => {
    const words = search.trim().toLowerCase();
    return song.cues.filter((cue) => {
      if (kind !== 'all' && cue.kind !== kind) return false;
      if (words === '') return true;
      const { what, value } = cueWords(cue, names);
      return `${showTick(cue.atTick)} ${KIND_WORDS[cue.kind]} ${what} ${value} ${cue.note}`
        .toLowerCase()
        .includes(words);
    });
  }, [song.cues, kind, search, names, showTick]);
  const plays = (cue: Cue): boolean =>
    cue.kind === 'recall' && place.songId === song.id && place.patchId === cue.patchId && place.blendId === cue.blendId;
  return (
    <section aria-label="cues as a table" className="mt-2">
      {song.cues.length > 0 && (
        <p className="mb-1 flex items-center gap-4 text-ink2">
          <span>
            show{' '}
            <Choice
              label="kinds of cues that are shown"
              value={kind}
              items={[
                { value: 'all', label: 'every cue' },
                ...kinds.map((one) => ({ value: one, label: `${KIND_WORDS[one]} only` })),
              ]}
              onChange={(chosen) => setKind(chosen as CueKind | 'all')}
            />
          </span>
          <input
            type="search"
            aria-label="find a cue"
            placeholder="find a cue"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
            className="min-h-9 w-56 border-b border-rule bg-transparent"
          />
          {shown.length < song.cues.length && (
            <span>
              {shown.length} of {song.cues.length}
            </span>
          )}
        </p>
      )}
      <DataTable
        label="cues"
        columns={COLUMNS}
        rows={shown}
        keyOf={idOf}
        rowPx={ROW_PX}
        headPx={HEAD_PX}
        scrolls="page"
        rowProps={(cue) => ({
          className: `border-t border-rule ${plays(cue) ? 'bg-ground2' : ''} ${selected.has(cue.id) ? 'shadow-[inset_3px_0_0_var(--ink)]' : ''}`,
        })}
      />
    </section>
  );
}
