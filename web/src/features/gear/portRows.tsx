import { useFormContext } from 'react-hook-form';
import type { GearPort } from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { CheckField, ChoiceField, Field, FormRow } from '../../ui/form/fields';

/** What inputs and outputs both have. */
type AnyPort = Pick<GearPort, 'device' | 'on' | 'programsFrom' | 'middleC' | 'channelNames'>;

const AS_SETLIST = 'as the setlist';

/** Which device it is tonight, and whether it is on. */
export function DeviceRows({ port: { device, direction } }: { port: GearPort }) {
  const { control } = useFormContext<AnyPort>();
  const ports = useApp(({ live }) => live.ports);
  const here = ports.filter((other) => other.direction === direction).map(({ name }) => name as GearPort['device']);
  return (
    <>
      <FormRow name="tonight it is">
        <ChoiceField
          control={control}
          name="device"
          label="device"
          items={[...new Set([device, ...here])].map((name) => ({ value: name, label: name }))}
        />
      </FormRow>
      <FormRow name="switched">
        <CheckField control={control} name="on" words="on" />
      </FormRow>
    </>
  );
}

/** How its own panel reads, and its channels' names. */
export function PanelRows() {
  const { control } = useFormContext<AnyPort>();
  return (
    <>
      <FormRow name="its panel reads">
        programs{' '}
        <ChoiceField
          control={control}
          name="programsFrom"
          label="programs on its panel"
          none={AS_SETLIST}
          items={[
            { value: 0, label: 'from 0' },
            { value: 1, label: 'from 1' },
          ]}
        />
        , middle C{' '}
        <ChoiceField
          control={control}
          name="middleC"
          label="middle C on its panel"
          none={AS_SETLIST}
          items={[
            { value: 'C3', label: 'C3' },
            { value: 'C4', label: 'C4' },
          ]}
        />
      </FormRow>
      <FormRow name="names of channels">
        <Field control={control} name="channelNames">
          {(names, onChange) => <ChannelNames names={names} onChange={onChange} />}
        </Field>
      </FormRow>
    </>
  );
}

type Names = AnyPort['channelNames'];

function ChannelNames({ names, onChange }: { names: Names; onChange: (names: Names) => void }) {
  const nameOne = (): void => {
    const free = Array.from({ length: 16 }, (_, i) => i + 1).find(
      (channel) => !names.some((entry) => entry.channel === channel),
    );
    if (free === undefined) return;
    const added = { channel: free, name: `channel ${free}` as Names[number]['name'] };
    onChange([...names, added].sort((a, b) => a.channel - b.channel));
  };
  return (
    <span className="flex flex-wrap gap-x-3">
      {names.map((entry) => (
        <span key={entry.channel} className="whitespace-nowrap">
          {entry.channel}{' '}
          <EditableText
            label={`name of channel ${entry.channel}`}
            value={entry.name}
            onChange={(name) => onChange(names.map((other) => (other === entry ? { ...other, name } : other)))}
          />
          <Button
            look="plain"
            aria-label={`forget the name of channel ${entry.channel}`}
            onClick={() => onChange(names.filter((other) => other !== entry))}
          >
            ×
          </Button>
        </span>
      ))}
      {names.length < 16 && (
        <Button look="plain" onClick={nameOne}>
          name one
        </Button>
      )}
    </span>
  );
}
