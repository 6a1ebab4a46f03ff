import { Levelling } from './levelling';
import { Limiting } from './limiting';
import { COMPRESSOR, LIMITER, ROOM, ROTARY, type RoomOptions } from './processors';
import { Room } from './room';
import { Rotating } from './rotating';

// What an audio worklet has around it (Web Audio API, AudioWorkletGlobalScope).
declare const sampleRate: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(
  name: string,
  processor: new (options: { processorOptions: RoomOptions }) => object,
): void;

/** Over when its node is told null. */
class Processor extends AudioWorkletProcessor {
  protected isOver = false;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<unknown>) => {
      if (data === null) this.isOver = true;
      else this.told(data);
    };
  }

  protected told(_data: unknown): void {}
}

/** A room on the sound's own thread. Its node is told another length as a number. */
class RoomProcessor extends Processor {
  private readonly room: Room;

  constructor({ processorOptions: { seconds, preDelayS } }: { processorOptions: RoomOptions }) {
    super();
    this.room = new Room(sampleRate, seconds, preDelayS);
  }

  protected override told(data: unknown): void {
    this.room.setSeconds(data as number);
  }

  process([input]: Float32Array[][], [output]: Float32Array[][]): boolean {
    this.room.process(input[0] ?? null, input[1] ?? null, output[0], output[1]);
    return !this.isOver;
  }
}

class LimiterProcessor extends Processor {
  private readonly limiting = new Limiting(sampleRate);

  static get parameterDescriptors(): object[] {
    return [{ name: 'ceiling', defaultValue: 1, minValue: 0.001, maxValue: 1, automationRate: 'k-rate' }];
  }

  process([input]: Float32Array[][], [output]: Float32Array[][], { ceiling }: Record<string, Float32Array>): boolean {
    this.limiting.process(input[0] ?? null, input[1] ?? null, output[0], output[1], ceiling[0]);
    return !this.isOver;
  }
}

class CompressorProcessor extends Processor {
  private readonly levelling = new Levelling(sampleRate);
  private readonly settings = { thresholdDb: 0, ratio: 1, attackMs: 0, releaseMs: 0, makeUpDb: 0 };

  static get parameterDescriptors(): object[] {
    return [
      { name: 'thresholdDb', defaultValue: 0, minValue: -100, maxValue: 0, automationRate: 'k-rate' },
      { name: 'ratio', defaultValue: 1, minValue: 1, maxValue: 100, automationRate: 'k-rate' },
      { name: 'attackMs', defaultValue: 6, minValue: 0, maxValue: 1000, automationRate: 'k-rate' },
      { name: 'releaseMs', defaultValue: 180, minValue: 1, maxValue: 10_000, automationRate: 'k-rate' },
      { name: 'makeUpDb', defaultValue: 0, minValue: -40, maxValue: 40, automationRate: 'k-rate' },
    ];
  }

  process([input]: Float32Array[][], [output]: Float32Array[][], now: Record<string, Float32Array>): boolean {
    const { settings } = this;
    settings.thresholdDb = now.thresholdDb[0];
    settings.ratio = now.ratio[0];
    settings.attackMs = now.attackMs[0];
    settings.releaseMs = now.releaseMs[0];
    settings.makeUpDb = now.makeUpDb[0];
    this.levelling.process(input[0] ?? null, input[1] ?? null, output[0], output[1], settings);
    return !this.isOver;
  }
}

class RotaryProcessor extends Processor {
  private readonly rotating = new Rotating(sampleRate);
  private readonly settings = { speed: 0, rampS: 1, depth: 0 };

  static get parameterDescriptors(): object[] {
    return [
      { name: 'speed', defaultValue: 50, minValue: 0, maxValue: 100, automationRate: 'k-rate' },
      { name: 'rampS', defaultValue: 1, minValue: 0.01, maxValue: 100, automationRate: 'k-rate' },
      { name: 'depth', defaultValue: 0, minValue: 0, maxValue: 100, automationRate: 'k-rate' },
    ];
  }

  process([input]: Float32Array[][], [output]: Float32Array[][], now: Record<string, Float32Array>): boolean {
    const { settings } = this;
    settings.speed = now.speed[0];
    settings.rampS = now.rampS[0];
    settings.depth = now.depth[0];
    this.rotating.process(input[0] ?? null, input[1] ?? null, output[0], output[1], settings);
    return !this.isOver;
  }
}

registerProcessor(ROOM, RoomProcessor);
registerProcessor(LIMITER, LimiterProcessor);
registerProcessor(COMPRESSOR, CompressorProcessor);
registerProcessor(ROTARY, RotaryProcessor);
