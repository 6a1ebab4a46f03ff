import { effectChanges, withBlendEffects, withEffectChanges, withLayerEffects } from '@rackle/core/show';
import { EffectSeries } from '../effects';
import { PlayKeys } from './PlayKeys';
import { KeysClause } from './signal/KeysClause';
import { LayerCommands } from './signal/LayerCommands';
import { LevelClause } from './signal/LevelClause';
import { LiveClause } from './signal/LiveClause';
import { PlayedTools } from './signal/PlayedTools';
import { RecallClause } from './signal/RecallClause';
import { SendsClause } from './signal/SendsClause';
import type { Signal } from './signal/signal';
import { SignalHead } from './signal/SignalHead';
import { ArticulationClause, SoundClause } from './signal/SoundClause';
import { useSignal, type SignalProps } from './signal/useSignal';
import { SoundParameters } from './SoundParameters';

/**
 * A layer's path as one readable line, edited in its place: keys → shift → sound → effects → sends → level → output.
 */
export function SignalLine(props: SignalProps) {
  const signal = useSignal(props);
  const { live, inside } = signal;
  return (
    <div>
      <SignalHead {...signal} />
      <p className="mt-2 text-[17px] leading-8">
        <Path {...signal} />
      </p>
      {!live && (
        <>
          <EndKeys {...signal} />
          <Sound {...signal} />
        </>
      )}
      {inside && <Effects {...signal} />}
      {!live && <PlayedTools {...signal} />}
      <RecallClause {...signal} />
      <LayerCommands {...signal} />
    </div>
  );
}

function Path(signal: Signal) {
  const { live, blend, outboard, inside } = signal;
  return (
    <>
      {live ? (
        <LiveClause live={live} setLayer={signal.setLayer} />
      ) : (
        <>
          <KeysClause {...signal} /> · <SoundClause {...signal} />
        </>
      )}
      {blend && outboard && (
        <>
          {' '}
          · <ArticulationClause {...signal} outboard={outboard} />
        </>
      )}
      {inside && (
        <>
          {' '}
          · <SendsClause {...signal} />
        </>
      )}{' '}
      · <LevelClause {...signal} />
    </>
  );
}

function EndKeys({ setZone }: Signal) {
  return (
    <p>
      <PlayKeys
        keys={2}
        onKeys={([a, b]) => setZone('play the ends of a zone', { lowKey: Math.min(a, b), highKey: Math.max(a, b) })}
      >
        play its end keys
      </PlayKeys>
    </p>
  );
}

function Sound({ part, blend, change, outboard, at, setBalance }: Signal) {
  return (
    <section aria-label="sound in this patch" className="mt-2 border-t border-rule pt-1">
      <SoundParameters
        part={part.parameters}
        blend={blend ? (change?.parameters ?? []) : null}
        outboard={outboard !== null}
        onChange={(label, parameters) =>
          setBalance(label, { parameters: blend && parameters.length === 0 ? undefined : parameters }, `${label} ${at}`)
        }
      />
    </section>
  );
}

function Effects({ song, layer, blend, change, patchId, at, setSong, changeLayer }: Signal) {
  const effects = withEffectChanges(layer.effects, change?.effects);
  return (
    <section aria-label="effects" className="mt-2 border-t border-rule pt-1">
      <EffectSeries
        effects={effects}
        differs={blend ? effectChanges(layer.effects, effects) : undefined}
        onChange={(next, label) => {
          const mergeKey = `${label} ${at}`;
          if (blend) setSong(label, withBlendEffects(song, patchId, blend.id, layer.id, next), mergeKey);
          else changeLayer(label, (of, id) => withLayerEffects(of, id, next), mergeKey);
        }}
      />
    </section>
  );
}
