import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { messageInWords, type NameStyle } from '@rackle/core/midi';
import {
  MESSAGE_KINDS,
  becameInWords,
  isHiddenAtFirst,
  type MessageKind,
  type MonitorLine,
} from '@rackle/core/monitor';
import { useGear, useLog, useSetlist } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';

const LINE_PX = 22;
const EVERY = 'every';

/** Which lines are shown. A log is no table: its lines are new at message rate, and are filtered as they stand. */
interface Filter {
  port: string;
  channel: string;
  kind: MessageKind | typeof EVERY;
  sent: boolean;
  clock: boolean;
}

const OPEN: Filter = { port: EVERY, channel: EVERY, kind: EVERY, sent: true, clock: false };

const passes = (line: MonitorLine, filter: Filter): boolean =>
  (filter.port === EVERY || line.port === filter.port) &&
  (filter.channel === EVERY || String(line.channel) === filter.channel) &&
  (filter.kind === EVERY || line.kind === filter.kind) &&
  (filter.sent || line.direction !== 'out') &&
  (filter.clock || filter.kind === 'clock' || !isHiddenAtFirst(line));

/** As the panel of the device reads. */
interface PanelStyle extends NameStyle {
  /** The player's own names of channels. */
  channelNames: readonly { channel: number; name: string }[];
}
type StyleOf = (port: string) => PanelStyle;

const channelWords = ({ channel }: MonitorLine, { channelNames }: PanelStyle): string =>
  channel === 0
    ? ''
    : `ch ${channel}${channelNames.some((entry) => entry.channel === channel) ? ` ${channelNames.find((entry) => entry.channel === channel)!.name}` : ''} · `;
const words = (line: MonitorLine, style: PanelStyle): string =>
  line.direction === 'self'
    ? line.became
    : `${channelWords(line, style)}${messageInWords(line.status, line.data1, line.data2, style)}`;
const MARKS = { in: '→', out: '←', self: '●' } as const;

const itemOf = <V extends string>(value: V) => ({ value, label: value });

/** Every message, and what became of it. */
export function MonitorPanel() {
  const log = useLog();
  const kept = useSyncExternalStore(log.subscribe, log.all);
  const setlist = useSetlist();
  const [paused, setPaused] = useState<readonly MonitorLine[] | null>(null);
  const [filter, setFilter] = useState(OPEN);
  const [follows, setFollows] = useState(true);
  const box = useRef<HTMLDivElement>(null);
  const gear = useGear();
  const styleOf: StyleOf = (alias) => {
    const port = gear?.ports.find((candidate) => candidate.alias === alias);
    return {
      programsFrom: port?.programsFrom ?? setlist?.programsFrom ?? 1,
      middleC: port?.middleC ?? setlist?.middleC ?? 'C4',
      channelNames: port?.channelNames ?? [],
    };
  };
  const all = paused ?? kept;
  const lines = useMemo(() => all.filter((line) => passes(line, filter)), [all, filter]);
  const ports = useMemo(() => [...new Set(all.map((line) => line.port))].filter((port) => port !== '').sort(), [all]);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => LINE_PX,
    overscan: 12,
  });
  useEffect(() => {
    if (!paused && follows && lines.length > 0) rows.scrollToIndex(lines.length - 1);
  }, [lines, paused, follows, rows]);
  const copy = (): void =>
    void navigator.clipboard.writeText(
      lines
        .map((line) =>
          [
            (line.atMs / 1000).toFixed(3),
            MARKS[line.direction],
            line.port,
            words(line, styleOf(line.port)),
            line.direction === 'self' ? '' : becameInWords(line, styleOf(line.port).programsFrom),
          ].join('\t'),
        )
        .join('\n'),
    );
  const set = (change: Partial<Filter>): void => setFilter({ ...filter, ...change });
  return (
    <div className="flex min-w-0 flex-[4] flex-col border-l border-rule" data-testid="monitor">
      <div className="flex flex-wrap items-center gap-x-3 px-3 py-1 text-[13px]">
        <h2 className="named text-lg">Monitor</h2>
        <Choice
          label="port shown"
          value={filter.port}
          items={[{ value: EVERY, label: 'every port' }, ...ports.map(itemOf)]}
          onChange={(port) => set({ port })}
        />
        <Choice
          label="channel shown"
          value={filter.channel}
          items={[
            { value: EVERY, label: 'every channel' },
            ...Array.from({ length: 16 }, (_, i) => ({ value: String(i + 1), label: `channel ${i + 1}` })),
          ]}
          onChange={(channel) => set({ channel })}
        />
        <Choice
          label="kind shown"
          value={filter.kind}
          items={[{ value: EVERY, label: 'all kinds' }, ...MESSAGE_KINDS.map(itemOf)]}
          onChange={(kind) => set({ kind })}
        />
        <label className="flex items-center gap-1">
          <input type="checkbox" checked={filter.sent} onChange={(event) => set({ sent: event.target.checked })} /> what
          was sent
        </label>
        <label className="flex items-center gap-1">
          <input type="checkbox" checked={filter.clock} onChange={(event) => set({ clock: event.target.checked })} />{' '}
          clock, doubles
        </label>
        <span className="ml-auto flex items-center">
          <span className="mono text-xs text-ink2" data-testid="monitor-count">
            {lines.length}
          </span>
          <Button look="plain" onClick={() => setPaused(paused ? null : kept)}>
            {paused ? 'Go on' : 'Pause'}
          </Button>
          <Button look="plain" onClick={copy}>
            Copy
          </Button>
          <Button
            look="plain"
            onClick={() => {
              log.clear();
              setPaused(null);
            }}
          >
            Clear
          </Button>
        </span>
      </div>
      <div
        ref={box}
        role="log"
        aria-label="messages"
        className="mono min-h-0 flex-1 overflow-auto px-3 text-xs"
        tabIndex={0}
        onScroll={(event) => {
          const { scrollTop, scrollHeight, clientHeight } = event.currentTarget;
          setFollows(scrollHeight - scrollTop - clientHeight < LINE_PX * 2);
        }}
      >
        {lines.length === 0 && (
          <p className="font-[family-name:var(--font-text)] text-sm text-ink2">
            {all.length === 0
              ? 'Nothing has come in yet. Play a key on the bench, or press a pedal.'
              : 'Nothing passes this filter.'}
          </p>
        )}
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((row) => (
            <Line
              key={lines[row.index].number}
              line={lines[row.index]}
              style={styleOf(lines[row.index].port)}
              top={row.start}
            />
          ))}
        </div>
      </div>
    </div>
  );
}

function Line({ line, style, top }: { line: MonitorLine; style: PanelStyle; top: number }) {
  const look = line.strong ? 'font-bold' : line.direction === 'in' ? '' : 'text-ink2';
  return (
    <div
      className={`absolute inset-x-0 flex gap-3 whitespace-nowrap ${look}`}
      style={{ height: LINE_PX, transform: `translateY(${top}px)` }}
      title={line.became}
    >
      <span className="w-14 shrink-0 text-right">{(line.atMs / 1000).toFixed(3)}</span>
      <span className="w-3 shrink-0">{MARKS[line.direction]}</span>
      {line.direction === 'self' ? (
        <span className="min-w-0 truncate">{line.became}</span>
      ) : (
        <>
          <span className="w-20 shrink-0 truncate">{line.port}</span>
          <span className="w-40 shrink-0 truncate">{words(line, style)}</span>
          <span className="min-w-0 truncate">{becameInWords(line, style.programsFrom)}</span>
        </>
      )}
    </div>
  );
}
