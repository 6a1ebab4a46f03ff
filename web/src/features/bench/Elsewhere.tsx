import type { BenchState } from '../../protocol';
import { useSetlist, useSongs } from '../../state/hooks';
import { Choice } from '../../ui/Choice';
import { Device, PAD, type Send } from './Device';

interface Props {
  bench: BenchState;
  send: Send;
  programsFrom: 0 | 1;
}

/** What stands elsewhere: the track player, the sound module, the lamp. */
export function Elsewhere({ bench, send, programsFrom }: Props) {
  const setlist = useSetlist();
  const songs = useSongs();
  const gone = (device: string): boolean => bench.unplugged.includes(device);
  const { pilot, skerry, beacon, quayMic } = bench;
  return (
    <>
      <Device
        device="Pilot Cutter"
        about={`track player · bar ${pilot.bar} : ${pilot.beat}`}
        gone={gone('Pilot Cutter')}
        send={send}
        className="min-w-64 flex-1"
      >
        <div className="flex min-w-0 items-center gap-2">
          <Choice
            label="song of Pilot Cutter"
            value={pilot.entryId ?? ''}
            className="named min-w-0 truncate text-lg"
            onChange={(entryId) => send({ device: 'Pilot Cutter', kind: 'song', entryId })}
            items={(setlist?.entries ?? []).flatMap((entry) =>
              entry.kind === 'song' ? [{ value: entry.id, label: songs[entry.songId]?.name ?? '' }] : [],
            )}
          />
          <button
            type="button"
            disabled={pilot.entryId === null}
            className={`${PAD} w-14 shrink-0 disabled:opacity-40`}
            onClick={() => send({ device: 'Pilot Cutter', kind: pilot.playing ? 'stop' : 'play' })}
          >
            {pilot.playing ? 'stop' : 'play'}
          </button>
          <button
            type="button"
            disabled={pilot.entryId === null}
            className="shrink-0 text-xs underline decoration-dotted disabled:opacity-40"
            onClick={() => send({ device: 'Pilot Cutter', kind: 'toStart' })}
          >
            to the start
          </button>
          <label className="flex shrink-0 items-center gap-1 text-xs text-ink2">
            <input
              type="checkbox"
              checked={pilot.sendsClock}
              onChange={(event) => send({ device: 'Pilot Cutter', kind: 'clock', on: event.target.checked })}
            />{' '}
            clock
          </label>
          <label className="flex shrink-0 items-center gap-1 text-xs text-ink2">
            <input
              type="checkbox"
              checked={pilot.sendsCalls}
              onChange={(event) => send({ device: 'Pilot Cutter', kind: 'calls', on: event.target.checked })}
            />{' '}
            calls
          </label>
        </div>
      </Device>
      <Device
        device="Skerry"
        about={skerry.held > 0 ? `sound module, ${skerry.held} notes down` : 'sound module'}
        gone={gone('Skerry')}
        send={send}
        className="min-w-72 flex-1"
      >
        <div className="flex gap-4">
          <table className="self-start text-[13px]">
            <tbody>
              {skerry.channels.length === 0 && (
                <tr>
                  <td className="text-ink2">nothing selected yet</td>
                </tr>
              )}
              {skerry.channels.map((part) => (
                <tr key={part.channel}>
                  <td className="mono pr-2 text-ink2">ch {part.channel}</td>
                  <td className="named whitespace-nowrap pr-2 text-lg leading-6">{part.switching ? '…' : part.name}</td>
                  <td className="mono whitespace-nowrap text-xs text-ink2">
                    {part.bank}, {part.program + programsFrom}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <ol
            aria-label="Skerry was sent"
            className="mono max-h-20 min-w-44 overflow-hidden text-[11px] leading-4 text-ink2"
          >
            {skerry.heard.map((line, i) => (
              <li key={i}>{line}</li>
            ))}
          </ol>
        </div>
      </Device>
      <Device device="Beacon" about="lamp" gone={gone('Beacon')} send={send} className="min-w-44">
        <div className="flex gap-3">
          <span
            className="grid grid-cols-2 gap-1"
            role="img"
            aria-label={`lamp: ${beacon.fields.filter(Boolean).length} of 4 fields lit`}
          >
            {beacon.fields.map((lit, i) => (
              <span
                key={i}
                className="size-6 border border-ink"
                style={lit ? { background: 'var(--ink)', opacity: 0.25 + (0.75 * beacon.brightness) / 127 } : undefined}
              />
            ))}
          </span>
          <ol aria-label="Beacon was sent" className="mono max-h-16 overflow-hidden text-[11px] leading-4 text-ink2">
            {beacon.heard.length === 0 ? <li>nothing yet</li> : beacon.heard.map((line, i) => <li key={i}>{line}</li>)}
          </ol>
        </div>
      </Device>
      <section aria-label="Quay mic" className="min-w-40 border-b border-r border-rule p-2">
        <h3 className="named text-lg leading-5">Quay mic</h3>
        <p className="text-xs text-ink2">audio input, for layers of live sound</p>
        <button
          type="button"
          aria-pressed={quayMic.loops}
          className={`${PAD} mt-1 px-3 ${quayMic.loops ? 'bg-ink text-ground' : ''}`}
          onClick={() => send({ device: 'Quay mic', kind: 'loop', on: !quayMic.loops })}
        >
          {quayMic.loops ? 'stop its loop' : 'play its loop'}
        </button>
      </section>
    </>
  );
}
