/** A MIDI input of the machine or of the bench, under one interface. */
export interface InPort {
  readonly name: string;
  readonly origin: 'bench' | 'midi';
}

/** A port that messages are sent to. */
export interface OutPort {
  readonly name: string;
  readonly origin: 'bench' | 'midi';
  /** A channel or real-time message, to go out at a time (or now, where that has passed), in ms; hot path. */
  send(status: number, data1: number, data2: number, atMs: number): void;
  sendSysex(bytes: Uint8Array): void;
}

/** What a hub of ports tells its owner. Times are in ms of `performance.now()`. */
export interface PortListener {
  onMessage(port: string, status: number, data1: number, data2: number, atMs: number): void;
  onSysex(port: string, length: number, atMs: number): void;
  onInput(port: InPort, here: boolean): void;
  onOutput(port: OutPort, here: boolean): void;
}
