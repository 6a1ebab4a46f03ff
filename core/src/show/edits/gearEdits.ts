import { RoleSource, type ControlSource } from '../model/control';
import { GearList, InputPort, OutputPort, type GearPort } from '../model/gearList';
import type { GearListId } from '../model/ids';

/** What learn has found out of a control, as far as a gear list keeps it. */
interface Learned {
  source: ControlSource;
  button: RoleSource['button'];
  reversed: boolean;
  /** A counting controller's lowest and highest number; null: it does not count. */
  counter: { lowest: number; highest: number } | null;
}

/** Controllers of pedals and breath, which nobody wants to wait for. */
const AT_ONCE = new Set([1, 2, 4, 11]);

const pickUpFor = (source: ControlSource): RoleSource['pickUp'] =>
  source.kind === 'wheel' || source.kind === 'pressure' || (source.kind === 'controller' && AT_ONCE.has(source.number))
    ? 'atOnce'
    : 'onMeeting';

/** A control that learn has found plays a role from now on; its port joins the gear list when it is not there yet. */
export function withLearned(gear: GearList, role: string, { source, button, reversed, counter }: Learned): GearList {
  const learned = RoleSource.parse({ role, source, button, reversed, pickUp: pickUpFor(source) });
  return { ...withPortOf(gear, source, counter), roles: [...gear.roles, learned] };
}

function withPortOf(gear: GearList, source: ControlSource, counter: Learned['counter']): GearList {
  if (source.kind === 'computerKey') return gear;
  const known = gear.ports.find((port): port is InputPort => port.direction === 'in' && port.alias === source.port);
  if (!known) {
    const port = InputPort.parse({
      direction: 'in',
      alias: source.port,
      device: source.port,
      plays: false,
      programs: counter ? { kind: 'counter', ...counter } : { kind: 'off' },
    });
    return { ...gear, ports: [...gear.ports, port] };
  }
  if (!counter || known.programs.kind === 'counter') return gear;
  return {
    ...gear,
    ports: gear.ports.map((port) =>
      port === known
        ? {
            ...known,
            programs: {
              kind: 'counter',
              channels: null,
              lowest: counter.lowest,
              highest: counter.highest,
              guardMs: 120,
            },
          }
        : port,
    ),
  };
}

/** Takes the last control off a role. */
export function withoutLastSource(gear: GearList, role: string): GearList {
  const at = gear.roles.map((entry) => entry.role).lastIndexOf(role);
  return at < 0 ? gear : { ...gear, roles: gear.roles.filter((_, i) => i !== at) };
}

/** Takes a control off its role. */
export const withoutSource = (gear: GearList, source: RoleSource): GearList => ({
  ...gear,
  roles: gear.roles.filter((entry) => entry !== source),
});

/** Changes how a control plays its role. */
export const withSource = (gear: GearList, source: RoleSource, change: Partial<RoleSource>): GearList => ({
  ...gear,
  roles: gear.roles.map((entry) => (entry === source ? RoleSource.parse({ ...entry, ...change }) : entry)),
});

/** Changes a port. Its alias changes in everything of the gear list that names it. */
export function withPort(
  gear: GearList,
  alias: string,
  direction: 'in' | 'out',
  change: (port: GearPort) => GearPort,
): GearList {
  const old = gear.ports.find((port) => port.alias === alias && port.direction === direction);
  if (!old) return gear;
  const next = change(old);
  const ports = gear.ports.map((port) => (port === old ? next : port));
  if (next.alias === alias) return { ...gear, ports };
  if (direction === 'out') {
    const { to } = gear.click;
    const click =
      to.kind === 'port' && to.port === alias ? { ...gear.click, to: { ...to, port: next.alias } } : gear.click;
    return { ...gear, ports, click };
  }
  const named = <T extends string | null>(name: T): T => (name === alias ? (next.alias as T) : name);
  const renamed = <T extends { source: ControlSource }>(entry: T): T =>
    entry.source.kind === 'computerKey'
      ? entry
      : { ...entry, source: { ...entry.source, port: named(entry.source.port) } };
  return {
    ...gear,
    clockFrom: named(gear.clockFrom),
    roles: gear.roles.map(renamed),
    ports: ports.map((port) =>
      port.direction === 'out'
        ? port
        : {
            ...port,
            doubleOf: named(port.doubleOf),
            pedalsFor: port.pedalsFor.map(named),
            controls: port.controls.map(renamed),
          },
    ),
  };
}

/** Takes a port out, with the controls by which it plays roles. */
export const withoutPort = (gear: GearList, alias: string, direction: 'in' | 'out'): GearList => ({
  ...gear,
  ports: gear.ports.filter((port) => port.alias !== alias || port.direction !== direction),
  roles:
    direction === 'out'
      ? gear.roles
      : gear.roles.filter(({ source }) => source.kind === 'computerKey' || source.port !== alias),
});

/**
 * A port that is here, for a gear list that does not have it: under its own name, or the next free one. A second port
 * of a device doubles the first.
 */
export function gearPortFrom(port: { name: string; direction: 'in' | 'out' }, there: readonly GearPort[]): GearPort {
  const taken = new Set(
    there.filter((other) => other.direction === port.direction).map((other) => other.alias as string),
  );
  const name = port.name.slice(0, 110);
  let alias = name;
  for (let n = 2; taken.has(alias); n++) alias = `${name} ${n}`;
  if (port.direction === 'out') return OutputPort.parse({ direction: 'out', alias, device: port.name });
  const first = there.find((other) => other.direction === 'in' && port.name.startsWith(`${other.device}, second port`));
  return InputPort.parse({ direction: 'in', alias, device: port.name, doubleOf: first?.alias ?? null });
}

/**
 * A gear list to start from: every port that is here, under its own name; every input plays, and its program changes
 * recall patches.
 */
export function gearFromPorts(
  id: GearListId,
  name: string,
  ports: readonly { name: string; direction: 'in' | 'out' }[],
): GearList {
  const all: GearPort[] = [];
  for (const port of ports.slice(0, 60)) all.push(gearPortFrom(port, all));
  return GearList.parse({ id, name, ports: all });
}
