import type { Layer } from '@rackle/core/show';
import { useGear } from '../../../state/hooks';
import { Choice } from '../../../ui/Choice';
import { dbText, panText } from '../../../ui/format';
import { BalanceField } from './BalanceField';
import type { Signal } from './signal';

/** Level, pan, and where they go: an output here, controllers outboard. */
export function LevelClause(signal: Signal) {
  return (
    <>
      <BalanceField signal={signal} label="level" name="levelDb" min={-60} max={6} step={0.5} show={dbText} />,{' '}
      <BalanceField signal={signal} label="pan" name="pan" min={-100} max={100} show={panText} /> ·{' '}
      {signal.inside ? <OutputChoice {...signal} /> : <LevelByControllers {...signal} />}
    </>
  );
}

function LevelByControllers({ layer, setLayer }: Signal) {
  return (
    <Choice
      label="level by controllers"
      value={layer.sendsLevel ? 'yes' : 'no'}
      items={[
        { value: 'no', label: 'level and pan as they are there' },
        { value: 'yes', label: 'level and pan sent as controllers 7 and 10' },
      ]}
      onChange={(value) => setLayer('change how the level is sent', { sendsLevel: value === 'yes' })}
    />
  );
}

function OutputChoice({ layer, setLayer }: Signal) {
  const gear = useGear();
  const outputs = gear?.sound.outputs.filter(({ hidden }) => !hidden).map(({ name }) => name) ?? [
    'Main' as Layer['output'],
  ];
  return (
    <Choice
      label="output"
      value={layer.output}
      items={[...new Set([...outputs, layer.output])].map((name) => ({ value: name, label: name }))}
      onChange={(output) => setLayer('change the output', { output })}
    />
  );
}
