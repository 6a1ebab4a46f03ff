import { actionRange } from '@rackle/core/show';
import type { ControlState } from '../../protocol';
import { useApp, useHost } from '../../state/hooks';
import { Fader } from '../../ui/Fader';
import { unitText } from '../../ui/format';

/** Of what a role does here the value that is drawn; null: it moves none. */
export const valueOf = (control: ControlState | undefined): ControlState['does'][number] | null =>
  control?.does.find(({ share }) => share !== null) ?? null;

/** A value with its unit, as a role moves it. */
export const valueText = (does: ControlState['does'][number] | null): string =>
  does?.value == null ? '' : unitText(does.value, actionRange(does.action, does.effect)?.unit ?? '');

/** What a role moves, to be taken hold of: it does what the control of tonight's gear does, or would do if there were one. */
export function RoleFader({
  role,
  control,
  upright = false,
  className = '',
}: {
  role: string;
  control: ControlState | undefined;
  upright?: boolean;
  className?: string;
}) {
  const host = useHost();
  const locked = useApp(({ ui }) => ui.locked);
  const does = valueOf(control);
  const share = does?.share ?? null;
  const stands = control?.stands ?? null;
  const waits = share !== null && stands !== null && Math.abs(stands - share) > 0.012;
  return (
    <Fader
      label={`value of ${role}`}
      share={share}
      text={valueText(does)}
      waitsAt={waits ? stands : null}
      isMoving={control?.isMoving === true && !waits}
      mustHold={locked}
      upright={upright}
      className={className}
      onMove={(to) => host.post({ type: 'role', role, share: to })}
    />
  );
}
