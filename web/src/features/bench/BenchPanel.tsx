import { useCallback, useState, type ReactNode } from 'react';
import type { BenchDevice, BenchGesture } from '../../live/door';
import { useApp, useDoor, useSetlist, useSongs } from '../../state/hooks';
import { Choice } from '../../ui/Choice';
import { AsterKeys } from './AsterKeys';

/** Simulated gear: each device is a port like any other. */
export function BenchPanel() {
  const door = useDoor();
  const bench = useApp(({ live }) => live.bench);
  const setlist = useSetlist();
  const songs = useSongs();
  const [held, setHeld] = useState<string | null>(null);
  const send = useCallback((gesture: BenchGesture): void => door.post({ type: 'bench', gesture }), [door]);
  if (!bench) return <div className="flex-1 p-3 text-ink2">The bench is being set up …</div>;
  const gone = (device: BenchDevice): boolean => bench.unplugged.includes(device);
  const box = (device: BenchDevice, about: string, children: ReactNode, className = '') => (
    <section aria-label={device} className={`flex min-w-0 flex-col gap-1 border-r border-rule px-3 py-1.5 ${className}`}>
      <h3 className="flex items-baseline gap-2 whitespace-nowrap"><span className="named text-base">{device}</span><span className="min-w-0 truncate text-xs text-ink2">{about}</span>
        <button type="button" className="ml-auto text-xs underline decoration-dotted" onClick={() => send({ device, kind: 'plug', plugged: gone(device) })}>{gone(device) ? 'plug in' : 'pull out'}</button></h3>
      <div className={gone(device) ? 'pointer-events-none opacity-30' : ''}>{children}</div>
    </section>
  );
  const pad = 'grid h-11 place-items-center border border-ink font-bold active:bg-ink active:text-ground select-none touch-none';
  const momentary = (name: string, press: () => void, release: () => void) => ({
    onPointerDown: () => { setHeld(name); press(); }, onPointerUp: () => { setHeld(null); release(); }, onPointerLeave: () => { if (held === name) { setHeld(null); release(); } },
    onKeyDown: (event: { key: string; repeat: boolean }) => { if ((event.key === 'Enter' || event.key === ' ') && !event.repeat) press(); }, onKeyUp: (event: { key: string }) => { if (event.key === 'Enter' || event.key === ' ') release(); },
  });
  return (
    <div className="flex min-w-0 flex-[5] flex-col overflow-auto" data-testid="bench">
      <div className="flex shrink-0 items-stretch border-b border-rule">
        {box('Treadle 6', `page ${bench.treadle.page + 1}`, (
          <div className="flex gap-1">
            <button type="button" aria-label="page down" className={`${pad} w-7`} onClick={() => send({ device: 'Treadle 6', kind: 'page', direction: -1 })}>−</button>
            {Array.from({ length: 6 }, (_, i) => {
              const program = bench.treadle.page * 6 + i;
              return <button key={i} type="button" aria-label={`Treadle pedal ${i + 1}`} onPointerDown={() => send({ device: 'Treadle 6', kind: 'pedal', pedal: i })} onKeyDown={(event) => { if (event.key === 'Enter') send({ device: 'Treadle 6', kind: 'pedal', pedal: i }); }} className={`${pad} mono w-9 ${program === bench.treadle.lit ? 'bg-ink text-ground' : ''}`}>{program + (setlist?.programsFrom ?? 1)}</button>;
            })}
            <button type="button" aria-label="page up" className={`${pad} w-7`} onClick={() => send({ device: 'Treadle 6', kind: 'page', direction: 1 })}>+</button>
          </div>
        ))}
        {box('Updown 2', `at ${bench.updown.counter}`, (
          <div className="flex gap-1">
            {([[-1, 'down'], [1, 'up']] as const).map(([direction, name]) => (
              <button key={name} type="button" aria-label={`Updown ${name}`} className={`${pad} w-12`} {...momentary(`updown${name}`, () => send({ device: 'Updown 2', kind: 'switch', direction, down: true }), () => send({ device: 'Updown 2', kind: 'switch', direction, down: false }))}>{name}</button>
            ))}
          </div>
        ))}
        {box('Clack 2', 'cc 80, 81', (
          <div className="flex gap-1">
            {['next', 'back'].map((name, i) => (
              <button key={name} type="button" aria-label={`Clack pedal ${i + 1}`} className={`${pad} w-12 ${bench.clack[i] ? 'bg-ink text-ground' : ''}`} {...momentary(`clack${i}`, () => send({ device: 'Clack 2', kind: 'pedal', pedal: i, down: true }), () => send({ device: 'Clack 2', kind: 'pedal', pedal: i, down: false }))}>{name}</button>
            ))}
          </div>
        ))}
        {box('Pilot Cutter', bench.pilot.playing ? `bar ${bench.pilot.bar} : ${bench.pilot.beat}` : 'a track player elsewhere', (
          <div className="flex min-w-0 items-center gap-2">
            <Choice label="song of Pilot Cutter" value={bench.pilot.entryId ?? ''} className="named min-w-0 truncate text-lg" onChange={(entryId) => send({ device: 'Pilot Cutter', kind: 'song', entryId })}
              groups={[{ name: '', items: (setlist?.entries ?? []).flatMap((entry) => (entry.kind === 'song' ? [{ value: entry.id, label: songs[entry.songId]?.name ?? '' }] : [])) }]} />
            <button type="button" disabled={bench.pilot.entryId === null} className={`${pad} w-12 shrink-0 disabled:opacity-40`} onClick={() => send({ device: 'Pilot Cutter', kind: bench.pilot.playing ? 'stop' : 'play' })}>{bench.pilot.playing ? 'stop' : 'play'}</button>
          </div>
        ), 'min-w-40 flex-1')}
      </div>
      <div className="flex min-h-0 flex-1 items-stretch">
        {box('Aster 73', 'stage piano', <AsterKeys bench={bench} send={send} />, 'min-w-0 flex-1')}
        {box('Skerry', bench.skerry.held > 0 ? `sound module, ${bench.skerry.held} notes down` : 'sound module', (
          <div className="flex flex-col gap-2">
            <table className="self-start text-[13px]"><tbody>
              {bench.skerry.channels.length === 0 && <tr><td className="text-ink2">nothing selected yet</td></tr>}
              {bench.skerry.channels.map((part) => (
                <tr key={part.channel}><td className="mono pr-2 text-ink2">ch {part.channel}</td><td className="named pr-2 text-lg leading-6">{part.switching ? '…' : part.name}</td><td className="mono whitespace-nowrap text-xs text-ink2">{part.bank}, {part.program + (setlist?.programsFrom ?? 1)}</td></tr>
              ))}
            </tbody></table>
            <ol aria-label="Skerry was sent" className="mono max-h-28 min-w-44 overflow-hidden text-[11px] leading-4 text-ink2">{bench.skerry.heard.map((line, i) => <li key={i}>{line}</li>)}</ol>
          </div>
        ), 'w-[clamp(230px,32%,430px)] shrink-0 overflow-hidden')}
      </div>
    </div>
  );
}
