import { describe, expect, it } from '@jest/globals';
import type { PortListener } from '../src/host/ports/port';
import type { OutPort } from '../src/host/ports/port';
import { connectWebMidi } from '../src/host/ports/webMidiPorts';

class FakePort {
  onmidimessage: ((event: { data: Uint8Array; timeStamp: number }) => void) | null = null;
  sent: number[][] = [];
  state = 'connected';
  constructor(
    readonly id: string,
    readonly name: string,
    readonly type: 'input' | 'output',
  ) {}
  /** When each is to go out. */
  readonly stamps: (number | undefined)[] = [];
  send(bytes: Iterable<number>, atMs?: number): void {
    this.sent.push([...bytes]);
    this.stamps.push(atMs);
  }
}

function setUp() {
  const heard: unknown[][] = [];
  const outputs: OutPort[] = [];
  const listener: PortListener = {
    onMessage: (...message) => heard.push(message),
    onSysex: (...message) => heard.push(['sysex', ...message]),
    onInput: ({ name }, here) => heard.push(['input', name, here]),
    onOutput: (port, here) => {
      heard.push(['output', port.name, here]);
      outputs.push(port);
    },
  };
  const [input, output] = [new FakePort('1', 'Stage keys', 'input'), new FakePort('2', 'Module', 'output')];
  const access = {
    inputs: new Map([['1', input]]),
    outputs: new Map([['2', output]]),
    sysexEnabled: false,
    onstatechange: null as ((event: { port: FakePort }) => void) | null,
  };
  return { heard, outputs, listener, input, output, access };
}

describe('the machine’s MIDI ports', () => {
  it('are listed, heard and sent to', async () => {
    const { heard, outputs, listener, input, output, access } = setUp();
    expect(await connectWebMidi(listener, false, () => Promise.resolve(access as unknown as MIDIAccess))).toEqual({
      midi: 'on',
      sysex: false,
    });
    input.onmidimessage!({ data: Uint8Array.of(0x90, 60, 90), timeStamp: 5 });
    input.onmidimessage!({ data: Uint8Array.of(0xc3, 7), timeStamp: 6 });
    input.onmidimessage!({ data: Uint8Array.of(0x90, 60), timeStamp: 7 });
    input.onmidimessage!({ data: Uint8Array.of(0xf0, 1, 2, 0xf7), timeStamp: 8 });
    outputs[0].send(0xb1, 7, 100, 1000);
    outputs[0].send(0xc1, 7, 0, 1040.5);
    expect(heard).toEqual([
      ['input', 'Stage keys', true],
      ['output', 'Module', true],
      ['Stage keys', 0x90, 60, 90, 5],
      ['Stage keys', 0xc3, 7, 0, 6],
      ['Stage keys', 0, 0, 0, 7],
      ['sysex', 'Stage keys', 4, 8],
    ]);
    expect(output.sent).toEqual([
      [0xb1, 7, 100],
      [0xc1, 7],
    ]);
    expect(output.stamps).toEqual([1000, 1040.5]);
  });

  it('get system exclusive only where the browser lets it out: it is asked for when the show sends some', async () => {
    const { outputs, listener, output, access } = setUp();
    const asked: boolean[] = [];
    const ask = (sysex: boolean): Promise<MIDIAccess> => {
      asked.push(sysex);
      return Promise.resolve({ ...access, sysexEnabled: sysex } as unknown as MIDIAccess);
    };
    expect(await connectWebMidi(listener, false, ask)).toEqual({ midi: 'on', sysex: false });
    outputs[0].sendSysex(Uint8Array.of(1, 2));
    expect(output.sent).toEqual([]);
    expect(await connectWebMidi(listener, true, ask)).toEqual({ midi: 'on', sysex: true });
    outputs[1].sendSysex(Uint8Array.of(1, 2));
    expect(output.sent).toEqual([[0xf0, 1, 2, 0xf7]]);
    const only = (sysex: boolean): Promise<MIDIAccess> =>
      sysex ? Promise.reject(new DOMException('no', 'NotAllowedError')) : ask(false);
    expect(await connectWebMidi(listener, true, only)).toEqual({ midi: 'on', sysex: false });
    expect(asked).toEqual([false, true, false]);
  });

  it('that go and come are told once each', async () => {
    const { heard, listener, input, access } = setUp();
    await connectWebMidi(listener, false, () => Promise.resolve(access as unknown as MIDIAccess));
    input.state = 'disconnected';
    access.onstatechange!({ port: input });
    access.onstatechange!({ port: input });
    input.state = 'connected';
    access.onstatechange!({ port: input });
    expect(heard.slice(2)).toEqual([
      ['input', 'Stage keys', false],
      ['input', 'Stage keys', true],
    ]);
  });

  it('refused or absent is an answer, not an error', async () => {
    const { listener } = setUp();
    expect(await connectWebMidi(listener, false, null)).toEqual({ midi: 'absent', sysex: false });
    expect(
      await connectWebMidi(listener, false, () => Promise.reject(new DOMException('no', 'NotAllowedError'))),
    ).toEqual({
      midi: 'refused',
      sysex: false,
    });
    expect(
      await connectWebMidi(listener, false, () =>
        Promise.reject(new DOMException('no MIDI system', 'InvalidStateError')),
      ),
    ).toEqual({ midi: 'absent', sysex: false });
  });

  it('of one model are told apart, and a replugged one is found again by its name, also under a new id', async () => {
    const { heard, listener, access } = setUp();
    const twins = [new FakePort('a', 'Twin', 'input'), new FakePort('b', 'Twin', 'input')];
    access.inputs = new Map(twins.map((port) => [port.id, port]));
    await connectWebMidi(listener, false, () => Promise.resolve(access as unknown as MIDIAccess));
    const change = (port: FakePort, state: string): void => {
      port.state = state;
      access.onstatechange!({ port });
    };
    change(twins[0], 'disconnected');
    change(new FakePort('c', 'Twin', 'input'), 'connected');
    change(twins[1], 'disconnected');
    change(twins[1], 'connected');
    expect(heard.filter(([kind]) => kind === 'input').map(([, name, here]) => `${name} ${here}`)).toEqual([
      'Twin true',
      'Twin (2) true',
      'Twin false',
      'Twin true',
      'Twin (2) false',
      'Twin (2) true',
    ]);
  });
});
