import { packed, unpacked, midi, type PackedMessage, type PackedMessages } from '../../midi';
import type { BackingPart } from '../model/backing';
import type { Section } from '../model/section';

// Backing parts as what happens in them, and edits of these.

/** A note of a backing part, or one of its other messages (status without a channel). */
export type BackingEvent =
  | { kind: 'note'; atTick: number; endTick: number; key: number; velocity: number; releaseVelocity: number }
  | ({ kind: 'message' } & PackedMessage);

/**
 * What a part plays, in its order: the first note-on of a key goes with the first note-off behind it; notes that none
 * ends, and note-offs that end none, are left out.
 */
export function backingEvents({ events }: Pick<BackingPart, 'events'>): readonly BackingEvent[] {
  const messages = unpacked(events);
  if (messages === null) return [];
  const known = pairedBefore.get(messages) ?? paired(messages);
  pairedBefore.set(messages, known);
  return known;
}

/** Made once for each part as it stands: the engine, the chart and the lead ask for the same. */
const pairedBefore = new WeakMap<PackedMessages, readonly BackingEvent[]>();

function paired(messages: PackedMessages): readonly BackingEvent[] {
  const found: (BackingEvent | null)[] = [];
  const open: number[][] = Array.from({ length: 128 }, () => []);
  const { ticks, statuses, data1, data2 } = messages;
  for (let i = 0; i < ticks.length; i++) {
    const [atTick, status, key, velocity] = [ticks[i], statuses[i], data1[i], data2[i]];
    if (status === midi.NOTE_ON && velocity > 0) {
      open[key].push(found.length);
      found.push({ kind: 'note', atTick, endTick: -1, key, velocity, releaseVelocity: midi.RELEASE_UNSAID });
    } else if (status === midi.NOTE_ON || status === midi.NOTE_OFF) {
      const note = found[open[key].shift() ?? -1];
      if (note?.kind !== 'note') continue;
      note.endTick = Math.max(note.atTick + 1, atTick);
      if (status === midi.NOTE_OFF) note.releaseVelocity = velocity;
    } else found.push({ kind: 'message', atTick, status, data1: key, data2: velocity });
  }
  for (const left of open) for (const at of left) found[at] = null;
  return found.filter((event) => event !== null);
}

/** The same as one packs them: at one tick ends of notes first, the rest in its order. */
export function packedEvents(events: readonly BackingEvent[]): string {
  const messages = events.flatMap((event): (PackedMessage & { rank: number })[] => {
    if (event.kind === 'message') return [{ ...event, rank: 1 }];
    const { atTick, endTick, key, velocity, releaseVelocity } = event;
    return [
      { atTick, status: midi.NOTE_ON, data1: key, data2: velocity, rank: 1 },
      { atTick: endTick, status: midi.NOTE_OFF, data1: key, data2: releaseVelocity, rank: 0 },
    ];
  });
  return packed(messages.sort((a, b) => a.atTick - b.atTick || a.rank - b.rank));
}

/** A part whose every message stands where `tickOf` says of its tick. */
export function withBackingTicks(part: BackingPart, tickOf: (tick: number) => number): BackingPart {
  const messages = unpacked(part.events);
  if (messages === null) return part;
  const { ticks, statuses, data1, data2 } = messages;
  const moved = Array.from(ticks, (tick, i) => ({
    atTick: tickOf(tick),
    status: statuses[i],
    data1: data1[i],
    data2: data2[i],
  }));
  return { ...part, events: packed(moved.sort((a, b) => a.atTick - b.atTick)) };
}

const startsIn = ({ atTick }: BackingEvent, { fromTick, toTick }: Section): boolean =>
  atTick >= fromTick && atTick < toTick;

function movedEvent(event: BackingEvent, by: number): BackingEvent {
  const atTick = event.atTick + by;
  return event.kind === 'note' ? { ...event, atTick, endTick: event.endTick + by } : { ...event, atTick };
}

/** Events where they run: in a section that repeats another one, those of that one instead of its own. */
export function eventsByTick(events: readonly BackingEvent[], sections: readonly Section[]): BackingEvent[] {
  const repeating = sections.filter(({ repeats }) => repeats !== null);
  if (repeating.length === 0) return [...events];
  const own = events.filter((event) => !repeating.some((section) => startsIn(event, section)));
  const repeated = repeating.flatMap((section) => {
    const original = sections.find(({ id }) => id === section.repeats);
    if (!original) return [];
    return events
      .filter((event) => startsIn(event, original))
      .map((event) => movedEvent(event, section.fromTick - original.fromTick));
  });
  return [...own, ...repeated].sort((a, b) => a.atTick - b.atTick);
}

/** A part that has of its own, in a section, what it played there because the section repeats another one. */
export function withOwnEvents(part: BackingPart, sections: readonly Section[], id: string): BackingPart {
  const section = sections.filter((one) => one.id === id || one.id === sections.find((own) => own.id === id)?.repeats);
  const events = backingEvents(part);
  const placed = eventsByTick(events, section);
  return placed.length === events.length && placed.every((event, i) => event === events[i])
    ? part
    : { ...part, events: packedEvents(placed) };
}
