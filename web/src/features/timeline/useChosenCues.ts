import { useMemo, useState } from 'react';
import { copiedCues, withCues, withMovedCues, withoutCues, type Cue, type CueId } from '@rackle/core/show';
import { newId } from '../../state/ids';
import { LANES } from './cueWords';
import type { TimelineNow } from './timelineContext';

/** Which cues are chosen, and what is done with all of them, each as one edit. */
export interface ChosenCues {
  selected: ReadonlySet<string>;
  select(ids: ReadonlySet<string>): void;
  selectAll(): void;
  selectWithin(fromTick: number, toTick: number, lanes: readonly string[], more: boolean): void;
  /** @param more the others stay as they are */
  toggle(cue: Cue, more: boolean): void;
  /** How far they can go together: none before the start, none behind the end. */
  within(byTicks: number): number;
  moveBy(tickOf: (tick: number) => number, mergeKey?: string): void;
  remove(): void;
  copy(): void;
  paste(): void;
  canPaste: boolean;
}

/** What was copied last, in whichever song. */
let copied: { cues: readonly Cue[]; fromTick: number } | null = null;

const MOST_CUES = 2000;
const kindsIn = (lane: string): readonly string[] => LANES.find(({ id }) => id === lane)?.kinds ?? ['recall'];

export function useChosenCues({ song, map, change, tickNow }: TimelineNow): ChosenCues {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [, setCopies] = useState(0);
  // What is gone is chosen no longer.
  const cues = useMemo(() => song.cues.filter(({ id }) => chosen.has(id)), [song.cues, chosen]);
  const selected: ReadonlySet<string> = useMemo(() => new Set(cues.map(({ id }) => id as string)), [cues]);
  const words = (verb: string): string => `${verb} ${cues.length === 1 ? 'a cue' : `${cues.length} cues`}`;
  const idsOf = (of: readonly Cue[]): string[] => of.map(({ id }) => id as string);
  return {
    selected,
    select: setChosen,
    selectAll: () => setChosen(new Set(idsOf(song.cues))),
    selectWithin: (fromTick, toTick, lanes, more) => {
      const kinds = lanes.flatMap(kindsIn);
      const inside = song.cues.filter(
        ({ kind, atTick }) => kinds.includes(kind) && atTick >= fromTick && atTick <= toTick,
      );
      setChosen(new Set([...(more ? selected : []), ...idsOf(inside)]));
    },
    toggle: (cue, more) => {
      const next = new Set(more ? selected : []);
      if (more && selected.has(cue.id)) next.delete(cue.id);
      else next.add(cue.id);
      setChosen(next);
    },
    within: (byTicks) => {
      const ticks = cues.map(({ atTick }) => atTick);
      return Math.max(-Math.min(...ticks), Math.min(map.endTick - 1 - Math.max(...ticks), byTicks));
    },
    moveBy: (tickOf, mergeKey) => {
      if (cues.length > 0) change(words('move'), withMovedCues(song, selected, tickOf, map.endTick), mergeKey);
    },
    remove: () => {
      if (cues.length > 0) change(words('remove'), withoutCues(song, selected));
    },
    copy: () => {
      if (cues.length === 0) return;
      copied = { cues, fromTick: Math.min(...cues.map(({ atTick }) => atTick)) };
      setCopies((count) => count + 1);
    },
    paste: () => {
      if (copied === null) return;
      const room = Math.max(0, MOST_CUES - song.cues.length);
      const pasted = copiedCues(copied.cues, copied.fromTick, tickNow(), () => newId<CueId>('cue')).slice(0, room);
      if (pasted.length === 0) return;
      change(pasted.length === 1 ? 'paste a cue' : `paste ${pasted.length} cues`, withCues(song, pasted));
      setChosen(new Set(idsOf(pasted)));
    },
    canPaste: copied !== null,
  };
}
