import { CountedSteps, type OutboardInstrument, type StepMessage } from '@rackle/core/show';
import { useApp, useHost, useEdit } from '../../state/hooks';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';

const FIRST_STEPS: CountedSteps = {
  next: { kind: 'controller', number: 96, value: 127 },
  previous: { kind: 'controller', number: 97, value: 127 },
};

/** Outboard instruments behind an output: channel, switching time, and how their presets are chosen. */
export function InstrumentsOfPort({ alias }: { alias: string }) {
  const instruments = Object.values(useApp(({ show }) => show.working.instruments)).filter(
    (instrument) => instrument.kind === 'outboard' && instrument.port === alias,
  ) as OutboardInstrument[];
  return (
    <>
      {instruments.map((instrument) => (
        <OneInstrument key={instrument.id} instrument={instrument} />
      ))}
      {instruments.length === 0 && <span className="text-ink2">none yet</span>}
    </>
  );
}

function OneInstrument({ instrument }: { instrument: OutboardInstrument }) {
  const edit = useEdit();
  const host = useHost();
  const change = (label: string, next: Partial<OutboardInstrument>): void =>
    edit({
      label: `${label} of ${instrument.name}`,
      mergeKey: `${label} ${instrument.id}`,
      instruments: [{ ...instrument, ...next }],
    });
  const { counted } = instrument;
  return (
    <span className="block leading-7">
      <b>{instrument.name}</b>, channel{' '}
      <NumberField
        label={`channel of ${instrument.name}`}
        value={instrument.channel}
        min={1}
        max={16}
        className="mono"
        onChange={(channel) => change('change the channel', { channel })}
      />
      , takes{' '}
      <NumberField
        label={`switching time of ${instrument.name}`}
        value={instrument.switchMs}
        min={0}
        max={10_000}
        step={10}
        unit=" ms"
        className="mono"
        onChange={(switchMs) => change('change the switching time', { switchMs })}
      />{' '}
      to switch; its presets are chosen{' '}
      <Choice
        label={`how presets of ${instrument.name} are chosen`}
        value={counted ? 'counted' : 'numbers'}
        items={[
          { value: 'numbers', label: 'by bank and program' },
          { value: 'counted', label: 'by counting: it knows only next and previous' },
        ]}
        onChange={(kind) =>
          change('change how presets are chosen', { counted: kind === 'counted' ? FIRST_STEPS : null })
        }
      />
      {counted && (
        <>
          , next is{' '}
          <StepEditor
            label="next"
            step={counted.next}
            onChange={(next) => change('change its step', { counted: { ...counted, next } })}
          />
          , previous is{' '}
          <StepEditor
            label="previous"
            step={counted.previous}
            onChange={(previous) => change('change its step', { counted: { ...counted, previous } })}
          />
          . It stands at{' '}
          <Choice
            label={`where ${instrument.name} stands`}
            value="-"
            items={[
              { value: '-', label: 'set the count right …' },
              ...instrument.names
                .slice(0, 512)
                .map((name, i) => ({ value: String(i), label: `${i + 1}. ${name.name}` })),
            ]}
            onChange={(count) => {
              if (count !== '-') host.post({ type: 'setCount', instrumentId: instrument.id, count: Number(count) });
            }}
          />
        </>
      )}
    </span>
  );
}

function StepEditor({
  label,
  step,
  onChange,
}: {
  label: string;
  step: StepMessage;
  onChange: (step: StepMessage) => void;
}) {
  return (
    <>
      <Choice
        label={`message for ${label}`}
        value={step.kind}
        items={[
          { value: 'controller', label: 'controller' },
          { value: 'program', label: 'program (on the wire)' },
          { value: 'note', label: 'note' },
        ]}
        onChange={(kind) =>
          onChange(
            kind === 'controller'
              ? { kind, number: Math.max(1, Math.min(119, step.number)), value: 127 }
              : { kind: kind as 'program' | 'note', number: step.number },
          )
        }
      />{' '}
      <NumberField
        label={`number for ${label}`}
        value={step.number}
        min={step.kind === 'controller' ? 1 : 0}
        max={step.kind === 'controller' ? 119 : 127}
        className="mono"
        onChange={(number) => onChange({ ...step, number })}
      />
      {step.kind === 'controller' && (
        <>
          {' '}
          ={' '}
          <NumberField
            label={`value for ${label}`}
            value={step.value}
            min={0}
            max={127}
            className="mono"
            onChange={(value) => onChange({ ...step, value })}
          />
        </>
      )}
    </>
  );
}
