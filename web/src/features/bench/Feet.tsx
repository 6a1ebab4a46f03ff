import type { BenchState } from '../../protocol';
import { Device, PAD, whilePressed, type Send } from './Device';

interface Props {
  bench: BenchState;
  send: Send;
  programsFrom: 0 | 1;
}

/** What is under the feet: program pedals, counter, switches, swell pedals. */
export function Feet({ bench, send, programsFrom }: Props) {
  const gone = (device: string): boolean => bench.unplugged.includes(device);
  const { treadle, updown, clack, heel, creaker } = bench;
  return (
    <>
      <Device
        device="Treadle 6"
        about={`page ${treadle.page + 1}${treadle.written ? ', as written' : ''}`}
        gone={gone('Treadle 6')}
        send={send}
      >
        <div className="flex gap-1">
          <button
            type="button"
            aria-label="page down"
            className={`${PAD} w-7`}
            onClick={() => send({ device: 'Treadle 6', kind: 'page', direction: -1 })}
          >
            −
          </button>
          {treadle.pedals.map((button, i) => (
            <button
              key={i}
              type="button"
              aria-label={`Treadle pedal ${i + 1}`}
              disabled={button === null}
              title={
                button
                  ? `channel ${button.channel}${button.lsb === null ? '' : `, bank ${button.msb ?? 0}/${button.lsb}`}`
                  : 'nothing'
              }
              onPointerDown={() => send({ device: 'Treadle 6', kind: 'pedal', pedal: i })}
              onKeyDown={(event) => {
                if (event.key === 'Enter') send({ device: 'Treadle 6', kind: 'pedal', pedal: i });
              }}
              className={`${PAD} mono w-9 disabled:opacity-30 ${treadle.page * 6 + i === treadle.lit ? 'bg-ink text-ground' : ''}`}
            >
              {button ? button.program + programsFrom : '·'}
            </button>
          ))}
          <button
            type="button"
            aria-label="page up"
            className={`${PAD} w-7`}
            onClick={() => send({ device: 'Treadle 6', kind: 'page', direction: 1 })}
          >
            +
          </button>
        </div>
      </Device>
      <Device device="Updown 2" about={`at ${updown.counter}`} gone={gone('Updown 2')} send={send}>
        <div className="flex gap-1">
          {(
            [
              [-1, 'down'],
              [1, 'up'],
            ] as const
          ).map(([direction, name]) => (
            <button
              key={name}
              type="button"
              aria-label={`Updown ${name}`}
              className={`${PAD} w-14`}
              {...whilePressed(
                () => send({ device: 'Updown 2', kind: 'switch', direction, down: true }),
                () => send({ device: 'Updown 2', kind: 'switch', direction, down: false }),
              )}
            >
              {name}
            </button>
          ))}
        </div>
      </Device>
      <Device device="Clack 2" about="controllers 80, 81" gone={gone('Clack 2')} send={send}>
        <div className="flex gap-1">
          {['left', 'right'].map((name, i) => (
            <button
              key={name}
              type="button"
              aria-label={`Clack pedal ${i + 1}`}
              data-side={name}
              className={`${PAD} w-14 after:content-[attr(data-side)] ${clack.down[i] || clack.lit[i] ? 'bg-ink text-ground' : ''}`}
              {...whilePressed(
                () => send({ device: 'Clack 2', kind: 'pedal', pedal: i, down: true }),
                () => send({ device: 'Clack 2', kind: 'pedal', pedal: i, down: false }),
              )}
            />
          ))}
          <label className="flex flex-col text-xs text-ink2">
            latching
            <input
              type="checkbox"
              aria-label="Clack latches"
              checked={clack.latching}
              onChange={(event) => send({ device: 'Clack 2', kind: 'latching', on: event.target.checked })}
            />
          </label>
        </div>
      </Device>
      <Device device="Heel 1" about="expression, reversed" gone={gone('Heel 1')} send={send}>
        <Swell
          label="Heel 1"
          stands={heel.stands}
          onMove={(stands) => send({ device: 'Heel 1', kind: 'heel', stands })}
        />
      </Device>
      <Device device="Creaker" about="an old pedal" gone={gone('Creaker')} send={send}>
        <div className="flex items-center gap-2">
          <Swell
            label="Creaker"
            stands={creaker.stands / 127}
            onMove={(stands) => send({ device: 'Creaker', kind: 'heel', stands })}
          />
          <label className="flex items-center gap-1 text-xs text-ink2">
            <input
              type="checkbox"
              checked={creaker.trembles}
              onChange={(event) => send({ device: 'Creaker', kind: 'tremble', on: event.target.checked })}
            />{' '}
            trembles
          </label>
        </div>
      </Device>
    </>
  );
}

function Swell({ label, stands, onMove }: { label: string; stands: number; onMove: (stands: number) => void }) {
  return (
    <label className="flex h-11 items-center gap-2 text-xs text-ink2">
      heel
      <input
        aria-label={label}
        type="range"
        min={0}
        max={1}
        step={0.01}
        value={stands}
        className="w-28 accent-[var(--ink)]"
        onChange={(event) => onMove(Number(event.target.value))}
      />
      toe
    </label>
  );
}
