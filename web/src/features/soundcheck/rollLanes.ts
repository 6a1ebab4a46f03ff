import { midi } from '@rackle/core/midi';
import type { CaseRoll } from '@rackle/core/soundcheck';

/** A destination and channel, with what it got. */
export interface RollLane {
  name: string;
  notes: { key: number; fromMs: number; toMs: number }[];
  /** Other messages, by their times. */
  marks: number[];
}

const { NOTE_OFF, NOTE_ON } = midi;
/** A case as it is shown ends here: what sounds longer runs to the edge. */
const SHOWN_MS = 4000;

/** Notes and messages of a case, by where they went; and when it recalled. */
export function rollLanes({ done, sent }: CaseRoll): { lanes: RollLane[]; recalls: number[]; endMs: number } {
  const lanes = new Map<string, RollLane>();
  const open = new Map<string, RollLane['notes'][number]>();
  for (const { to, status, data1, data2, atMs } of sent) {
    if (atMs > SHOWN_MS) continue;
    const name = to.includes(' / ') ? to.split(' / ').slice(-2).join(' / ') : `${to}, ${(status & 15) + 1}`;
    const lane = lanes.get(name) ?? { name, notes: [], marks: [] };
    lanes.set(name, lane);
    const kind = status & 0xf0;
    const key = `${to} ${status & 15} ${data1}`;
    if (kind === NOTE_ON && data2 > 0) {
      const note = { key: data1, fromMs: atMs, toMs: SHOWN_MS };
      lane.notes.push(note);
      open.set(key, note);
    } else if (kind === NOTE_ON || kind === NOTE_OFF) {
      const note = open.get(key);
      if (note) note.toMs = atMs;
    } else lane.marks.push(atMs);
  }
  const recalls = [...new Set(done.filter(({ input }) => input.type === 'recall').map(({ atMs }) => atMs))];
  return { lanes: [...lanes.values()].filter(({ notes }) => notes.length > 0), recalls, endMs: SHOWN_MS };
}
