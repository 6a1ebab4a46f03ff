import type { ProgramLine, RecallTarget } from '@rackle/core/show';
import { useGear } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';

/** Where the chosen number counts from. */
export function ChosenLine({
  target,
  line,
  songNumber,
  onLine,
  onSongNumber,
  onRemove,
}: {
  target: RecallTarget;
  line: ProgramLine | null;
  songNumber: ProgramLine | null;
  onLine: (next: Partial<ProgramLine>) => void;
  onSongNumber: () => void;
  onRemove: () => void;
}) {
  const gear = useGear();
  const inputs = gear?.ports.filter(({ direction }) => direction === 'in').map(({ alias }) => alias) ?? [];
  return (
    <p className="mt-2 border-t border-rule pt-2 leading-7">
      {line && (
        <>
          It counts from{' '}
          <Choice
            label="port of the number"
            value={line.port ?? '-'}
            items={[
              { value: '-', label: 'every port that is listened to' },
              ...inputs.map((alias) => ({ value: alias, label: alias })),
            ]}
            onChange={(port) => onLine({ port: port === '-' ? null : port })}
          />
          , on{' '}
          <Choice
            label="channel of the number"
            value={String(line.channel ?? 0)}
            items={[
              { value: '0', label: 'every channel' },
              ...Array.from({ length: 16 }, (_, i) => ({ value: String(i + 1), label: `channel ${i + 1}` })),
            ]}
            onChange={(channel) => onLine({ channel: channel === '0' ? null : Number(channel) })}
          />
          .{' '}
          <Button look="plain" onClick={onRemove}>
            take the number away
          </Button>
        </>
      )}
      {target.patchId !== null && !songNumber && (
        <Button look="plain" onClick={onSongNumber}>
          give the song a number of its own
        </Button>
      )}
    </p>
  );
}
