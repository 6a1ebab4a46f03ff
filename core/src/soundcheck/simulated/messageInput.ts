import type { EngineInput } from '../../engine';

/** A channel message as it comes in from a device. */
export const messageInput = (device: string, status: number, data1: number, data2: number): EngineInput => ({
  type: 'message',
  device,
  status,
  data1,
  data2,
});
