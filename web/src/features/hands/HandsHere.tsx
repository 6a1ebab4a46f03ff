import { useApp, useAwaitsPlace } from '../../state/hooks';
import { byRole } from './byRole';
import { RoleFader, valueOf, valueText } from './RoleFader';

/** What the roles move in the patch that plays, to be taken hold of beside what it moves. */
export function HandsHere() {
  const controls = useApp(({ live }) => live.controls.controls);
  const values = [...byRole(controls).values()].filter((control) => valueOf(control) !== null);
  const isAwaited = useAwaitsPlace();
  // Their room before they are known: nothing under them moves.
  if (isAwaited) return <p className="h-11" />;
  if (values.length === 0) return null;
  return (
    <p role="group" aria-label="what you use here" className="flex flex-wrap items-center gap-x-5 text-[13px]">
      {values.map((control) => (
        <span key={control.role} className="flex items-center gap-2 whitespace-nowrap">
          <b dir="auto" className="named text-base">
            {control.role}
          </b>
          <RoleFader role={control.role} control={control} className="h-11 w-24" />
          <span className="mono w-16">{valueText(valueOf(control))}</span>
        </span>
      ))}
    </p>
  );
}
