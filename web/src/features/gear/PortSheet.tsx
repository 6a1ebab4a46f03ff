import { FormProvider } from 'react-hook-form';
import {
  InputPort,
  OutputPort,
  withPort,
  withRenamedPort,
  withoutPort,
  type GearList,
  type GearPort,
} from '@rackle/core/show';
import { useApp, useEdit } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { FormRow } from '../../ui/form/fields';
import { useSavedForm } from '../../ui/form/useSavedForm';
import { Sheet } from '../../ui/Sheet';
import { InputRows } from './InputRows';
import { OutputRows } from './OutputRows';
import { DeviceRows, PanelRows } from './portRows';

interface Props {
  gear: GearList;
  port: GearPort;
  onClose: () => void;
  onRenamed: (alias: string) => void;
}

/** What a change of a field is called in the history. */
const CHANGED: Partial<Record<keyof InputPort | keyof OutputPort, string>> = {
  device: 'change the device',
  on: 'switch',
  plays: 'change what its keys do',
  playsOn: 'change the channels that play',
  keyShift: 'shift',
  channels: 'change the channels',
  programs: 'change what programs do',
  buttons: 'describe the buttons',
  reversedPedals: 'turn a pedal round',
  ignoredPedals: 'ignore a pedal',
  pedalsFor: 'lend the pedals',
  doubleOf: 'mark a double',
  perNote: 'change the channels of notes',
  sendsClock: 'change the clock',
  clockPulses: 'change the clock',
  clockAtLoop: 'change the clock',
  offsetMs: 'move the timeline',
  allowsSysex: 'change the permission',
  programsFrom: 'change how its panel counts',
  middleC: 'change how its panel names keys',
  channelNames: 'name a channel',
};

/** Everything about one port of the gear list. */
export function PortSheet({ gear, port, onClose, onRenamed }: Props) {
  const edit = useEdit();
  return (
    <Sheet
      open
      title={port.alias}
      about={
        port.direction === 'in'
          ? 'An input: a keyboard, pedal, pad or player.'
          : 'An output: gear or a program that is sent to.'
      }
      onClose={onClose}
    >
      <div className="grid grid-cols-[10rem_1fr] items-baseline gap-x-4 gap-y-2">
        <NameRow gear={gear} port={port} onRenamed={onRenamed} />
        {port.direction === 'in' ? <InputForm gear={gear} port={port} /> : <OutputForm gear={gear} port={port} />}
      </div>
      <p className="mt-5 flex gap-2">
        <Button
          onClick={() => {
            edit({ label: `take ${port.alias} out`, gearLists: [withoutPort(gear, port.alias, port.direction)] });
            onClose();
          }}
        >
          Take it out of the gear list
        </Button>
        <Button look="filled" className="ml-auto" onClick={onClose}>
          Done
        </Button>
      </p>
    </Sheet>
  );
}

/** The name by which songs call a port: changing it changes them. */
function NameRow({ gear, port, onRenamed }: Omit<Props, 'onClose'>) {
  const edit = useEdit();
  const { songs, setlists, instruments, gearLists } = useApp(({ show }) => show.working);
  const rename = (alias: GearPort['alias']): void => {
    const named = withRenamedPort(gear.id, port.direction, port.alias, alias, {
      songs: Object.values(songs),
      setlists: Object.values(setlists),
      instruments: Object.values(instruments),
      gearLists: Object.values(gearLists),
    });
    edit({
      label: `change the name of ${port.alias}`,
      gearLists: [withPort(gear, port.alias, port.direction, (current) => ({ ...current, alias }))],
      ...named,
    });
    onRenamed(alias);
  };
  const taken = (alias: string): string | null => {
    if (alias.length > 120) return 'at most 120 characters';
    return gear.ports.some(
      (other) => other !== port && other.direction === port.direction && other.alias === alias.trim(),
    )
      ? 'another port has this name'
      : null;
  };
  return (
    <FormRow name="the songs call it">
      <EditableText
        label="name of the port"
        value={port.alias}
        check={taken}
        className="named text-lg"
        width="14rem"
        onChange={rename}
      />
    </FormRow>
  );
}

/** Saves a port as its form has it. */
function useSavePort(
  gear: GearList,
  { alias, direction }: GearPort,
): (next: GearPort, changed: keyof typeof CHANGED) => void {
  const edit = useEdit();
  return (next, changed) => {
    const label = CHANGED[changed] ?? 'change a setting';
    edit({
      label: `${label} of ${alias}`,
      mergeKey: `${label} ${alias}`,
      gearLists: [withPort(gear, alias, direction, () => next)],
    });
  };
}

function InputForm({ gear, port }: { gear: GearList; port: InputPort }) {
  const form = useSavedForm(InputPort, port, useSavePort(gear, port));
  return (
    <FormProvider {...form}>
      <DeviceRows port={port} />
      <InputRows gear={gear} port={port} control={form.control} />
      <PanelRows />
    </FormProvider>
  );
}

function OutputForm({ gear, port }: { gear: GearList; port: OutputPort }) {
  const form = useSavedForm(OutputPort, port, useSavePort(gear, port));
  return (
    <FormProvider {...form}>
      <DeviceRows port={port} />
      <OutputRows alias={port.alias} control={form.control} />
      <PanelRows />
    </FormProvider>
  );
}
