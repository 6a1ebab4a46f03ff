// Names under which the worklet knows what it reckons, and what each is made with.

export const ROOM = 'room';
export const LIMITER = 'limiter';
export const COMPRESSOR = 'compressor';
export const ROTARY = 'rotary';

/** What a room is made with. */
export interface RoomOptions {
  seconds: number;
  preDelayS: number;
}
