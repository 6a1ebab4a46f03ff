import type { BenchState } from '../../protocol';
import { Device, whilePressed, type Send } from './Device';
import { PianoKeys } from './PianoKeys';

interface Props {
  bench: BenchState;
  send: Send;
}

const ENDLESS = ['2’s', '2’s', 'offset', 'sign'];

/** What is under the hands: the stage piano, the small keyboard with pads and knobs, the drum pads. */
export function Hands({ bench, send }: Props) {
  const gone = (device: string): boolean => bench.unplugged.includes(device);
  const { aster, cobble } = bench;
  return (
    <>
      <Device
        device="Aster 73"
        about="stage piano, by two ports · computer keys Z–M, Q–P"
        gone={gone('Aster 73')}
        send={send}
        className="min-h-32 min-w-[520px] flex-[3]"
      >
        <div className="flex min-h-0 flex-1 gap-3">
          <div className="flex shrink-0 flex-col gap-1 text-xs text-ink2">
            <label className="flex w-28 items-center justify-between gap-1">
              wheel
              <input
                aria-label="wheel"
                type="range"
                min={-1}
                max={1}
                step={0.01}
                value={aster.wheel}
                className="w-16 accent-[var(--ink)]"
                onChange={(event) => send({ device: 'Aster 73', kind: 'wheel', value: Number(event.target.value) })}
                onPointerUp={() => send({ device: 'Aster 73', kind: 'wheel', value: 0 })}
              />
            </label>
            <label className="flex w-28 items-center justify-between gap-1">
              modul.
              <input
                aria-label="modulation"
                type="range"
                min={0}
                max={127}
                value={aster.modulation}
                className="w-16 accent-[var(--ink)]"
                onChange={(event) =>
                  send({ device: 'Aster 73', kind: 'controller', controller: 1, value: Number(event.target.value) })
                }
              />
            </label>
            <button
              type="button"
              aria-pressed={aster.sustain}
              onClick={() =>
                send({ device: 'Aster 73', kind: 'controller', controller: 64, value: aster.sustain ? 0 : 127 })
              }
              className={`h-9 border border-ink font-bold ${aster.sustain ? 'bg-ink text-ground' : 'text-ink'}`}
            >
              sustain
            </button>
          </div>
          <PianoKeys device="Aster 73" lowest={28} highest={100} send={send} />
        </div>
      </Device>
      <Device
        device="Cobble 25"
        about="keys on channel 1, pads on 10, knobs 20–27"
        gone={gone('Cobble 25')}
        send={send}
        className="min-h-32 min-w-[480px] flex-[2]"
      >
        <div className="flex min-h-0 flex-1 gap-3">
          <PianoKeys device="Cobble 25" lowest={48} highest={72} send={send} />
          <div className="grid shrink-0 grid-cols-4 content-start gap-0.5">
            {cobble.padsDown.map((down, i) => (
              <button
                key={i}
                type="button"
                aria-label={`Cobble pad ${i + 1}`}
                className={`grid size-7 place-items-center border border-ink text-xs font-bold select-none touch-none ${down ? 'bg-ink text-ground' : ''}`}
                {...whilePressed(
                  () => send({ device: 'Cobble 25', kind: 'pad', pad: i, velocity: 100 }),
                  () => send({ device: 'Cobble 25', kind: 'pad', pad: i, velocity: 0 }),
                )}
              >
                {i + 1}
              </button>
            ))}
          </div>
          <div className="grid shrink-0 grid-cols-2 content-start gap-x-2 text-[11px] text-ink2">
            {cobble.knobs.map((value, i) =>
              i < 4 ? (
                <label key={i} className="col-start-1 flex h-6 items-center gap-1" style={{ gridRow: i + 1 }}>
                  {i + 1}
                  <input
                    aria-label={`Cobble knob ${i + 1}`}
                    type="range"
                    min={0}
                    max={127}
                    value={value}
                    className="w-14 accent-[var(--ink)]"
                    onChange={(event) =>
                      send({ device: 'Cobble 25', kind: 'knob', knob: i, value: Number(event.target.value) })
                    }
                  />
                </label>
              ) : (
                <span
                  key={i}
                  className="col-start-2 flex h-6 items-center gap-1"
                  style={{ gridRow: i - 3 }}
                  title={`turns without end, ${ENDLESS[i - 4]}`}
                >
                  {i + 1}
                  {([-1, 1] as const).map((by) => (
                    <button
                      key={by}
                      type="button"
                      aria-label={`Cobble knob ${i + 1} ${by < 0 ? 'left' : 'right'}`}
                      className="h-5 w-6 border border-ink font-bold leading-none"
                      onClick={() => send({ device: 'Cobble 25', kind: 'knob', knob: i, value: value + by })}
                    >
                      {by < 0 ? '−' : '+'}
                    </button>
                  ))}
                </span>
              ),
            )}
          </div>
        </div>
      </Device>
      <Device device="Keg 4" about="pads with head and rim" gone={gone('Keg 4')} send={send} className="min-w-56">
        <div className="flex gap-1">
          {[0, 1, 2, 3].map((pad) => (
            <span key={pad} className="flex flex-col">
              {(['rim', 'head'] as const).map((zone) => (
                <button
                  key={zone}
                  type="button"
                  aria-label={`Keg pad ${pad + 1} ${zone}`}
                  className={`grid place-items-center border border-ink font-bold select-none touch-none active:bg-ink active:text-ground ${zone === 'rim' ? 'h-6 border-b-0 text-xs font-normal' : 'h-11'} w-11`}
                  onPointerDown={() => send({ device: 'Keg 4', kind: 'hit', pad, zone, velocity: 100 })}
                  onKeyDown={(event) => {
                    if (event.key === 'Enter' && !event.repeat)
                      send({ device: 'Keg 4', kind: 'hit', pad, zone, velocity: 100 });
                  }}
                >
                  {zone === 'rim' ? 'rim' : pad + 1}
                </button>
              ))}
            </span>
          ))}
        </div>
      </Device>
    </>
  );
}
