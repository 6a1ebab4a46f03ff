import { CONTROLLER, PROGRAM } from '../../midi/status';
import type { OutMessage } from '../../show';
import type { Registry } from '../state/registry';
import type { CompileNote, PatchMessage } from './compiled';
import type { SongSurroundings } from './surroundings';

/** A patch’s messages with their destinations; those that lead nowhere are noted. */
export function compileMessages(
  messages: readonly OutMessage[],
  around: SongSurroundings,
  registry: Registry,
  notes: CompileNote[],
  where: string,
): PatchMessage[] {
  return messages.flatMap((message): PatchMessage[] => {
    const destination = registry.outputPort(message.port);
    if (message.kind === 'sysex') {
      if (around.sysexOutputs.has(message.port))
        return [{ kind: 'sysex', destination, bytes: Uint8Array.from(message.bytes) }];
      notes.push({
        code: 'sysex-not-allowed',
        message: `${where}: ${message.port} does not allow system exclusive; the message is left out`,
      });
      return [];
    }
    const lane = registry.destinations[destination].lane + message.channel - 1;
    switch (message.kind) {
      case 'controller':
        return [
          {
            kind: 'controller',
            destination,
            lane,
            status: CONTROLLER,
            data1: message.controller,
            data2: message.value,
            msb: -1,
            lsb: -1,
          },
        ];
      case 'program':
        return [
          {
            kind: 'program',
            destination,
            lane,
            status: PROGRAM,
            data1: message.program,
            data2: 0,
            msb: message.msb ?? -1,
            lsb: message.lsb ?? -1,
          },
        ];
      case 'note':
        return [
          {
            kind: 'note',
            destination,
            lane,
            key: message.key,
            velocity: message.velocity,
            lengthMs: message.lengthMs ?? Infinity,
          },
        ];
    }
  });
}
