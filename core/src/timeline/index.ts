export {
  TICKS_PER_QUARTER,
  formatPosition,
  parsePosition,
  positionAt,
  tickAt,
  ticksPerBar,
  ticksPerBeat,
  type Position,
} from './position';
export { msAtTick, tickAtMs } from './tempo';
