/** Name under which the worklet knows it. */
export const ROOM = 'room';

/** What a room is made with. */
export interface RoomOptions {
  seconds: number;
  preDelayS: number;
}
