import { midi } from '../midi';
import type { FileMessage } from './contents';

// Which messages of one port and channel become cues, and which stay in packed parts: such that at every tick cues and
// parts together, cues first, give the messages in the order of the file.

export type ChannelMessage = Extract<FileMessage, { kind: 'message' }>;

/** Messages of one port and channel, by tick, in the order of the file; of one length. */
export interface ChannelStream {
  messages: readonly ChannelMessage[];
  /** Number of the group that each comes from. */
  groups: readonly number[];
  /** 1: it becomes a cue. */
  isCue: Uint8Array;
}

/** The messages of several groups as one stream, none a cue yet. */
export function streamOf(groups: readonly { messages: readonly FileMessage[] }[]): ChannelStream {
  const messages: ChannelMessage[] = [];
  const from: number[] = [];
  groups.forEach((group, g) => {
    for (const message of group.messages) {
      if (message.kind !== 'message') continue;
      messages.push(message);
      from.push(g);
    }
  });
  if (groups.length === 1) return { messages, groups: from, isCue: new Uint8Array(messages.length) };
  const order = messages.map((_, i) => i).sort((a, b) => messages[a].atTick - messages[b].atTick);
  return {
    messages: order.map((i) => messages[i]),
    groups: order.map((i) => from[i]),
    isCue: new Uint8Array(messages.length),
  };
}

/**
 * Marks what becomes cues.
 * @param isPart by group: its messages stay together as a part, but for its programs
 */
export function markCues({ messages, groups, isCue }: ChannelStream, isPart: readonly boolean[]): void {
  for (let from = 0; from < messages.length;) {
    let to = from + 1;
    while (to < messages.length && messages[to].atTick === messages[from].atTick) to++;
    markTick(messages, from, to, (i) => isPart[groups[i]], isCue);
    from = to;
  }
}

const isNote = ({ status }: ChannelMessage): boolean => status === midi.NOTE_ON || status === midi.NOTE_OFF;

/** Ends of notes first, then what can be cues, then the rest: where a tick is not like that, it is a matter of parts. */
function markTick(
  messages: readonly ChannelMessage[],
  from: number,
  to: number,
  isPart: (i: number) => boolean,
  isCue: Uint8Array,
): void {
  let first = from;
  while (first < to && messages[first].status === midi.NOTE_OFF) first++;
  let end = first;
  let wanted = false;
  for (; end < to && !isNote(messages[end]); end++) wanted ||= messages[end].status === midi.PROGRAM || !isPart(end);
  // Where a part's controllers stand beside a program or another group's cues, all of that tick are cues. An end of a
  // note behind them would be taken for one before them.
  if (!wanted || (end < to && messages[end].status === midi.NOTE_OFF)) return;
  for (let i = end; i < to; i++) if (!isNote(messages[i])) return;
  isCue.fill(1, first, end);
}
