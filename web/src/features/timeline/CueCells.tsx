import { withoutCue, type Cue, type CueKind } from '@rackle/core/show';
import { useApp, useGear } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { useNewRow } from '../../ui/newRow';
import { NumberField } from '../../ui/NumberField';
import { cueTargets, targetKey } from './cueTargets';
import { KIND_WORDS } from './cueWords';
import { outputsOf } from './newCue';
import { useTimeline } from './timelineContext';
import { useChangedCue } from './useChangedCue';

// The cells of the table of cues: each part of a cue typed or chosen in its place.

type CellProps = { row: Cue };
type Of<K extends CueKind> = Extract<Cue, { kind: K }>;

export function PositionCell({ row }: CellProps) {
  const { map, showTick, readTick } = useTimeline();
  const change = useChangedCue(row);
  const ref = useNewRow(row.id);
  return (
    <span ref={ref}>
      <NumberField
        label="position of the cue"
        value={row.atTick}
        min={0}
        max={Math.max(map.endTick - 1, row.atTick)}
        step={map.ticksPerBeatAt(row.atTick)}
        show={showTick}
        read={readTick}
        form="bar : beat + ticks"
        className="mono"
        onChange={(atTick) => change({ atTick }, 'move a cue')}
      />
    </span>
  );
}

/** Its kind; pressed, it is switched off, or on again. */
export function KindCell({ row }: CellProps) {
  const change = useChangedCue(row);
  return (
    <button
      type="button"
      aria-pressed={!row.off}
      title={row.off ? 'switched off: does nothing' : 'on'}
      className={`min-h-9 text-left ${row.off ? 'text-ink2 line-through' : ''}`}
      onClick={() => change({ off: !row.off }, row.off ? 'switch a cue on' : 'switch a cue off')}
    >
      {KIND_WORDS[row.kind]}
    </button>
  );
}

export function WhatCell({ row }: CellProps) {
  switch (row.kind) {
    case 'recall':
      return <RecallTarget row={row} />;
    case 'preset':
      return <PresetOf row={row} />;
    case 'program':
    case 'controller':
      return <PortAndChannel row={row} />;
    case 'note':
      return <NoteTo row={row} />;
    case 'message':
    case 'lights':
      return <PortOf row={row} />;
    case 'text':
    case 'tempo':
      return null;
  }
}

function RecallTarget({ row }: { row: Of<'recall'> }) {
  const { song } = useTimeline();
  const change = useChangedCue(row);
  const targets = cueTargets(song);
  return (
    <Choice
      label="patch of the cue"
      className="named text-lg"
      unchosen="a patch that is not there"
      value={targetKey(row.patchId, row.blendId)}
      items={targets.map(({ key, label }) => ({ value: key, label }))}
      onChange={(key) => {
        const target = targets.find((other) => other.key === key);
        if (target) change({ patchId: target.patch.id, blendId: target.blend?.id ?? null });
      }}
    />
  );
}

function PresetOf({ row }: { row: Of<'preset'> }) {
  const change = useChangedCue(row);
  const instruments = useApp(({ show }) => show.working.instruments);
  const outboard = Object.values(instruments).flatMap((one) =>
    one.kind === 'outboard' && one.names.length > 0 ? [one] : [],
  );
  const own = outboard.find(({ id }) => id === row.instrumentId);
  const folders = [...new Set(own?.names.map(({ folder }) => folder) ?? [])];
  return (
    <>
      <Choice
        label="instrument of the cue"
        value={row.instrumentId}
        unchosen="an instrument that is not there"
        items={outboard.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(id) => {
          const chosen = outboard.find((one) => one.id === id);
          if (chosen) change({ instrumentId: chosen.id, presetId: chosen.names[0].id });
        }}
      />
      ,{' '}
      <Choice
        label="preset of the cue"
        className="named text-lg"
        value={row.presetId}
        unchosen="a preset that is not there"
        groups={folders.map((folder) => ({
          name: folder,
          items: (own?.names ?? [])
            .filter((name) => name.folder === folder)
            .map(({ id, name }) => ({ value: id, label: name })),
        }))}
        onChange={(presetId) => change({ presetId })}
      />
    </>
  );
}

function PortOf({ row }: { row: Of<'message' | 'lights' | 'program' | 'controller'> }) {
  const { song } = useTimeline();
  const gear = useGear();
  const change = useChangedCue(row);
  return (
    <Choice
      label="port of the cue"
      value={row.port}
      items={outputsOf({ song, gear }).map((port) => ({ value: port, label: port }))}
      onChange={(port) => change({ port })}
    />
  );
}

function PortAndChannel({ row }: { row: Of<'program' | 'controller'> }) {
  const change = useChangedCue(row);
  return (
    <>
      <PortOf row={row} />, channel{' '}
      <NumberField
        label="channel of the cue"
        value={row.channel}
        min={1}
        max={16}
        className="mono"
        onChange={(channel) => change({ channel })}
      />
    </>
  );
}

function NoteTo({ row }: { row: Of<'note'> }) {
  const { song } = useTimeline();
  const gear = useGear();
  const change = useChangedCue(row);
  const { to } = row;
  return (
    <>
      <Choice
        label="who plays the note"
        value={to.kind === 'layer' ? `layer ${to.layerId}` : `port ${to.port}`}
        unchosen="a layer that is not there"
        groups={[
          { name: 'layers', items: song.layers.map(({ id, name }) => ({ value: `layer ${id}`, label: name })) },
          { name: 'ports', items: outputsOf({ song, gear }).map((port) => ({ value: `port ${port}`, label: port })) },
        ]}
        onChange={(chosen) => {
          const id = chosen.slice(chosen.indexOf(' ') + 1);
          change({
            to: chosen.startsWith('layer ') ? { kind: 'layer', layerId: id } : { kind: 'port', port: id, channel: 1 },
          });
        }}
      />
      {to.kind === 'port' && (
        <>
          , channel{' '}
          <NumberField
            label="channel of the cue"
            value={to.channel}
            min={1}
            max={16}
            className="mono"
            onChange={(channel) => change({ to: { ...to, channel } })}
          />
        </>
      )}
    </>
  );
}

export function NoteCell({ row }: CellProps) {
  const change = useChangedCue(row);
  return (
    <input
      aria-label="note of the cue"
      dir="auto"
      defaultValue={row.note}
      key={row.note}
      maxLength={500}
      placeholder="–"
      className="w-full bg-transparent"
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key !== 'Escape') return;
        event.currentTarget.value = row.note;
        event.stopPropagation();
      }}
      onBlur={(event) => {
        if (event.currentTarget.value !== row.note) change({ note: event.currentTarget.value });
      }}
    />
  );
}

export function RemoveCell({ row }: CellProps) {
  const { song, change } = useTimeline();
  return (
    <Button look="plain" onClick={() => change('remove a cue', withoutCue(song, row.id))}>
      remove
    </Button>
  );
}
