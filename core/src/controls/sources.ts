import type { ControlSource, DeviceControl, GearList, InputPort, RoleSource } from '../show';

/** Whether two sources can be one control: a channel of null is any. */
export function sameSource(a: ControlSource, b: ControlSource): boolean {
  if (a.kind === 'computerKey' || b.kind === 'computerKey')
    return a.kind === b.kind && (a as { code: string }).code === (b as { code: string }).code;
  if (a.port !== b.port || (a.channel !== null && b.channel !== null && a.channel !== b.channel)) return false;
  if (a.kind === 'count' && b.kind === 'count') return a.direction === b.direction;
  if (a.kind === 'program' && b.kind === 'program')
    return a.number === b.number && overlap(a.msb, b.msb) && overlap(a.lsb, b.lsb);
  const [first, second] = [numbersOf(a), numbersOf(b)];
  if (first !== null && second !== null) return first.some((number) => second.includes(number));
  return (
    a.kind === b.kind &&
    'number' in a === 'number' in b &&
    (!('number' in a) || a.number === (b as { number: number }).number)
  );
}

const overlap = (a: number | null, b: number | null): boolean => a === null || b === null || a === b;

/** Controllers that a source uses; null when it is no controller. */
function numbersOf(source: ControlSource): number[] | null {
  if (source.kind === 'controller') return [source.number];
  return source.kind === 'controller14' ? [source.number, source.number + 32] : null;
}

/** Pairs of role sources that one control would play: the second does not get it. */
export function sourceConflicts(roles: readonly RoleSource[]): [RoleSource, RoleSource][] {
  return roles.flatMap((role, i) =>
    roles
      .slice(i + 1)
      .filter((other) => other.role !== role.role && sameSource(role.source, other.source))
      .map((other): [RoleSource, RoleSource] => [role, other]),
  );
}

/** The input ports of a gear list. */
export const inputsOf = (gear: GearList): InputPort[] =>
  gear.ports.filter((port): port is InputPort => port.direction === 'in');

/** The control of a device that a source is, where the gear list knows the device's controls. */
export function controlOf(gear: GearList, source: ControlSource): DeviceControl | null {
  if (source.kind === 'computerKey') return null;
  return (
    inputsOf(gear)
      .find((port) => port.alias === source.port)
      ?.controls.find((control) => sameSource(control.source, source)) ?? null
  );
}

/** How a control is moved: what stands for what when the gear changes. */
export type ControlClass =
  | 'momentary'
  | 'latching'
  | 'program'
  | 'count'
  | 'note'
  | 'knob'
  | 'encoder'
  | 'fine'
  | 'wheel'
  | 'pressure'
  | 'computerKey';

/** What kind of control a source is, as far as roles care. */
export function classOf({ source, button }: Pick<RoleSource, 'source' | 'button'>, isSwitch: boolean): ControlClass {
  switch (source.kind) {
    case 'controller':
      return source.coding !== 'absolute' ? 'encoder' : isSwitch ? button : 'knob';
    case 'controller14':
      return 'fine';
    default:
      return source.kind;
  }
}

const CONTINUOUS: readonly ControlClass[] = ['knob', 'encoder', 'fine', 'wheel', 'pressure'];
/** Whether a source stands somewhere between two ends. */
export const isContinuous = (kind: ControlClass): boolean => CONTINUOUS.includes(kind);
