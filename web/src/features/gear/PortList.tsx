import { useState, useSyncExternalStore } from 'react';
import { messageInWords, type NameStyle } from '@rackle/core/midi';
import { becameInWords } from '@rackle/core/monitor';
import { gearPortFrom, type GearList, type GearPort, type InputPort } from '@rackle/core/show';
import { useApp, useEdit, useIsAlive, useLog } from '../../state/hooks';
import { useCountersAwaited } from '../../state/useCountersAwaited';
import { Button } from '../../ui/Button';
import { Stamp } from '../../ui/Stamp';
import { PortSheet } from './PortSheet';

/** Tonight's ports: what each is for, and whether it is there. */
export function PortList({ gear, style }: { gear: GearList; style: NameStyle }) {
  const edit = useEdit();
  const ports = useApp(({ live }) => live.ports);
  const [shown, setShown] = useState<{ alias: string; direction: 'in' | 'out' } | null>(null);
  const isAlive = useIsAlive();
  const spare = ports.filter(
    (port) =>
      port.alive && !gear.ports.some((wanted) => wanted.device === port.name && wanted.direction === port.direction),
  );
  const open = shown
    ? (gear.ports.find((port) => port.alias === shown.alias && port.direction === shown.direction) ?? null)
    : null;
  const awaited = useCountersAwaited();
  return (
    <section aria-label="ports">
      <h2 className="text-[13px] font-bold text-ink2">ports</h2>
      <ul>
        {gear.ports.map((port) => (
          <li key={`${port.direction} ${port.alias}`} className="border-b border-rule">
            <button
              type="button"
              onClick={() => setShown({ alias: port.alias, direction: port.direction })}
              className={`flex min-h-9 w-full items-baseline gap-2 text-left hover:bg-ground2 ${port.on ? '' : 'opacity-50'}`}
            >
              <span className="named shrink-0 text-base">{port.alias}</span>
              <span className="ml-auto min-w-0 text-right text-[13px] leading-4 text-ink2">
                {portWords(port, gear, awaited.includes(port.alias))}
              </span>
              {port.on && !isAlive(port) && <Stamp>no port</Stamp>}
            </button>
          </li>
        ))}
      </ul>
      {spare.length > 0 && (
        <>
          <h3 className="mt-4 text-[13px] font-bold text-ink2">also here, not in this gear list</h3>
          <ul>
            {spare.map((port) => (
              <li
                key={`${port.direction} ${port.name}`}
                className="flex min-h-9 items-center gap-2 border-b border-rule text-[13px]"
              >
                <span className="min-w-0 truncate">
                  {port.name}, {port.direction === 'in' ? 'input' : 'output'}
                </span>
                <span className="ml-auto">
                  <Button
                    look="plain"
                    onClick={() =>
                      edit({
                        label: `add ${port.name}`,
                        gearLists: [{ ...gear, ports: [...gear.ports, gearPortFrom(port, gear.ports)] }],
                      })
                    }
                  >
                    add
                  </Button>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      <LastSeen style={style} />
      {open && (
        <PortSheet
          gear={gear}
          port={open}
          onClose={() => setShown(null)}
          onRenamed={(alias) => setShown({ alias, direction: open.direction })}
        />
      )}
    </section>
  );
}

function programWords({ channels, programs }: InputPort, awaited: boolean): string | null {
  if (programs.kind === 'direct') return `numbers${channels === null ? '' : ` on ${channels.join(', ')}`}`;
  if (programs.kind === 'off') return null;
  return `counts ${programs.lowest}–${programs.highest}${awaited ? '; its first press finds its place' : ''}`;
}

function portWords(port: GearPort, gear: GearList, awaited: boolean): string {
  if (!port.on) return 'switched off';
  if (port.direction === 'out') return port.sendsClock ? 'output, gets clock' : 'output';
  if (port.doubleOf !== null) return `off: the same as ${port.doubleOf}`;
  return (
    [
      port.plays ? `plays${port.playsOn ? ` on ${port.playsOn.join(', ')}` : ''}` : null,
      programWords(port, awaited),
      gear.roles.some(({ source }) => source.kind !== 'computerKey' && source.port === port.alias) ? 'roles' : null,
      gear.clockFrom === port.alias ? 'clock' : null,
      port.keyShift === 0 ? null : `shifted ${port.keyShift}`,
      port.reversedPedals.length > 0 ? 'reversed' : null,
    ]
      .filter(Boolean)
      .join(' · ') || 'listened to'
  );
}

/** The last few messages, with what became of them. */
function LastSeen({ style }: { style: NameStyle }) {
  const log = useLog();
  const lines = useSyncExternalStore(log.subscribe, log.all)
    .filter((line) => line.direction === 'in' && line.kind !== 'clock' && line.status < 0xf0)
    .slice(-5);
  return (
    <>
      <h2 className="mt-5 text-[13px] font-bold text-ink2">last seen</h2>
      <ol className="mono mt-1 text-xs leading-5" aria-label="last seen">
        {lines.length === 0 && <li className="text-ink2">nothing yet: press a key</li>}
        {lines.map((line) => (
          <li key={line.number} className="truncate">
            {line.port} · {messageInWords(line.status, line.data1, line.data2, style)}{' '}
            <span className={line.became.startsWith('ignored') ? 'font-bold' : 'text-ink2'}>
              {becameInWords(line, style.programsFrom)}
            </span>
          </li>
        ))}
      </ol>
    </>
  );
}
