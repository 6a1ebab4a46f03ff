import { keyName, parseKeyName } from '@rackle/core/midi';
import type { InstrumentId, Recording } from '@rackle/core/show';
import { useSetlist } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice, type ChoiceItem } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { NumberField } from '../../ui/NumberField';
import { dbText } from '../../ui/format';
import type { useAudition } from './useAudition';
import { Waveform } from './Waveform';

const PLAYS: readonly ChoiceItem<Recording['plays']>[] = [
  { value: 'whileHeld', label: 'while the key is held' },
  { value: 'oneShot', label: 'once through, whatever the key does' },
  { value: 'loop', label: 'round and round, until it is struck again' },
];
const STARTS: readonly ChoiceItem<Recording['starts']>[] = [
  { value: 'atOnce', label: 'at once' },
  { value: 'beat', label: 'with the next beat' },
  { value: 'bar', label: 'with the next bar' },
];
const seconds = (value: number): string => `${value.toFixed(2)} s`;

interface Props {
  recording: Recording;
  /** Songs that play it. */
  uses: readonly string[];
  audition: ReturnType<typeof useAudition>;
  instrumentId: InstrumentId;
  onChange: (next: Partial<Recording>, label: string) => void;
  onRemove: () => void;
}

/** One recording: its name, its line, and how it plays in a sentence. */
export function OneRecording(props: Props) {
  const { recording, onChange } = props;
  return (
    <section aria-label={recording.name} className="border-b border-rule py-3">
      <div className="flex items-center gap-3">
        <EditableText
          label="name of the recording"
          value={recording.name}
          className="named text-2xl"
          width="14em"
          onChange={(name) => onChange({ name }, 'rename a recording')}
        />
        <span className="text-[13px] text-ink2">
          {recording.fileName}, {seconds(recording.lengthSeconds)}
        </span>
        <RecordingTools {...props} />
      </div>
      <Waveform recording={recording} />
      <RecordingWords {...props} />
    </section>
  );
}

function RecordingTools({ recording, uses, audition, instrumentId, onRemove }: Props) {
  return (
    <span className="ml-auto flex">
      {audition && (
        <>
          <Button look="plain" onClick={() => audition.hear({ instrumentId, presetId: recording.id })}>
            hear it under the keys
          </Button>
          <Button look="plain" onClick={() => audition.keep({ instrumentId, presetId: recording.id })}>
            take it for {audition.layer.name}
          </Button>
        </>
      )}
      {uses.length === 0 && (
        <Button look="plain" aria-label={`remove ${recording.name}`} onClick={onRemove}>
          ×
        </Button>
      )}
    </span>
  );
}

function RecordingWords({ recording, uses, onChange }: Props) {
  const middleC = useSetlist()?.middleC ?? 'C4';
  const end = recording.endSeconds ?? recording.lengthSeconds;
  return (
    <p className="mt-1 leading-8">
      From{' '}
      <NumberField
        label={`start of ${recording.name}`}
        value={recording.startSeconds}
        min={0}
        max={Math.max(0, end - 0.01)}
        step={0.01}
        show={seconds}
        className="mono"
        onChange={(startSeconds) => onChange({ startSeconds }, 'trim a recording')}
      />{' '}
      to{' '}
      <NumberField
        label={`end of ${recording.name}`}
        value={end}
        min={recording.startSeconds + 0.01}
        max={recording.lengthSeconds}
        step={0.01}
        show={seconds}
        className="mono"
        onChange={(endSeconds) =>
          onChange({ endSeconds: endSeconds >= recording.lengthSeconds ? null : endSeconds }, 'trim a recording')
        }
      />
      ,{' '}
      <Choice
        label={`how ${recording.name} plays`}
        value={recording.plays}
        items={PLAYS}
        onChange={(plays) => onChange({ plays }, 'change how a recording plays')}
      />
      , it starts{' '}
      <Choice
        label={`when ${recording.name} starts`}
        value={recording.starts}
        items={STARTS}
        onChange={(starts) => onChange({ starts }, 'change when a recording starts')}
      />
      .{' '}
      <NumberField
        label={`root key of ${recording.name}`}
        value={recording.rootKey}
        min={0}
        max={127}
        show={(key) => keyName(key, middleC)}
        read={(text) => parseKeyName(text, middleC)}
        form="a key such as C4, or its number"
        className="mono"
        onChange={(rootKey) => onChange({ rootKey }, 'change the root key')}
      />{' '}
      plays it as it is,{' '}
      <Choice
        label={`other keys of ${recording.name}`}
        value={recording.followsKeys ? 'yes' : 'no'}
        items={[
          { value: 'yes', label: 'other keys higher and lower' },
          { value: 'no', label: 'and so does every other key' },
        ]}
        onChange={(value) => onChange({ followsKeys: value === 'yes' }, 'change what other keys do')}
      />{' '}
      ·{' '}
      <NumberField
        label={`level of ${recording.name}`}
        value={recording.levelDb}
        min={-60}
        max={6}
        step={0.5}
        show={dbText}
        onChange={(levelDb) => onChange({ levelDb }, 'change the level of a recording')}
      />
      {uses.length > 0 && <span className="text-[13px] text-ink2"> · played in {uses.join(', ')}</span>}
    </p>
  );
}
