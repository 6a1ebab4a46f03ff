import { Link } from 'react-router';
import { computerKeyName } from '@rackle/core/controls';
import { useAct, useApp, useGear } from '../state/hooks';
import { SHORTCUT_OF } from '../state/shortcutKeys';
import { closed, toggled } from '../state/uiSlice';
import { Sheet } from '../ui/Sheet';
import { Toggle } from '../ui/Toggle';
import { KEY_LINES, TOUCH_LINES } from './keys';

/** Every key, on a sheet. */
export function KeyHelp() {
  const open = useApp(({ ui }) => ui.keysOpen);
  const act = useAct();
  const gear = useGear();
  const letterKeys = useApp(({ ui }) => ui.letterKeys);
  const given =
    gear?.roles.flatMap(({ role, source }) =>
      source.kind === 'computerKey' ? [{ role: role as string, code: source.code }] : [],
    ) ?? [];
  const wheres = [...new Set(KEY_LINES.map((line) => line.where))];
  return (
    <Sheet open={open} title="Keys and touches" onClose={() => act(closed('keysOpen'))}>
      <p className="mb-3">
        <Toggle on={letterKeys} name="single letters are shortcuts" onClick={() => act(toggled('letterKeys'))} />
      </p>
      {given.length > 0 && (
        <section className="mb-3">
          <h3 className="text-ink2">given to roles tonight; these win over the page’s own</h3>
          <dl className="grid grid-cols-[11rem_1fr] gap-y-1">
            {given.map(({ role, code }) => [
              <dt key={`${code}k`} className="mono text-[13px]">
                {computerKeyName(code)}
              </dt>,
              <dd key={`${code}d`}>
                {role}
                {SHORTCUT_OF[code] ? `, not ${SHORTCUT_OF[code]}` : ''}
              </dd>,
            ])}
          </dl>
        </section>
      )}
      <p className="mb-3">
        In plain words, with pictures:{' '}
        <Link to="/guide" onClick={() => act(closed('keysOpen'))} className="font-bold underline decoration-dotted">
          the guide
        </Link>
      </p>
      {wheres.map((where) => (
        <section key={where} className="mb-3">
          <h3 className="text-ink2">{where}</h3>
          <dl className="grid grid-cols-[11rem_1fr] gap-y-1">
            {KEY_LINES.filter((line) => line.where === where).map((line) => [
              <dt key={`${line.keys}k`} className="mono text-[13px]">
                {line.keys}
              </dt>,
              <dd key={`${line.keys}d`}>{line.does}</dd>,
            ])}
          </dl>
        </section>
      ))}
      <section className="mb-3">
        <h3 className="text-ink2">with a finger</h3>
        <dl className="grid grid-cols-[11rem_1fr] gap-y-1">
          {TOUCH_LINES.map(([does, what]) => [
            <dt key={`${does}k`} className="text-[13px] leading-6">
              {does}
            </dt>,
            <dd key={`${does}d`}>{what}</dd>,
          ])}
        </dl>
      </section>
    </Sheet>
  );
}
