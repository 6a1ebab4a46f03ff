import { actionInWords, movesValue } from '@rackle/core/controls';
import { actionRange } from '@rackle/core/show';
import type { ControlState } from '../../protocol';
import { unitText } from '../../ui/format';

const MOST_VALUES = 6;

/** What each control does now: values with their bars, then what the switches would do. */
export function StageControls({ controls }: { controls: readonly ControlState[] }) {
  const active = controls.filter((control) => control.does.length > 0);
  const values = unique(active.filter((control) => control.does.some((does) => does.share !== null))).slice(
    0,
    MOST_VALUES,
  );
  const switches = unique(
    active.filter((control) => control.does.every((does) => does.share === null && !movesValue(does.action))),
  );
  if (active.length === 0) return null;
  return (
    <div
      className="flex flex-wrap items-center gap-x-6 gap-y-1 border-t border-rule py-1.5"
      data-testid="stage-controls"
    >
      {values.map((control) => {
        const does = control.does.find((candidate) => candidate.share !== null)!;
        const waits = control.stands !== null && Math.abs(control.stands - does.share!) > 0.012;
        return (
          <span key={control.key} className="flex items-center gap-2 whitespace-nowrap text-base">
            <b className="named text-xl">{control.role}</b>
            <span className="text-ink2">
              {actionInWords(does.action, { layer: () => does.layer, effect: () => does.effect })}
            </span>
            <span className="relative h-2.5 w-20 bg-ground2">
              <span
                className={`absolute inset-y-0 left-0 ${control.isMoving && !waits ? 'bg-live' : 'bg-ink'}`}
                style={{ width: `${does.share! * 100}%` }}
              />
              {waits && (
                <span className="absolute -inset-y-1 w-0.5 bg-ink" style={{ left: `${control.stands! * 100}%` }} />
              )}
            </span>
            <span className="mono">{unitText(does.value!, actionRange(does.action, does.effect)?.unit ?? '')}</span>
          </span>
        );
      })}
      {switches.length > 0 && (
        <span className="flex min-w-0 flex-wrap gap-x-3 text-base text-ink2">
          {switches.map((control) => (
            <SwitchWord key={control.key} control={control} />
          ))}
        </span>
      )}
    </div>
  );
}

/** A switch by its role; inverted while what it turns over is on. */
function SwitchWord({ control: { role, does } }: { control: ControlState }) {
  const isOn = does.some(({ on }) => on === true);
  return (
    <span className={isOn ? 'bg-ink px-1.5 font-bold text-ground' : undefined} data-on={isOn}>
      {role}
      {isOn && <span className="sr-only"> (on)</span>}
    </span>
  );
}

/** Of several controls of one role the one that was moved last. */
function unique(controls: readonly ControlState[]): ControlState[] {
  const byRole = new Map<string, ControlState>();
  for (const control of controls) if (!byRole.has(control.role) || control.isMoving) byRole.set(control.role, control);
  return [...byRole.values()];
}
