import {
  BUILT_INS,
  withKeptSound,
  type Instrument,
  type InstrumentId,
  type Layer,
  type PresetId,
} from '@rackle/core/show';
import { useNavigate } from 'react-router';
import { useApp } from '../../../state/hooks';
import { Button } from '../../../ui/Button';
import { Choice, type ChoiceGroup } from '../../../ui/Choice';
import { NumberField } from '../../../ui/NumberField';
import type { Signal } from './signal';

/** Longer lists are left to the Sounds page. */
const MOST_LISTED = 300;
const SAME = '-';

/** Which instrument and preset it sounds with; outboard, on which channel. */
export function SoundClause({ song, layer, known, outboard, setLayer, changeLayer }: Signal) {
  const stored = useApp(({ show }) => show.working.instruments);
  const navigate = useNavigate();
  const { sound } = layer;
  return (
    <>
      {known?.name ?? 'no instrument'},{' '}
      <Choice
        label="preset"
        value={soundKey(sound)}
        groups={soundGroups(stored, layer)}
        onChange={(key) => {
          changeLayer('change the sound', (of, id) => withKeptSound(of, id, soundOf(key), (one) => stored[one]));
        }}
      />{' '}
      <Button
        look="plain"
        className="not-pointer-coarse:min-h-0! text-[13px]"
        onClick={() => void navigate('/sounds', { state: { songId: song.id, layerId: layer.id } })}
      >
        find one
      </Button>
      {outboard && (
        <>
          {' '}
          on {outboard.port}, channel{' '}
          <NumberField
            label="channel"
            value={sound.channel ?? outboard.channel}
            min={1}
            max={16}
            className="mono"
            onChange={(channel) => setLayer('change the channel', { sound: { ...sound, channel } })}
          />
        </>
      )}
    </>
  );
}

/** The articulation that a blend plays it with. */
export function ArticulationClause({
  outboard,
  change,
  at,
  setBalance,
}: Signal & { outboard: NonNullable<Signal['outboard']> }) {
  return (
    <>
      here as{' '}
      <Choice<PresetId | typeof SAME>
        label="articulation"
        value={change?.articulation ?? SAME}
        items={[
          { value: SAME, label: 'in the patch' },
          ...outboard.names.slice(0, MOST_LISTED).map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(id) =>
          setBalance('change the articulation', { articulation: id === SAME ? undefined : id }, `articulation ${at}`)
        }
      />
    </>
  );
}

const soundKey = ({ instrumentId, presetId }: { instrumentId: string; presetId: string }): string =>
  `${instrumentId}|${presetId}`;

function soundOf(key: string): Pick<Layer['sound'], 'instrumentId' | 'presetId'> {
  const [instrumentId, presetId] = key.split('|');
  return { instrumentId: instrumentId as InstrumentId, presetId: presetId as PresetId };
}

/** Presets as choices, instrument by instrument. */
function soundGroups(stored: Readonly<Record<string, Instrument>>, { sound }: Layer): ChoiceGroup[] {
  const presets = (instrument: Instrument): readonly { id: string; name: string }[] =>
    instrument.kind === 'outboard' ? instrument.names : instrument.presets;
  const item = (instrumentId: string, { id, name }: { id: string; name: string }) => ({
    value: soundKey({ instrumentId, presetId: id }),
    label: name,
  });
  return [
    ...BUILT_INS.map((instrument) => ({
      name: `${instrument.name}: ${instrument.about}`,
      items: instrument.presets.map((preset) => item(instrument.id, preset)),
    })),
    ...Object.values(stored).map((instrument) => ({
      name: instrument.name,
      items: presets(instrument)
        .filter((preset, i) => i < MOST_LISTED || preset.id === sound.presetId)
        .map((preset) => item(instrument.id, preset)),
    })),
  ];
}
