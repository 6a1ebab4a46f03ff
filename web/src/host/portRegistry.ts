import type { Registry } from '@rackle/core/engine';
import type { GearList } from '@rackle/core/show';
import type { PortState } from '../protocol';
import type { InPort, OutPort } from './ports/port';

const CONTROLLER = 0xb0;
/** Pedal up, all sound off, all notes off, controllers to rest. */
const SILENCE = [
  [64, 0],
  [120, 0],
  [123, 0],
  [121, 0],
] as const;

/** The ports that have been seen, and where the engine's destinations lead tonight. */
export class PortRegistry {
  private readonly outputs = new Map<string, OutPort>();
  private readonly seen = new Map<string, PortState>();
  /** By destination of the registry, where it is an output port. */
  private outputOf: (OutPort | null | undefined)[] = [];

  /** By a port's arrival or its going. */
  note(port: InPort | OutPort, direction: 'in' | 'out', here: boolean): void {
    const { name, origin } = port;
    this.seen.set(`${direction} ${name}`, { name, direction, origin, alive: here });
    if (direction === 'in') return;
    if (here) this.outputs.set(name, port as OutPort);
    else this.outputs.delete(name);
  }

  /** Leads each output port of the gear list to its device, where it is here. */
  lead(registry: Registry, gear: GearList | null): void {
    const devices = new Map(
      (gear?.ports ?? []).flatMap((port) =>
        port.direction === 'out' && port.on ? [[port.alias as string, port.device as string] as const] : [],
      ),
    );
    this.outputOf = [];
    for (const destination of registry.ports)
      this.outputOf[destination] = this.outputs.get(devices.get(registry.nameOf(destination)) ?? '') ?? null;
  }

  /** Undefined: it is no output port; null: its device is not here. @hotpath */
  at(destination: number): OutPort | null | undefined {
    return this.outputOf[destination];
  }

  /** Ends whatever sounds on all outputs of the gear list, as a second panic does. */
  silence(): void {
    for (const port of new Set(this.outputOf)) {
      if (!port) continue;
      for (let channel = 0; channel < 16; channel++)
        for (const [controller, value] of SILENCE) port.send(CONTROLLER | channel, controller, value, 0);
    }
  }

  states(): PortState[] {
    return [...this.seen.values()];
  }
}
