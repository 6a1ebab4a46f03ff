import { midi } from '../midi';
import type { FileMessage } from './contents';

// Which messages of one port and channel become cues, and which stay in packed parts: such that at every tick cues and
// parts together, cues first, give the messages in the order of the file.

type Channel = Extract<FileMessage, { kind: 'message' }>;

/** A message with the group it comes from. */
export interface Sorted {
  message: Channel;
  group: number;
  /** It becomes a cue. */
  isCue: boolean;
}

const isNote = ({ status }: Channel): boolean => status === midi.NOTE_ON || status === midi.NOTE_OFF;

/**
 * @param messages of one port and channel, by tick, in the order of the file
 * @param isPart whether a group's messages stay together as a part, but for its programs
 */
export function sortedCues(
  messages: readonly { message: Channel; group: number }[],
  isPart: (group: number) => boolean,
): Sorted[] {
  const sorted: Sorted[] = [];
  for (let from = 0; from < messages.length;) {
    let to = from + 1;
    while (to < messages.length && messages[to].message.atTick === messages[from].message.atTick) to++;
    sorted.push(...sortedTick(messages.slice(from, to), isPart));
    from = to;
  }
  return sorted;
}

/** Ends of notes first, then what can be cues, then the rest: where a tick is not like that, it is a matter of parts. */
function sortedTick(
  tick: readonly { message: Channel; group: number }[],
  isPart: (group: number) => boolean,
): Sorted[] {
  const ends = tick.findIndex(({ message }) => message.status !== midi.NOTE_OFF);
  if (ends < 0) return tick.map((one) => ({ ...one, isCue: false }));
  const firstNote = tick.findIndex(({ message }, i) => i >= ends && isNote(message));
  const cuesTo = firstNote < 0 ? tick.length : firstNote;
  // An end of a note behind the cues would be taken for one before them.
  const isLikeThat =
    tick[cuesTo]?.message.status !== midi.NOTE_OFF && tick.every(({ message }, i) => i < cuesTo || isNote(message));
  const hasProgram = tick.some(({ message }) => message.status === midi.PROGRAM);
  const middle = tick.slice(ends, cuesTo);
  // Where a part's controllers stand beside a program or another group's cues, all of that tick are cues.
  const areCues = isLikeThat && (hasProgram || middle.some(({ group }) => !isPart(group)));
  return tick.map((one, i) => ({ ...one, isCue: areCues && i >= ends && i < cuesTo }));
}
