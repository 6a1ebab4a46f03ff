import { useAct, useApp } from '../state/hooks';
import { closed } from '../state/uiSlice';
import { Sheet } from '../ui/Sheet';
import { KEY_LINES } from './keys';

export function KeyHelp() {
  const open = useApp(({ ui }) => ui.keysOpen);
  const act = useAct();
  const wheres = [...new Set(KEY_LINES.map((line) => line.where))];
  return (
    <Sheet open={open} title="Keys" onClose={() => act(closed('keysOpen'))}>
      {wheres.map((where) => (
        <section key={where} className="mb-3">
          <h3 className="text-ink2">{where}</h3>
          <dl className="grid grid-cols-[11rem_1fr] gap-y-1">
            {KEY_LINES.filter((line) => line.where === where).map((line) => [<dt key={`${line.keys}k`} className="mono text-[13px]">{line.keys}</dt>, <dd key={`${line.keys}d`}>{line.does}</dd>])}
          </dl>
        </section>
      ))}
    </Sheet>
  );
}
