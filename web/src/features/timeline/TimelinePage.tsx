import { useCallback, useRef } from 'react';
import { Navigate, useParams } from 'react-router';
import { withCue, type CueId, type Song } from '@rackle/core/show';
import { formatPosition, parsePosition, tempoMapOf, type TempoMap } from '@rackle/core/timeline';
import { useApp, useHost, useEdit, useNumbers, usePlaces, useSong } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { madeNow } from '../../ui/newRow';
import { Tape } from '../../ui/Tape';
import { tapesOf } from '../../state/tapes';
import { CueTable, cueTargets } from './CueTable';
import { MapLines, TempoAndMeter } from './MapLines';
import { MapTables } from './MapTables';

/** A song's cues at their bars, and the playhead that passes them. */
export function TimelinePage() {
  const { songId } = useParams();
  const live = useApp(({ live: state }) => state.place.songId);
  const places = usePlaces();
  const song = useSong(songId);
  const first = live ?? places[0]?.song.id;
  if (!songId)
    return first ? (
      <Navigate to={`/timeline/${first}`} replace />
    ) : (
      <p className="p-6 text-lg text-ink2">No songs yet. Add one in the setlist first.</p>
    );
  if (!song) return <p className="p-6 text-lg">This song is not there any more.</p>;
  return <Timeline key={song.id} song={song} />;
}

function Timeline({ song }: { song: Song }) {
  const host = useHost();
  const edit = useEdit();
  const numberOf = useNumbers();
  const places = usePlaces();
  const place = useApp(({ live }) => live.place);
  const transport = useApp(({ live }) => live.transport);
  const here = place.songId === song.id;
  const tick = here ? transport.tick : 0;
  const playing = here && transport.playing;
  const map = tempoMapOf(song.map);
  const { endTick } = map;
  const change = (label: string, next: Song, mergeKey?: string): void => edit({ label, songs: [next], mergeKey });
  const targets = cueTargets(song);
  const nameOf = (patchId: string, blendId: string | null): string =>
    targets.find(({ patch, blend }) => patch.id === patchId && (blend?.id ?? null) === blendId)?.label ??
    'patch is missing';
  const stand = (): void => {
    const place = places.find((candidate) => candidate.song.id === song.id);
    if (place) host.post({ type: 'recall', position: place.position });
  };
  const share = (at: number): string => `${Math.min(100, (at / endTick) * 100)}%`;
  const readTick = useCallback((text: string): number | null => parsePosition(text, map), [map]);
  const showTick = useCallback((at: number): string => formatPosition(map.positionAt(at)), [map]);
  const { bars } = song.map;
  const step = Math.max(1, Math.ceil(bars / 12 / 4) * 4);
  return (
    <div className="px-4 pb-6">
      <div className="flex items-end gap-4 py-3">
        <h1 className="named text-4xl leading-tight">{song.name}</h1>
        <p className="pb-1 text-ink2">
          <NumberField
            label="bars"
            value={bars}
            min={song.map.meters[song.map.meters.length - 1].bar}
            max={10_000}
            className="mono"
            unit=" bars"
            onChange={(to) => change('change the bars', { ...song, map: { ...song.map, bars: to } })}
          />{' '}
          · <TempoAndMeter song={song} /> · {song.cues.length} cue{song.cues.length === 1 ? '' : 's'}
        </p>
        <span className="ml-auto flex items-center gap-2">
          {!here && <Button onClick={stand}>Stand in this song</Button>}
          <span className="text-ink2">
            at{' '}
            <NumberField
              label="position"
              value={tick}
              min={0}
              max={endTick - 1}
              show={showTick}
              read={readTick}
              form="bar : beat + ticks"
              className="mono text-ink"
              onChange={(to) => host.post({ type: 'locate', tick: to })}
            />
          </span>
          <Button disabled={!here} onClick={() => host.post({ type: 'locate', tick: 0 })}>
            To the start
          </Button>
          <Button
            look={playing ? 'filled' : 'framed'}
            disabled={!here}
            onClick={() => host.post({ type: 'perform', action: playing ? 'stop' : 'play' })}
          >
            {playing ? 'Stop' : 'Play'}
          </Button>
          <CueHere song={song} tick={tick} onChange={change} />
        </span>
      </div>
      <div
        className="relative h-52 border-y border-ink"
        role="img"
        aria-label={`bars 1 to ${bars} with ${song.cues.length} cues`}
        onPointerDown={(event) => {
          if (!here || (event.target as Element).closest('[data-cue]')) return;
          const { left, width } = event.currentTarget.getBoundingClientRect();
          host.post({ type: 'locate', tick: nearestBarTick(map, ((event.clientX - left) / width) * endTick) });
        }}
      >
        {Array.from({ length: Math.ceil(bars / step) }, (_, i) => 1 + i * step).map((bar) => (
          <span
            key={bar}
            className="mono absolute inset-y-0 border-l border-rule pl-1 text-[11px] text-ink2"
            style={{ left: share(map.barTick(bar)) }}
          >
            {bar}
          </span>
        ))}
        <MapLines song={song} />
        {song.cues.map((cue, i) => {
          const [tape] = tapesOf(song, cue.patchId);
          return (
            <span
              key={cue.id}
              data-cue
              className="absolute top-7 border-l-2 border-ink"
              style={{ left: share(cue.atTick), height: 22 + (i % 4) * 34 }}
            >
              <Tape
                tape={tape ?? 'bone'}
                className="named absolute bottom-0 left-0 flex h-7 max-w-44 items-center gap-2 truncate whitespace-nowrap px-2"
              >
                <span className="mono text-xs">{numberOf(song.id, cue.patchId, cue.blendId) ?? '·'}</span>
                {nameOf(cue.patchId, cue.blendId)}
              </Tape>
            </span>
          );
        })}
        <span className="absolute inset-y-0 w-0.5 bg-live" style={{ left: share(tick) }}>
          <span
            className={`mono absolute top-0 whitespace-nowrap bg-[#bd3212] px-1 text-[11px] text-white ${tick / endTick > 0.85 ? 'right-0' : 'left-0'}`}
          >
            {showTick(tick)}
          </span>
        </span>
      </div>
      <MapTables song={song} tick={tick} showTick={showTick} readTick={readTick} onChange={change} />
      <div className="mt-4">
        <CueTable song={song} showTick={showTick} readTick={readTick} onChange={change} />
      </div>
      {song.cues.length === 0 && (
        <p className="mt-3 text-ink2">
          No cues yet. Go to a bar, press “Cue here”, and choose the patch that belongs there.
        </p>
      )}
    </div>
  );
}

/** The start of the bar that is nearest to a tick. */
function nearestBarTick(map: TempoMap, tick: number): number {
  const { bar } = map.positionAt(Math.max(0, tick));
  const [from, to] = [map.barTick(bar), map.barTick(bar + 1)];
  return tick - from < to - tick || to >= map.endTick ? from : to;
}

/** Asks what belongs where the playhead stands; the answer may take its time while it moves on. */
function CueHere({
  song,
  tick,
  onChange,
}: {
  song: Song;
  tick: number;
  onChange: (label: string, next: Song) => void;
}) {
  const askedAt = useRef(0);
  const targets = cueTargets(song);
  if (targets.length === 0) return null;
  const add = (key: string): void => {
    const target = targets.find((candidate) => candidate.key === key);
    if (!target) return;
    const id = newId<CueId>('cue');
    madeNow(id);
    onChange('add a cue', withCue(song, id, askedAt.current, target.patch.id, target.blend?.id ?? null));
  };
  return (
    <Choice
      label="cue here: what belongs here"
      value=""
      unchosen="Cue here …"
      look="verb"
      items={targets.map(({ key, label }) => ({ value: key, label }))}
      onOpen={() => (askedAt.current = tick)}
      onChange={add}
    />
  );
}
