import { CONTROLLER, NOTE_ON } from '../../midi/status';
import type { EntryMessage, NameListEntry } from '../../show';
import type { Address, StepBytes } from '../compile/compiled';

const bytesOf = (message: EntryMessage): StepBytes =>
  message.kind === 'note'
    ? { status: NOTE_ON, data1: message.key, data2: message.velocity }
    : { status: CONTROLLER, data1: message.controller, data2: message.value };

/** An address with what goes with it; −1 where a byte is not sent. */
export function addressFor(msb: number, lsb: number, program: number, messages: readonly EntryMessage[]): Address {
  const also = messages.map(bytesOf);
  return {
    msb,
    lsb,
    program,
    also,
    key: `${msb} ${lsb} ${program} ${also.map(({ status, data1, data2 }) => `${status} ${data1} ${data2}`).join(' ')}`,
  };
}

/** What an entry of a name list stands for. */
export const addressOf = (name: NameListEntry): Address =>
  addressFor(name.msb ?? -1, name.lsb ?? -1, name.program ?? -1, name.also);
