import { useState } from 'react';
import { useApp, useEdit, useGear, useHost } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { Toggle } from '../../ui/Toggle';
import { SNAPS, stepOf } from './chartLayout';
import { useTimeline } from './timelineContext';
import type { CueHands } from './useCueHands';
import type { ChartView } from './useChartView';

const UNITS = ['bars', 'beats', 'ticks', 'ms'] as const;
type Unit = (typeof UNITS)[number];

/** How the chart is looked at, what a drag keeps to, and what is done with the cues that are chosen. */
export function ChartTools({ hands, view }: { hands: CueHands; view: ChartView }) {
  const { here } = useTimeline();
  return (
    <div className="flex min-h-9 flex-wrap items-center gap-x-4 text-ink2">
      <span className="flex items-center">
        <Button
          look="plain"
          aria-label="narrower"
          disabled={view.zoom <= 1}
          onClick={() => view.setZoom(view.zoom / 2)}
        >
          −
        </Button>
        <span className="mono w-12 text-center">{Math.round(view.zoom * 10) / 10}×</span>
        <Button look="plain" aria-label="wider" disabled={view.zoom >= 64} onClick={() => view.setZoom(view.zoom * 2)}>
          +
        </Button>
      </span>
      <Toggle on={view.follows} name="follow the playhead" onClick={() => view.setFollows(!view.follows)} />
      <ClickSwitch />
      <CountIn />
      <span>
        dragged to{' '}
        <Choice
          label="what a drag keeps to"
          value={hands.snap}
          items={SNAPS.map((snap) => ({ value: snap, label: snap === 'off' ? 'any tick' : `the ${snap}` }))}
          onChange={hands.setSnap}
        />
      </span>
      {here && <Running />}
      {hands.selected.size > 0 ? (
        <Chosen hands={hands} />
      ) : (
        hands.canPaste && (
          <Button look="plain" onClick={hands.paste}>
            paste at the playhead
          </Button>
        )
      )}
    </div>
  );
}

/** The click of tonight's gear. */
function ClickSwitch() {
  const gear = useGear();
  const edit = useEdit();
  if (gear === null) return null;
  const { on } = gear.click;
  return (
    <Toggle
      on={on}
      name="click"
      title="on every beat while it plays; where it sounds is said on Gear"
      onClick={() =>
        edit({
          label: on ? 'switch the click off' : 'switch the click on',
          gearLists: [{ ...gear, click: { ...gear.click, on: !on } }],
        })
      }
    />
  );
}

/** Bars that are counted before the start. */
function CountIn() {
  const { song, change } = useTimeline();
  const { countInBars } = song;
  return (
    <span>
      counted in by{' '}
      <NumberField
        label="count-in"
        value={countInBars}
        min={0}
        max={4}
        className="mono text-ink"
        unit={countInBars === 1 ? ' bar' : ' bars'}
        onChange={(bars) => change('change the count-in', { ...song, countInBars: bars })}
      />
    </span>
  );
}

/** What the running timeline has been told besides its cues. */
function Running() {
  const { showTick } = useTimeline();
  const host = useHost();
  const { loop, jumpsTo, holdsCues, text } = useApp(({ live }) => live.transport);
  return (
    <>
      {loop !== null && (
        <Button look="plain" onClick={() => host.post({ type: 'loop', range: null })}>
          end the loop
        </Button>
      )}
      {jumpsTo >= 0 && (
        <Button look="plain" onClick={() => host.post({ type: 'jump', toTick: null, at: 'bar' })}>
          do not jump to {showTick(jumpsTo)}
        </Button>
      )}
      <Toggle
        on={holdsCues}
        name="hold back recalls"
        title="recalls and presets of the timeline do nothing until this is off again"
        onClick={() => host.post({ type: 'perform', action: 'holdCues' })}
      />
      {text !== '' && (
        <span className="bg-ink px-2 text-ground" data-testid="timeline-text">
          {text}
        </span>
      )}
    </>
  );
}

function Chosen({ hands }: { hands: CueHands }) {
  const { song, map } = useTimeline();
  const [amount, setAmount] = useState(1);
  const [unit, setUnit] = useState<Unit>('bars');
  const first = song.cues.find(({ id }) => hands.selected.has(id));
  if (first === undefined) return null;
  const move = (): void => {
    if (unit === 'ms') return hands.moveBy((tick) => map.tickAt(Math.max(0, map.msAt(tick) + amount)));
    const step = unit === 'ticks' ? 1 : stepOf(first.atTick, unit === 'bars' ? 'bar' : 'beat', map);
    hands.moveBy((tick) => tick + amount * step);
  };
  return (
    <span className="flex flex-wrap items-center gap-x-2" role="group" aria-label="the chosen cues">
      <b className="text-ink">
        {hands.selected.size} cue{hands.selected.size === 1 ? '' : 's'}
      </b>
      <span>
        by{' '}
        <NumberField
          label="how far they move"
          value={amount}
          min={-100_000}
          max={100_000}
          className="mono text-ink"
          onChange={setAmount}
        />{' '}
        <Choice
          label="in what they move"
          value={unit}
          items={UNITS.map((one) => ({ value: one, label: one }))}
          onChange={setUnit}
        />
      </span>
      <Button look="plain" onClick={move}>
        move
      </Button>
      <Button look="plain" onClick={hands.copy}>
        copy
      </Button>
      {hands.canPaste && (
        <Button look="plain" onClick={hands.paste}>
          paste at the playhead
        </Button>
      )}
      <Button look="plain" onClick={hands.remove}>
        remove
      </Button>
      <Button look="plain" onClick={() => hands.select(new Set())}>
        choose none
      </Button>
    </span>
  );
}
