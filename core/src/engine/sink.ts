/** Where the engine's output goes. Its methods are on the playing path: they must not throw, await or keep what they are given. */
export interface EngineSink {
  /** A channel message to a destination of the `Book`; `status` carries the channel (0–15). */
  send(destination: number, status: number, data1: number, data2: number, atMs: number): void;
  /** System exclusive, without F0 and F7. */
  sendSysex(destination: number, bytes: Uint8Array, atMs: number): void;
  /** Built-in layers: level in dB, pan −100…100, sends in per cent, reached within `rampMs`. */
  balance(destination: number, levelDb: number, pan: number, room: number, echo: number, rampMs: number, atMs: number): void;
  /** Built-in layers: every voice that sounds now fades to silence in `fadeMs`; later voices are not touched. */
  fade(destination: number, fadeMs: number, atMs: number): void;
}
