import { LEVEL } from '@rackle/core/show';
import { useApp, useHost } from '../../state/hooks';
import { Fader } from '../../ui/Fader';
import { dbText } from '../../ui/format';

const TRAVEL_DB = LEVEL.high - LEVEL.low;

/** The level of a layer of the patch that plays, until the next recall. */
export function LevelFader({ layerId, name, className }: { layerId: string; name: string; className?: string }) {
  const host = useHost();
  const locked = useApp(({ ui }) => ui.locked);
  const levelDb = useApp(({ live }) => live.balance.layers.find((layer) => layer.layerId === layerId)?.levelDb ?? null);
  return (
    <Fader
      label={`level of ${name}`}
      share={levelDb === null ? null : (levelDb - LEVEL.low) / TRAVEL_DB}
      text={levelDb === null ? '' : dbText(levelDb)}
      mustHold={locked}
      upright
      className={className}
      onMove={(share) => host.post({ type: 'fader', layerId, levelDb: LEVEL.low + share * TRAVEL_DB })}
    />
  );
}
