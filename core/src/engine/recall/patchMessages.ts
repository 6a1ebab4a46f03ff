import { CC_BANK_LSB, CC_BANK_MSB, CONTROLLER } from '../../midi/status';
import { assertNever } from '../../result';
import type { PatchMessage } from '../compile/compiled';
import type { NoteRouter } from '../play/noteRouter';
import type { EngineState } from '../state/engineState';
import type { Outboard } from './outboard';

/** Sends what a patch says as it is entered or left. */
export class PatchMessages {
  constructor(
    private readonly state: EngineState,
    private readonly notes: NoteRouter,
    private readonly outboard: Outboard,
  ) {}

  send(messages: readonly PatchMessage[]): void {
    const { away } = this.state.lanes;
    for (const message of messages) if (away[message.destination] !== 1) this.sendOne(message);
  }

  private sendOne(message: PatchMessage): void {
    const { lanes, show } = this.state;
    switch (message.kind) {
      case 'sysex':
        return lanes.sysex(message.destination, message.bytes);
      case 'note':
        return this.notes.startEntering(message.lane, message.key, message.velocity, message.lengthMs);
      case 'program':
        lanes.sendAddress(
          message.lane,
          show!.laneUsesMsb[message.lane] === 1 ? Math.max(0, message.msb) : message.msb,
          show!.laneUsesLsb[message.lane] === 1 ? Math.max(0, message.lsb) : message.lsb,
          message.data1,
        );
        return this.outboard.startSwitching(message.lane);
      case 'controller':
        if (message.data1 === CC_BANK_MSB || message.data1 === CC_BANK_LSB)
          return lanes.emit(message.lane, CONTROLLER, message.data1, message.data2);
        return lanes.sendValue(message.lane, message.data1, message.data2);
      default:
        return assertNever(message);
    }
  }
}
