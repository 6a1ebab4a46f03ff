import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Navigate, useParams } from 'react-router';
import { useStore } from 'react-redux';
import { Tabs } from 'radix-ui';
import { keyName, parseKeyName } from '@rackle/core/midi';
import { Cue, songIn, withCue, type CueId, type SetlistEntry, type Song } from '@rackle/core/show';
import {
  formatPosition,
  leadsOf,
  parsePosition,
  tempoMapOfSong,
  usualNotes,
  withEqualMaps,
} from '@rackle/core/timeline';
import { useApp, useEdit, useHost, useNumbers, usePlaces, useSetlist, useSong } from '../../state/hooks';
import { newId } from '../../state/ids';
import type { RootState } from '../../state/store';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { counted } from '../../ui/format';
import { useLatest } from '../../ui/useLatest';
import { countedTempo } from '../tempo';
import { useMidiFileIn, type MidiFileIn } from '../midi-file';
import { BackingTable } from './BackingTable';
import { Chart } from './Chart';
import { ChartTools } from './ChartTools';
import { CueHere } from './CueHere';
import { CueTable } from './CueTable';
import { cueTargets, targetKey } from './cueTargets';
import type { CueNames } from './cueWords';
import { FiresTwice } from './FiresTwice';
import { TempoAndMeter } from './MapLines';
import { LeadTable } from './LeadTable';
import { MapTables } from './MapTables';
import { Proposals } from './proposal';
import { SectionTable } from './SectionTable';
import { TimelineContext, useTimeline, type TimelineNow } from './timelineContext';
import { useCalls } from './useCalls';
import { useChartView } from './useChartView';
import { useCueHands } from './useCueHands';

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

/** Names of what the song's cues point at; the same while none of them changes. */
function useCueNames(song: Song): CueNames {
  const numberOf = useNumbers();
  const instruments = useApp(({ show }) => show.working.instruments);
  const setlist = useSetlist();
  const middleC = setlist?.middleC ?? 'C4';
  const programsFrom = setlist?.programsFrom ?? 1;
  const { id, patches, layers } = song;
  return useMemo(() => {
    const targets = new Map(cueTargets({ patches } as Song).map(({ key, label }) => [key, label]));
    const nameOf = (instrumentId: string, presetId: string): string | undefined => {
      const instrument = instruments[instrumentId];
      return instrument?.kind === 'outboard' ? instrument.names.find((one) => one.id === presetId)?.name : undefined;
    };
    return {
      target: (patchId, blendId) => targets.get(targetKey(patchId, blendId)) ?? 'patch is missing',
      number: (patchId, blendId) => numberOf(id, patchId, blendId) ?? '·',
      instrument: (instrumentId) => instruments[instrumentId]?.name ?? 'instrument is missing',
      preset: (instrumentId, presetId) => nameOf(instrumentId, presetId) ?? 'preset is missing',
      layer: (layerId) => layers.find((layer) => layer.id === layerId)?.name ?? 'layer is missing',
      key: (key) => keyName(key, middleC),
      readKey: (text) => parseKeyName(text, middleC),
      programsFrom,
    };
  }, [id, patches, layers, instruments, numberOf, middleC, programsFrom]);
}

function useTimelineNow(song: Song, showCues: () => void): TimelineNow {
  const edit = useEdit();
  const store = useStore<RootState>();
  const names = useCueNames(song);
  const here = useApp(({ live }) => live.place.songId === song.id);
  const map = tempoMapOfSong(song);
  const change = useLatest((label: string, next: Song, mergeKey?: string) =>
    edit({ label, songs: [withEqualMaps(song, next)], mergeKey }),
  );
  const readTick = useCallback((text: string): number | null => parsePosition(text, map), [map]);
  const showTick = useCallback((at: number): string => formatPosition(map.positionAt(at)), [map]);
  const tickNow = useCallback((): number => {
    const { live } = store.getState();
    return live.place.songId === song.id ? Math.min(live.transport.tick, map.endTick - 1) : 0;
  }, [store, song.id, map]);
  const instruments = useApp(({ show }) => show.working.instruments);
  const runs = useApp(({ live }) => live.played[song.id]);
  const setlist = useSetlist();
  const entryId = useApp(({ live }) => live.place.entryId);
  // How long gear takes does not change with the tempo: how many notes come before it is there goes by tonight's.
  const leads = useMemo(
    () =>
      leadsOf(
        setlist === null ? song : songIn(setlist, song, entryId),
        Object.values(instruments),
        usualNotes(runs ?? []),
      ),
    [setlist, song, entryId, instruments, runs],
  );
  return useMemo(
    () => ({ song, map, names, here, leads, change, showTick, readTick, tickNow, showCues }),
    [song, map, names, here, leads, change, showTick, readTick, tickNow, showCues],
  );
}

function Timeline({ song }: { song: Song }) {
  const [part, setPart] = useState('cues');
  const showCues = useCallback(() => setPart('cues'), []);
  const now = useTimelineNow(song, showCues);
  const [view, box] = useChartView();
  const hands = useCueHands(now, box);
  const midiIn = useMidiFileIn(song);
  const calls = useCalls(song, now.here);
  return (
    <TimelineContext value={now}>
      <div className="px-4 pb-6" {...midiIn.drop}>
        <Heading />
        <FiresTwice calls={calls} />
        <Proposals>
          <Chart hands={hands} view={view} box={box} calls={calls} />
          <ChartTools hands={hands} view={view} />
          <Lower selected={hands.selected} midiIn={midiIn} part={part} onPart={setPart} />
        </Proposals>
        {midiIn.preview}
      </div>
    </TimelineContext>
  );
}

/** The same as text, for exact typing: cues, sections, backing parts, tempo and meter. */
function Lower({
  selected,
  midiIn,
  part,
  onPart,
}: {
  selected: ReadonlySet<string>;
  midiIn: MidiFileIn;
  part: string;
  onPart: (part: string) => void;
}) {
  const { song, leads } = useTimeline();
  const { tempos, meters } = song.map;
  const late = leads.filter(({ lateNotes }) => lateNotes > 0).length;
  const parts = [
    { id: 'cues', name: counted(song.cues.length, 'cue') },
    { id: 'sections', name: counted(song.sections.length, 'section') },
    { id: 'backing', name: counted(song.backing.length, 'backing part') },
    ...(leads.length > 0 ? [{ id: 'lead', name: late > 0 ? `lead, ${late} late` : 'lead' }] : []),
    { id: 'map', name: `${counted(tempos.length, 'tempo')}, ${counted(meters.length, 'meter')}` },
  ];
  return (
    <Tabs.Root value={part} onValueChange={onPart} className="mt-2">
      <Tabs.List aria-label="what is typed" className="flex gap-6 border-b border-rule">
        {parts.map(({ id, name }) => (
          <Tabs.Trigger
            key={id}
            value={id}
            className="min-h-9 border-b-3 border-transparent font-bold text-ink2 data-[state=active]:border-ink data-[state=active]:text-ink"
          >
            {name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value="cues">
        <CueTable selected={selected} />
        {song.cues.length === 0 && (
          <p className="mt-3 text-ink2">
            No cues yet. Go to a bar, press “Cue here”, and choose the patch that belongs there.
          </p>
        )}
      </Tabs.Content>
      <Tabs.Content value="sections" className="pt-2">
        <Sections />
      </Tabs.Content>
      <Tabs.Content value="backing" className="pt-2">
        <BackingTable midiIn={midiIn} />
      </Tabs.Content>
      <Tabs.Content value="lead" className="pt-2">
        <LeadTable leads={leads} />
      </Tabs.Content>
      <Tabs.Content value="map" className="pt-2">
        <Maps />
      </Tabs.Content>
    </Tabs.Root>
  );
}

function Heading() {
  const { song, map, here, change } = useTimeline();
  const host = useHost();
  const places = usePlaces();
  const playing = useApp(({ live }) => here && live.transport.playing);
  const { bars } = song.map;
  const stand = (): void => {
    const place = places.find((candidate) => candidate.song.id === song.id);
    if (place) host.post({ type: 'recall', position: place.position });
  };
  return (
    <div className="flex flex-wrap items-end gap-x-4 py-3">
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
        · <TempoAndMeter song={song} />
        <AtEnd />
        <Leader />
      </p>
      <span className="ml-auto flex flex-wrap items-center gap-2">
        {!here && <Button onClick={stand}>Stand in this song</Button>}
        <PositionField />
        <Button disabled={!here} onClick={() => host.post({ type: 'locate', tick: map.barTick(0) })}>
          To the start
        </Button>
        <Button
          look={playing ? 'filled' : 'framed'}
          disabled={!here}
          onClick={() => host.post({ type: 'perform', action: playing ? 'stop' : 'play' })}
        >
          {playing ? 'Stop' : 'Play'}
        </Button>
        <StepAsCue />
        <CueHere />
      </span>
    </div>
  );
}

type SongEntry = Extract<SetlistEntry, { kind: 'song' }>;
const AT_END: Record<SongEntry['atEnd'], string> = {
  stop: 'stops',
  next: 'goes to the next song',
  playNext: 'plays the next song',
};

/** What comes where the timeline ends: a matter of tonight's setlist, for the entry that plays or the first of the song. */
function AtEnd() {
  const { song, here } = useTimeline();
  const setlist = useSetlist();
  const edit = useEdit();
  const playing = useApp(({ live }) => live.place.entryId);
  const entries = (setlist?.entries ?? []).flatMap((one) =>
    one.kind === 'song' && one.songId === song.id ? [one] : [],
  );
  const entry = (here ? entries.find(({ id }) => id === playing) : undefined) ?? entries[0];
  if (!setlist || entry === undefined) return null;
  return (
    <>
      {' '}
      · at its end it{' '}
      <Choice
        label="what comes at the end"
        value={entry.atEnd}
        items={Object.entries(AT_END).map(([value, label]) => ({ value, label }))}
        onChange={(atEnd) =>
          edit({
            label: 'change what comes at the end',
            setlists: [
              {
                ...setlist,
                entries: setlist.entries.map((one) =>
                  one.id === entry.id ? { ...entry, atEnd: atEnd as SongEntry['atEnd'] } : one,
                ),
              },
            ],
          })
        }
      />
    </>
  );
}

/** Who leads, where it is not Rackle: how fast, and how steadily. */
function Leader() {
  const { song } = useTimeline();
  const leader = useApp(({ live }) => live.transport.leader);
  if (leader === null) return null;
  const { port, bpm, jitterMs, isLost } = leader;
  return (
    <span data-testid="leader">
      {' '}
      · led by <b className="text-ink">{port}</b>
      {isLost ? (
        <span className="ml-1.5 bg-ink px-1.5 text-ground">its clock is lost</span>
      ) : bpm > 0 ? (
        <>
          , <span className="mono">{countedTempo(song, bpm).toFixed(1)}</span>,{' '}
          <span className="mono">±{jitterMs.toFixed(1)} ms</span>
        </>
      ) : (
        ', no clock yet'
      )}
    </span>
  );
}

function PositionField() {
  const { map, here, showTick, readTick } = useTimeline();
  const host = useHost();
  const tick = useApp(({ live }) => (here ? live.transport.tick : 0));
  return (
    <span className="text-ink2">
      at{' '}
      <NumberField
        label="position"
        value={tick}
        min={0}
        max={map.endTick - 1}
        show={showTick}
        read={readTick}
        form="bar : beat + ticks"
        className="mono text-ink"
        onChange={(to) => host.post({ type: 'locate', tick: to })}
      />
    </span>
  );
}

/** The next step now, and a cue for it where the playhead stands: a song is cued by playing it once. */
function StepAsCue() {
  const { song, here, change, tickNow } = useTimeline();
  const host = useHost();
  const places = usePlaces();
  const next = useApp(({ live }) => live.place.nextPosition);
  const letterKeys = useApp(({ ui }) => ui.letterKeys);
  const place = places.find(({ position }) => position === next);
  const isNext = here && place?.song.id === song.id;
  const pressed = useRef(false);
  const take = (): void => {
    if (!isNext || !place || pressed.current) return;
    pressed.current = true;
    const id = newId<CueId>('cue');
    const cue = { kind: 'recall', id, atTick: tickNow(), patchId: place.patch.id, blendId: place.blend?.id ?? null };
    change('cue the next step', withCue(song, Cue.parse(cue)));
    host.post({ type: 'recall', position: place.position });
  };
  // One press is one step, until the running side has said where it stands.
  useEffect(() => void (pressed.current = false), [next]);
  useHotkeys('n', take, { enabled: letterKeys }, [take]);
  return (
    <Button disabled={!isNext} title="the next patch now, and a cue for it here (N)" onClick={take}>
      Next, as a cue
    </Button>
  );
}

function Sections() {
  const { here } = useTimeline();
  const tick = useApp(({ live }) => (here ? live.transport.tick : 0));
  return <SectionTable tick={tick} />;
}

/** Tempo and meter, with another of each where the playhead stands. */
function Maps() {
  const { song, here, change, showTick, readTick } = useTimeline();
  const tick = useApp(({ live }) => (here ? live.transport.tick : 0));
  return <MapTables song={song} tick={tick} showTick={showTick} readTick={readTick} onChange={change} />;
}
