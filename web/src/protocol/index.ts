export { BENCH_DEVICES, BENCH_INPUT, type BenchDevice, type BenchGesture, type BenchState } from './bench';
export type { HostCommand } from './commands';
export { DOOR_VERSION, doorOn, hostEndOn, type HostDoor } from './door';
export type {
  BalanceNow,
  ControlState,
  HandOver,
  HostEvent,
  HostKept,
  HostPlace,
  LearnState,
  Levels,
  PortState,
  StampedRecord,
  Strike,
  Topics,
} from './events';
export { BUILD, door, fits, isDoor, isReady, isRenew, isRenewed, originIn, ready, renew, renewed } from './handshake';
