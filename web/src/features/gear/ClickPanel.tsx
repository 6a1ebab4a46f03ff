import type { Click, GearList } from '@rackle/core/show';
import { useEdit, useSetlist } from '../../state/hooks';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { Toggle } from '../../ui/Toggle';
import { keyName, parseKeyName } from '@rackle/core/midi';

/** Where the click of the timeline sounds, and whether it does. */
export function ClickPanel({ gear }: { gear: GearList }) {
  const edit = useEdit();
  const { click } = gear;
  const { to } = click;
  const change = (label: string, next: Partial<Click>): void =>
    edit({ label, mergeKey: label, gearLists: [{ ...gear, click: { ...click, ...next } }] });
  const outputs = gear.sound.outputs.map(({ name }) => ({ value: `own ${name}`, label: name }));
  const ports = gear.ports.flatMap((port) =>
    port.direction === 'out' ? [{ value: `port ${port.alias}`, label: port.alias }] : [],
  );
  return (
    <section aria-label="click" className="mt-5">
      <h2 className="text-[13px] font-bold text-ink2">click</h2>
      <p className="mt-1 flex flex-wrap items-center gap-x-2 leading-6">
        <Toggle
          on={click.on}
          name="click with the timeline"
          title="every beat while it plays; a count-in is always heard"
          onClick={() => change(click.on ? 'switch the click off' : 'switch the click on', { on: !click.on })}
        />
      </p>
      <p className="mt-1 leading-6">
        through{' '}
        <Choice
          label="where the click sounds"
          value={to.kind === 'own' ? `own ${to.output}` : `port ${to.port}`}
          unchosen={to.kind === 'own' ? to.output : to.port}
          groups={[
            { name: 'Rackle’s own, through', items: outputs },
            { name: 'notes to', items: ports },
          ]}
          onChange={(chosen) => {
            const name = chosen.slice(chosen.indexOf(' ') + 1);
            change('lead the click', {
              to: (chosen.startsWith('own ')
                ? { kind: 'own', output: name, levelDb: to.kind === 'own' ? to.levelDb : -12 }
                : { ...(to.kind === 'port' ? to : FIRST_PORT), port: name }) as Click['to'],
            });
          }}
        />
        {to.kind === 'own' ? (
          <>
            {' '}
            at{' '}
            <NumberField
              label="level of the click"
              value={to.levelDb}
              min={-60}
              max={6}
              unit=" dB"
              className="mono"
              onChange={(levelDb) => change('change the click', { to: { ...to, levelDb } })}
            />
          </>
        ) : (
          <PortClick to={to} onChange={(next) => change('change the click', { to: next })} />
        )}
        ,{' '}
        <NumberField
          label="how far the click is behind the beat"
          value={click.offsetMs}
          min={-100}
          max={100}
          unit=" ms"
          className="mono"
          onChange={(offsetMs) => change('move the click', { offsetMs })}
        />{' '}
        behind the beat
      </p>
    </section>
  );
}

type PortTarget = Extract<Click['to'], { kind: 'port' }>;
const FIRST_PORT = { kind: 'port', channel: 10, accentKey: 76, key: 77 } as const;

function PortClick({ to, onChange }: { to: PortTarget; onChange: (to: PortTarget) => void }) {
  const style = useSetlist()?.middleC ?? 'C4';
  const keyField = (label: string, value: number, change: (key: number) => void) => (
    <NumberField
      label={label}
      value={value}
      min={0}
      max={127}
      show={(key) => keyName(key, style)}
      read={(text) => parseKeyName(text, style)}
      form="a key like C3"
      className="mono"
      onChange={change}
    />
  );
  return (
    <>
      , channel{' '}
      <NumberField
        label="channel of the click"
        value={to.channel}
        min={1}
        max={16}
        className="mono"
        onChange={(channel) => onChange({ ...to, channel })}
      />
      , {keyField('key of the first beat', to.accentKey, (accentKey) => onChange({ ...to, accentKey }))} and{' '}
      {keyField('key of the other beats', to.key, (key) => onChange({ ...to, key }))}
    </>
  );
}
