import { withPort, type GearList, type RoleSource } from '@rackle/core/show';
import { useEdit } from '../../state/hooks';
import { Button } from '../../ui/Button';

/** Some senders do not send a number twice in a row: what works with them. */
export function ProgramAdvice({ source, gear, onLearn }: { source: RoleSource; gear: GearList; onLearn: () => void }) {
  const edit = useEdit();
  const { source: control } = source;
  if (control.kind !== 'program') return null;
  const count = (direction: 'up' | 'down'): void => {
    const counting = withPort(gear, control.port, 'in', (port) =>
      port.direction === 'in'
        ? { ...port, programs: { kind: 'counter', channels: null, lowest: 0, highest: 127, guardMs: 120 } }
        : port,
    );
    edit({
      label: `let ${control.port} count`,
      gearLists: [
        {
          ...counting,
          roles: counting.roles.map((entry) =>
            entry.role === source.role && entry.source.kind === 'program' && entry.source.port === control.port
              ? { ...entry, source: { kind: 'count', port: control.port, channel: control.channel, direction } }
              : entry,
          ),
        },
      ],
    });
  };
  return (
    <span className="block text-[13px] leading-5 text-ink2">
      Does it stay silent when it is pressed twice? Then{' '}
      <Button look="plain" onClick={onLearn}>
        put a second pedal on the role
      </Button>{' '}
      and step on them in turn, or let the direction of its numbers count:{' '}
      <Button look="plain" onClick={() => count('up')}>
        a higher number plays it
      </Button>
      <Button look="plain" onClick={() => count('down')}>
        a lower one
      </Button>
    </span>
  );
}
