import { actionInWords, movesValue } from '@rackle/core/controls';
import type { ControlState } from '../../protocol';
import { useApp, useHost } from '../../state/hooks';
import { useHeldPress } from '../../ui/useHeldPress';
import { RoleFader, byRole, valueOf, valueText } from '../hands';

const MOST_VALUES = 6;

/** What each control does now, to be taken hold of: values with their bars, then what the switches would do. */
export function StageControls({ controls }: { controls: readonly ControlState[] }) {
  const active = [...byRole(controls.filter(({ does }) => does.length > 0)).values()];
  const values = active.filter((control) => valueOf(control) !== null).slice(0, MOST_VALUES);
  const switches = active.filter((control) =>
    control.does.every((does) => does.share === null && !movesValue(does.action)),
  );
  if (active.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-x-5 border-t border-rule py-0.5" data-testid="stage-controls">
      {values.map((control) => {
        const does = valueOf(control)!;
        return (
          <span key={control.key} className="flex items-center gap-2 whitespace-nowrap text-base">
            <b className="named text-xl">{control.role}</b>
            <span className="text-ink2 max-[1399px]:hidden">
              {actionInWords(does.action, { layer: () => does.layer, effect: () => does.effect })}
            </span>
            <RoleFader role={control.role} control={control} className="h-11 w-28" />
            <span className="mono pl-1">{valueText(does)}</span>
          </span>
        );
      })}
      {switches.length > 0 && (
        <span className="flex min-w-0 flex-wrap text-base text-ink2">
          {switches.map((control) => (
            <Switch key={control.key} control={control} />
          ))}
        </span>
      )}
    </div>
  );
}

/** A switch by its role, which does what it does when it is pressed; inverted while what it turns over is on. */
function Switch({ control: { role, does } }: { control: ControlState }) {
  const host = useHost();
  const locked = useApp(({ ui }) => ui.locked);
  const { isHolding, handlers } = useHeldPress(
    () => host.post({ type: 'role', role, share: null }),
    () => locked,
  );
  const turns = does.filter(({ on }) => on !== null);
  const isOn = turns.some(({ on }) => on);
  return (
    <button
      type="button"
      data-on={isOn}
      aria-pressed={turns.length > 0 ? isOn : undefined}
      title={locked ? 'hold it' : undefined}
      {...handlers}
      className={`min-h-11 touch-none select-none px-1.5 ${isHolding ? 'outline-2 outline-live' : ''} ${isOn ? 'bg-ink font-bold text-ground' : 'hover:text-ink'}`}
    >
      {role}
    </button>
  );
}
