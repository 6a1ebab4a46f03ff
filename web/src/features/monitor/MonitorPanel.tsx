import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import type { StampedRecord } from '../../live/door';
import { recordsCleared } from '../../live/liveSlice';
import { useAct, useApp, useSetlist } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { recordInWords } from './recordInWords';

const LINE_PX = 22;
const HIDDEN = new Set(['clock']);

/** Every message, and what became of it. */
export function MonitorPanel() {
  const act = useAct();
  const records = useApp(({ live }) => live.records);
  const setlist = useSetlist();
  const [paused, setPaused] = useState<StampedRecord[] | null>(null);
  const [outputs, setOutputs] = useState(true);
  const box = useRef<HTMLDivElement>(null);
  const style = { programsFrom: setlist?.programsFrom ?? 1, middleC: setlist?.middleC ?? 'C4' } as const;
  const lines = (paused ?? records).filter(({ record }) => !(record.type === 'ignored' && HIDDEN.has(record.reason)) && !(record.type === 'in' && record.status >= 0xf8) && (outputs || record.type !== 'out'));
  const rows = useVirtualizer({ count: lines.length, getScrollElement: () => box.current, estimateSize: () => LINE_PX, overscan: 12 });
  useEffect(() => {
    if (!paused && lines.length > 0) rows.scrollToIndex(lines.length - 1);
  }, [lines.length, paused, rows]);
  const copy = (): void => void navigator.clipboard.writeText(lines.map(({ record }) => {
    const { mark, where, what } = recordInWords(record, style);
    return `${(record.atMs / 1000).toFixed(3)} ${mark} ${where} ${what}`;
  }).join('\n'));
  return (
    <div className="flex min-w-0 flex-[3] flex-col border-l border-rule" data-testid="monitor">
      <div className="flex items-center gap-2 px-3 py-1">
        <h2 className="named text-lg">Monitor</h2>
        <span className="text-[13px] text-ink2">{lines.length} lines</span>
        <label className="ml-auto flex items-center gap-1 text-[13px]"><input type="checkbox" checked={outputs} onChange={(event) => setOutputs(event.target.checked)} /> what was sent</label>
        <Button look="plain" onClick={() => setPaused(paused ? null : records)}>{paused ? 'Go on' : 'Pause'}</Button>
        <Button look="plain" onClick={copy}>Copy</Button>
        <Button look="plain" onClick={() => act(recordsCleared())}>Clear</Button>
      </div>
      <div ref={box} role="log" aria-label="messages" className="mono min-h-0 flex-1 overflow-y-auto px-3 text-xs" tabIndex={0}>
        {lines.length === 0 && <p className="font-[family-name:var(--font-text)] text-sm text-ink2">Nothing has come in yet. Play a key on the bench, or press a pedal.</p>}
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((row) => {
            const { record } = lines[row.index];
            const { mark, where, what } = recordInWords(record, style);
            return (
              <div key={lines[row.index].number} className={`absolute inset-x-0 flex gap-3 whitespace-nowrap ${record.type === 'recall' ? 'font-bold' : record.type === 'in' ? '' : 'text-ink2'}`} style={{ height: LINE_PX, transform: `translateY(${row.start}px)` }}>
                <span className="w-16 shrink-0 text-right">{(record.atMs / 1000).toFixed(3)}</span><span className="w-3 shrink-0">{mark}</span><span className="w-36 shrink-0 truncate">{where}</span><span className="min-w-0 truncate">{what}</span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
