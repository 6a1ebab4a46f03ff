export { BENCH_DEVICES, BENCH_INPUT, type BenchDevice, type BenchGesture, type BenchState } from './bench';
export { USUAL_BUDGET_MB, USUAL_JUMP_LU, type HostCommand, type MemoryWishes } from './commands';
export { PROTOCOL_VERSION, connectionOn, hostEndOn, type HostConnection } from './connection';
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
export {
  BUILD,
  connect,
  fits,
  isConnect,
  isReady,
  isRenew,
  isRenewed,
  originIn,
  ready,
  renew,
  renewed,
} from './handshake';
