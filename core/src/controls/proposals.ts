import {
  RoleSource,
  type ControlSource,
  type DeviceControl,
  type InputPort,
  type GearList,
  type Setlist,
  type Song,
} from '../show';
import { openRoles } from './roles';
import { classOf, controlOf, inputsOf, isContinuous, sameSource, type ControlClass } from './sources';

/** A control of tonight's gear that could play an open role. */
export interface Proposal {
  role: string;
  control: DeviceControl;
  source: RoleSource;
  /** Why this one. */
  because: string;
}

interface Free {
  control: DeviceControl;
  kind: ControlClass;
}

/**
 * Proposes controls for the roles that tonight's gear leaves open: by kind (a momentary switch for a momentary switch,
 * a knob for a knob)
 * and by position (the first knob for the first knob). What another gear list uses for the role says of which kind it
 * was.
 * No control is proposed twice, and none that plays a role or keys that sound.
 */
export function proposeSources(
  setlist: Setlist,
  songs: Readonly<Record<string, Song>>,
  gear: GearList,
  others: readonly GearList[],
): Proposal[] {
  const free = freeControls(gear);
  const wishes = openRoles(setlist, songs, gear).map(({ role }) => wishFor(role.role, role.isValue ?? false, others));
  // In the order in which they stood on the other gear, so that the first knob stays the first knob.
  const inOrder = wishes.map((wish, i) => ({ ...wish, i })).sort((a, b) => a.place - b.place || a.i - b.i);
  const proposals: (Proposal & { i: number })[] = [];
  for (const wish of inOrder) {
    const best = free
      .map((candidate) => ({ candidate, fit: fitOf(candidate.kind, wish) }))
      .filter(({ fit }) => fit > 0)
      .sort((a, b) => b.fit - a.fit)[0];
    if (!best) continue;
    free.splice(free.indexOf(best.candidate), 1);
    const { control } = best.candidate;
    proposals.push({
      i: wish.i,
      role: wish.role,
      control,
      source: RoleSource.parse({
        ...wish.like,
        role: wish.role,
        source: control.source,
        button: control.button,
        ...(wish.like ? { reversed: false, lowest: 0, highest: 127 } : {}),
      }),
      because:
        wish.kind === best.candidate.kind
          ? `the same kind of control as on ${wish.gearName}`
          : wish.isValue
            ? 'a control that moves a value'
            : 'a control that can be hit',
    });
  }
  return proposals
    .sort((a, b) => a.i - b.i)
    .map(({ role, control, source, because }) => ({ role, control, source, because }));
}

interface Wish {
  role: string;
  isValue: boolean;
  kind: ControlClass | null;
  gearName: string;
  /** Where its control stands among those of the other gear. */
  place: number;
  like: RoleSource | null;
}

function wishFor(role: string, isValue: boolean, others: readonly GearList[]): Wish {
  for (const list of others) {
    const like = list.roles.find((candidate) => candidate.role === role);
    if (!like) continue;
    const all = inputsOf(list).flatMap((port) => port.controls);
    const control = controlOf(list, like.source);
    return {
      role,
      isValue,
      kind: classOf(like, !isValue),
      gearName: list.name,
      place: control ? all.indexOf(control) : 10_000,
      like,
    };
  }
  return { role, isValue, kind: null, gearName: '', place: 20_000, like: null };
}

function freeControls(gear: GearList): Free[] {
  return inputsOf(gear)
    .filter((port) => port.on && port.doubleOf === null)
    .flatMap((port) =>
      port.controls
        .filter((control) => !gear.roles.some((role) => sameSource(role.source, control.source)))
        .filter((control) => !doesSomething(port, control.source))
        .map((control) => ({ control, kind: classOf(control, isSwitchByName(control)) })),
    );
}

/** Controllers that layers hear from a keyboard: modulation, expression, the pedals. */
const PLAYED = new Set([1, 11, 64, 65, 66, 67]);

/** Whether a control does something as it is: recalls or counts by programs, or plays with the keys. */
function doesSomething(port: InputPort, source: ControlSource): boolean {
  switch (source.kind) {
    case 'program':
    case 'count':
      return port.programs.kind !== 'off';
    case 'wheel':
    case 'pressure':
      return port.plays;
    case 'controller':
      return port.plays && PLAYED.has(source.number);
    default:
      return false;
  }
}

/** A controller of a device that is a switch says so by its button; knobs are momentary only by default. */
const isSwitchByName = ({ source, name, button }: DeviceControl): boolean =>
  source.kind === 'controller' &&
  source.coding === 'absolute' &&
  (button === 'latching' || /pedal|switch|button|pad|foot/i.test(name));

function fitOf(kind: ControlClass, { isValue, kind: wanted }: Wish): number {
  if (isValue !== isContinuous(kind)) return 0;
  if (kind === wanted) return 3;
  // A switch that latches, a key or a pad can be hit too; of things that move, encoders stand in for knobs.
  return kind === 'momentary' || kind === 'knob' ? 2 : 1;
}
