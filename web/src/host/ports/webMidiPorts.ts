import { dataLength } from '@rackle/core/midi';
import type { PortListener } from './port';

/** Whether the browser gives the machine’s MIDI ports; if not, why. */
export type MidiOutcome = 'on' | 'refused' | 'absent';

/** What has come of asking for the machine's ports, and whether system exclusive goes out to them. */
export interface MidiGiven {
  midi: MidiOutcome;
  sysex: boolean;
}

/** Asks the browser; with `sysex` it asks the player whether system exclusive may be sent as well. */
type Ask = (sysex: boolean) => Promise<MIDIAccess>;

const isRefusal = (cause: unknown): boolean =>
  cause instanceof DOMException && (cause.name === 'NotAllowedError' || cause.name === 'SecurityError');

/** Where system exclusive is refused, all else may still be given. */
async function accessBy(ask: Ask, sysex: boolean): Promise<MIDIAccess> {
  try {
    return await ask(sysex);
  } catch (cause) {
    if (!sysex || !isRefusal(cause)) throw cause;
    return ask(false);
  }
}

/**
 * Connects the machine's MIDI ports. Absent (no support, no MIDI system) and refused are answers, not errors:
 * the bench works on either way.
 * @param sysex whether the show sends system exclusive: it is asked for only then
 */
export async function connectWebMidi(
  listener: PortListener,
  sysex: boolean,
  ask: Ask | null = requester(),
): Promise<MidiGiven> {
  if (ask === null) return { midi: 'absent', sysex: false };
  let access: MIDIAccess;
  try {
    access = await accessBy(ask, sysex);
  } catch (cause) {
    return { midi: isRefusal(cause) ? 'refused' : 'absent', sysex: false };
  }
  const { sysexEnabled } = access;
  const known = new Map<string, boolean>();
  const names = new PortNames();
  const take = (port: MIDIPort): void => {
    const here = port.state === 'connected';
    if (known.get(port.id) === here) return;
    known.set(port.id, here);
    const name = names.of(port);
    if (!here) names.leave(port);
    if (port.type === 'input') {
      (port as MIDIInput).onmidimessage = here ? (event) => hear(event, name, listener) : null;
      listener.onInput({ name, origin: 'midi' }, here);
    } else listener.onOutput(outPort(port as MIDIOutput, name, sysexEnabled), here);
  };
  access.inputs.forEach(take);
  access.outputs.forEach(take);
  access.onstatechange = ({ port }) => {
    if (port) take(port);
  };
  return { midi: 'on', sysex: sysexEnabled };
}

/**
 * Names by which ports are told apart and found again. Two of one model have one name: the second is called “… (2)” for
 * as long as
 * both are here. One that is replugged, perhaps under a new id, gets the free name back.
 */
class PortNames {
  private readonly here = new Map<string, string>();
  private readonly before = new Map<string, string>();

  of(port: { id: string; name?: string | null; type: string }): string {
    const id = `${port.type} ${port.id}`;
    const present = this.here.get(id);
    if (present !== undefined) return present;
    const plain = port.name?.trim() || port.id;
    const taken = new Set(
      [...this.here].filter(([other]) => other.startsWith(`${port.type} `)).map(([, name]) => name),
    );
    const earlier = this.before.get(id);
    let name = earlier !== undefined && !taken.has(earlier) ? earlier : plain;
    for (let n = 2; taken.has(name); n++) name = `${plain} (${n})`;
    this.here.set(id, name);
    this.before.set(id, name);
    return name;
  }

  leave(port: { id: string; type: string }): void {
    this.here.delete(`${port.type} ${port.id}`);
  }
}

const requester = (): Ask | null =>
  typeof navigator !== 'undefined' && typeof navigator.requestMIDIAccess === 'function'
    ? (sysex) => navigator.requestMIDIAccess({ sysex })
    : null;

/** @hotpath */
function hear(event: MIDIMessageEvent, name: string, listener: PortListener): void {
  const { data } = event;
  if (data === null || data.length === 0) return;
  if (data[0] === 0xf0) return listener.onSysex(name, data.length, event.timeStamp);
  const needed = dataLength(data[0]);
  // Too short, or no status: the engine counts it as malformed.
  if (needed < 0 || data.length < needed + 1) return listener.onMessage(name, 0, 0, 0, event.timeStamp);
  listener.onMessage(name, data[0], needed > 0 ? data[1] : 0, needed > 1 ? data[2] : 0, event.timeStamp);
}

function outPort(
  port: MIDIOutput,
  name: string,
  sysex: boolean,
): {
  name: string;
  origin: 'midi';
  send(status: number, data1: number, data2: number, atMs: number): void;
  sendSysex(bytes: Uint8Array): void;
} {
  const buffers = [new Uint8Array(1), new Uint8Array(2), new Uint8Array(3)];
  return {
    name,
    origin: 'midi',
    send(status, data1, data2, atMs) {
      const buffer = buffers[Math.max(0, dataLength(status))];
      buffer[0] = status;
      if (buffer.length > 1) buffer[1] = data1;
      if (buffer.length > 2) buffer[2] = data2;
      port.send(buffer, atMs);
    },
    // Sent without leave it would throw, and take the recall with it.
    sendSysex: (bytes) => sysex && port.send([0xf0, ...bytes, 0xf7]),
  };
}
