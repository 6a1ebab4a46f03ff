import { neighboursOf, withCrossover, type Part } from '@rackle/core/show';
import { useState } from 'react';
import { useGear } from '../../../state/hooks';
import { NumberField } from '../../../ui/NumberField';
import { LayerTools } from '../LayerTools';
import { VelocityCurve } from '../VelocityCurve';
import type { Signal } from './signal';

const CROSSED_KEYS = 6;
const CROSSED_VELOCITIES = 24;

/** So wide a window has room for what is folded otherwise, with its curve. */
const ROOM_PX = 1600;

/** What it does with what is played, behind a fold: open at once where something is set there, or where there is room. */
export function PlayedTools(signal: Signal) {
  const { layer, part, at, setPart, setLayer } = signal;
  const gear = useGear();
  const [open, setOpen] = useState(
    part.arpeggio !== null || part.chord.length > 0 || layer.remapped.length > 0 || window.innerWidth >= ROOM_PX,
  );
  return (
    <details
      className="mt-2 border-t border-rule pt-1"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="min-h-9 cursor-pointer py-1 text-[13px] font-bold text-ink2">
        what it does with what is played
      </summary>
      {open && (
        <div className="flex gap-4">
          <div className="min-w-0 flex-1">
            <LayerTools
              layer={layer}
              part={part}
              gear={gear}
              at={at}
              crossings={crossingsOf(signal)}
              onPart={setPart}
              onLayer={setLayer}
            />
          </div>
          <VelocityTools {...signal} />
        </div>
      )}
    </details>
  );
}

/** Layers that it can cross over with, in words, and the edit. */
function crossingsOf({ song, layer, patchId, stands, setSong }: Signal): { words: string; cross: () => void }[] {
  const patch = song.patches.find(({ id }) => id === patchId);
  if (stands || !patch) return [];
  return neighboursOf(patch, layer.id).map(({ layerId, by }) => {
    const over = by === 'keys' ? CROSSED_KEYS : CROSSED_VELOCITIES;
    const name = song.layers.find(({ id }) => id === layerId)?.name ?? '';
    return {
      words: `${name}, over ${over} ${by === 'keys' ? 'keys' : 'steps of velocity'}`,
      cross: () => setSong('cross two layers over', withCrossover(song, patchId, layer.id, layerId, by, over)),
    };
  });
}

function VelocityTools({ part, at, setPart }: Signal) {
  const { velocity } = part;
  const setVelocity = (next: Partial<Part['velocity']>): void =>
    setPart(
      'change the velocity curve',
      (current) => ({ ...current, velocity: { ...current.velocity, ...next } }),
      `curve ${at}`,
    );
  return (
    <div className="text-[13px]">
      <VelocityCurve part={part} />
      <p className="mt-1">
        curve{' '}
        <NumberField
          label="velocity curve"
          value={velocity.curve}
          min={-100}
          max={100}
          className="mono"
          onChange={(curve) => setVelocity({ curve })}
        />
      </p>
      <p>
        from{' '}
        <NumberField
          label="softest"
          value={velocity.lowest}
          min={1}
          max={velocity.highest}
          className="mono"
          onChange={(lowest) => setVelocity({ lowest })}
        />{' '}
        to{' '}
        <NumberField
          label="hardest"
          value={velocity.highest}
          min={velocity.lowest}
          max={127}
          className="mono"
          onChange={(highest) => setVelocity({ highest })}
        />
      </p>
    </div>
  );
}
