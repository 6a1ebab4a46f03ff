import { ROOM, type RoomOptions } from './roomMessages';
import { Room } from './room';

// What an audio worklet has around it (Web Audio API, AudioWorkletGlobalScope).
declare const sampleRate: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(
  name: string,
  processor: new (options: { processorOptions: RoomOptions }) => object,
): void;

/** A room on the sound's own thread. Its node is told another length as a number, and null when it is let go of. */
class RoomProcessor extends AudioWorkletProcessor {
  private readonly room: Room;
  private isOver = false;

  constructor({ processorOptions: { seconds, preDelayS } }: { processorOptions: RoomOptions }) {
    super();
    this.room = new Room(sampleRate, seconds, preDelayS);
    this.port.onmessage = ({ data }: MessageEvent<number | null>) => {
      if (data === null) this.isOver = true;
      else this.room.setSeconds(data);
    };
  }

  process([input]: Float32Array[][], [output]: Float32Array[][]): boolean {
    this.room.process(input[0] ?? null, input[1] ?? null, output[0], output[1]);
    return !this.isOver;
  }
}

registerProcessor(ROOM, RoomProcessor);
