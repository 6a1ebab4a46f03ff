import {
  Meter,
  ticksPerBar,
  ticksPerBeat,
  type CueId,
  type MeterEntry,
  type Song,
  type SongMap,
  type TempoEntry,
} from '@rackle/core/show';
import {
  tempoMapOf,
  tempoMapOfSong,
  withMapAndBars,
  withMeterAt,
  withMeterOfBar,
  withoutMeterAt,
  withoutTempoAt,
  withTempoAt,
  withUpbeat,
} from '@rackle/core/timeline';
import { useState } from 'react';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { madeNow, useNewRow } from '../../ui/newRow';
import { NumberField } from '../../ui/NumberField';
import { TempoField, tempoSign } from '../tempo';

interface Props {
  song: Song;
  /** Where the playhead stands. */
  tick: number;
  showTick: (tick: number) => string;
  readTick: (text: string) => number | null;
  onChange: (label: string, next: Song, mergeKey?: string) => void;
}

/** So many changes stand whole; more than that scroll. */
const FEW = 4;
const SCROLLS = 'max-h-40 overflow-y-auto';

/** Where tempo and meter change, in a sentence each, and another change where the playhead stands. */
export function MapTables({ song, tick, showTick, readTick, onChange }: Props) {
  const map = tempoMapOfSong(song);
  const [keeps, setKeeps] = useState<'time' | 'bars'>('time');
  const change = (label: string, next: SongMap, mergeKey?: string): void =>
    onChange(label, { ...song, map: next }, mergeKey);
  /** What follows a meter keeps its place in time, or its bar. */
  const changeMeter = (label: string, at: number, meter: Meter | null): void => {
    if (keeps === 'bars') return onChange(label, withMapAndBars(song, withMeterOfBar(song.map, at, meter), mint));
    change(label, meter === null ? withoutMeterAt(song.map, at) : withMeterAt(song.map, at, meter));
  };
  const changeUpbeat = (upbeatTicks: number): void => {
    if (keeps === 'bars') onChange('change the upbeat', withMapAndBars(song, { ...song.map, upbeatTicks }, mint));
    else change('change the upbeat', withUpbeat(song.map, upbeatTicks));
  };
  const [first] = song.map.meters;
  const beatTicks = ticksPerBeat(first);
  const { bar } = map.positionAt(tick);
  const addTempo = (): void => {
    madeNow(`tempo ${tick}`);
    change('change the tempo from here', withTempoAt(song.map, { atTick: tick, bpm: map.bpmAt(tick), ramp: false }));
  };
  const addMeter = (): void => {
    madeNow(`meter ${bar}`);
    changeMeter('change the meter from here', bar, map.meterOf(bar));
  };
  const hasTempo = song.map.tempos.some(({ atTick }) => atTick === tick);
  const hasMeter = bar < 1 || song.map.meters.some((meter) => meter.bar === bar);
  return (
    <section aria-label="tempo and meter" className="flex flex-wrap gap-x-12 gap-y-2">
      <div>
        <h2 className="flex items-center gap-2 text-[13px] font-bold text-ink2">
          tempo
          <Button look="plain" disabled={hasTempo} onClick={addTempo}>
            another from {showTick(tick)}
          </Button>
        </h2>
        <ul className={song.map.tempos.length > FEW ? SCROLLS : undefined}>
          {song.map.tempos.map((tempo, i) => (
            <TempoRow
              key={i}
              {...{ tempo, showTick, readTick }}
              song={song}
              isLast={i === song.map.tempos.length - 1}
              onChange={change}
            />
          ))}
        </ul>
      </div>
      <div>
        <h2 className="flex items-center gap-2 text-[13px] font-bold text-ink2">
          meter
          <Button look="plain" disabled={hasMeter} onClick={addMeter}>
            another from bar {Math.max(1, bar)}
          </Button>
        </h2>
        <ul className={song.map.meters.length > FEW ? SCROLLS : undefined}>
          {song.map.meters.map((meter) => (
            <MeterRow key={meter.bar} meter={meter} onChange={changeMeter} />
          ))}
        </ul>
        <p className="flex min-h-9 items-center gap-1.5">
          upbeat{' '}
          <NumberField
            label="upbeat"
            value={song.map.upbeatTicks}
            min={0}
            max={ticksPerBar(first) - 1}
            step={beatTicks}
            show={(ticks) => beatsInWords(ticks / beatTicks)}
            read={(text) => readBeats(text, beatTicks)}
            form="a number of beats, shorter than a bar"
            className="mono"
            onChange={changeUpbeat}
          />
        </p>
        <p className="text-ink2">
          what is there keeps{' '}
          <Choice
            label="what a change of the meter keeps"
            value={keeps}
            items={[
              { value: 'time', label: 'its place in time' },
              { value: 'bars', label: 'its bar' },
            ]}
            onChange={setKeeps}
          />
        </p>
      </div>
    </section>
  );
}

type ChangeMap = (label: string, next: SongMap, mergeKey?: string) => void;

function TempoRow({
  tempo,
  song,
  isLast,
  showTick,
  readTick,
  onChange,
}: {
  tempo: TempoEntry;
  song: Song;
  isLast: boolean;
  showTick: (tick: number) => string;
  readTick: (text: string) => number | null;
  onChange: ChangeMap;
}) {
  const { map } = song;
  const { atTick, bpm, ramp } = tempo;
  const ref = useNewRow(`tempo ${atTick}`);
  const isFree = (to: number): boolean => to === atTick || !map.tempos.some((other) => other.atTick === to);
  const readFree = (text: string): number | null => {
    const to = readTick(text);
    return to !== null && isFree(to) ? to : null;
  };
  // A tempo that is moved onto another one by a key would take its place: it stays.
  const move = (to: number): void => {
    if (isFree(to)) onChange('move a tempo', withTempoAt(withoutTempoAt(map, atTick), { ...tempo, atTick: to }));
  };
  return (
    <li ref={ref} className="flex min-h-9 items-center gap-1.5 border-b border-rule">
      from{' '}
      {atTick === 0 ? (
        <span className="mono">the start</span>
      ) : (
        <NumberField
          label="position of the tempo"
          value={atTick}
          min={1}
          max={tempoMapOf(map).endTick - 1}
          show={showTick}
          read={readFree}
          form="bar : beat + ticks, where no other tempo stands,"
          className="mono"
          onChange={move}
        />
      )}{' '}
      {tempoSign(song)} ={' '}
      <TempoField
        label={`tempo from ${showTick(atTick)}`}
        song={song}
        bpm={bpm}
        onChange={(to) => onChange('change the tempo', withTempoAt(map, { ...tempo, bpm: to }), `tempo at ${atTick}`)}
      />
      {!isLast && (
        <Choice
          label={`way to the tempo after ${showTick(atTick)}`}
          value={ramp ? 'ramp' : 'step'}
          items={[
            { value: 'step', label: 'until the next' },
            { value: 'ramp', label: 'on the way to the next' },
          ]}
          onChange={(way) =>
            onChange('change the way of a tempo', withTempoAt(map, { ...tempo, ramp: way === 'ramp' }))
          }
        />
      )}
      {atTick > 0 && (
        <Button
          look="plain"
          className="ml-auto"
          onClick={() => onChange('remove a tempo', withoutTempoAt(map, atTick))}
        >
          remove
        </Button>
      )}
    </li>
  );
}

const mint = (): CueId => newId<CueId>('cue');

const beatsInWords = (beats: number): string =>
  beats === 0 ? 'none' : beats === 1 ? '1 beat' : `${Math.round(beats * 1000) / 1000} beats`;

/** Reads `1`, `1.5 beats`, `none`. */
function readBeats(text: string, beatTicks: number): number | null {
  if (/^\s*(none|–|-)?\s*$/i.test(text)) return 0;
  const match = /^\s*(\d+(?:[.,]\d+)?)\s*(?:beats?)?\s*$/.exec(text);
  return match ? Math.round(Number(match[1].replace(',', '.')) * beatTicks) : null;
}

/** Reads `6/8`. */
function readMeter(text: string): Meter | null {
  const match = /^\s*(\d{1,3})\s*\/\s*(\d{1,2})\s*$/.exec(text);
  const read = match ? Meter.safeParse({ beats: Number(match[1]), unit: Number(match[2]) }) : null;
  return read?.success ? read.data : null;
}

function MeterRow({
  meter,
  onChange,
}: {
  meter: MeterEntry;
  onChange: (label: string, bar: number, meter: Meter | null) => void;
}) {
  const { bar, beats, unit, early } = meter;
  const ref = useNewRow(`meter ${bar}`);
  return (
    <li ref={ref} className="flex min-h-9 items-center gap-1.5 border-b border-rule">
      from <span className="mono">bar {bar}</span>{' '}
      <EditableText
        label={`meter from bar ${bar}`}
        value={`${beats}/${unit}`}
        className="mono"
        check={(text) => (readMeter(text) ? null : 'beats / note, as 6/8; the note is 1, 2, 4, 8, 16, 32 or 64')}
        onChange={(text) => onChange('change the meter', bar, readMeter(text)!)}
      />
      {early > 0 && (
        <span className="text-[13px] text-ink2">
          bar {bar - 1} ends early by {early} ticks
        </span>
      )}
      {bar > 1 && (
        <Button look="plain" className="ml-auto" onClick={() => onChange('remove a meter', bar, null)}>
          remove
        </Button>
      )}
    </li>
  );
}
